import { z } from 'zod';
import { amount, component, condition, figure, truth } from '../component';
import { keptInATick, TICK, towards } from '../decay';

/** What drives the machine along: ready after its self-test, moving while it is allowed to and told to, rolling on a slope. */
export const traction = component({
  kind: 'traction',
  says: 'The drive: it tests itself, is ready, and moves the machine',
  parameters: z.strictObject({
    /** It tests itself while this holds, and is ready after so many seconds; without it, it always is. */
    readyWhen: condition.optional(),
    /** Or it is started by this, and stays so until it is switched off. */
    startedWhen: condition.optional(),
    offWhen: condition.optional(),
    seconds: amount('time').default(0),
    allowedWhen: condition.optional(),
    movesWhen: condition.optional(),
    forwardWhen: condition.optional(),
    backWhen: condition.optional(),
    /** The drive lets go while this holds, and takes hold again some time after. */
    droppedWhen: condition.optional(),
    takeUpSeconds: amount('time').default(0),
    /** By itself, where nothing holds it. */
    rollsWhen: condition.optional(),
  }),
  states: () => ({
    started: truth(),
    selfTest: truth(),
    ready: truth(),
    moving: truth(),
    forward: truth(),
    back: truth(),
    tested: figure('time', 0, [0, 3600]),
    letGo: figure('time', 3600, [0, 3600]),
  }),
  found: { ready: { started: true, tested: 3600, selfTest: false } },
  tick: (given) => (own) => {
    const off = own.holds('offWhen');
    const started = !off && (own.truth('started') || own.holds('startedWhen'));
    own.set('started', started);
    const powered =
      given.startedWhen === undefined
        ? !off && (given.readyWhen === undefined || own.holds('readyWhen'))
        : started;
    const tested = powered ? Math.min(3600, own.figure('tested') + TICK) : 0;
    const ready = powered && tested >= given.seconds;
    own.set('tested', tested);
    own.set('selfTest', powered && !ready);
    own.set('ready', ready);
    const letGo = own.holds('droppedWhen') ? 0 : Math.min(3600, own.figure('letGo') + TICK);
    own.set('letGo', letGo);
    const drives =
      ready &&
      (given.allowedWhen === undefined || own.holds('allowedWhen')) &&
      letGo >= given.takeUpSeconds &&
      letGo > 0;
    const forward = drives && own.holds('forwardWhen');
    const back = drives && own.holds('backWhen') && !forward;
    own.set('forward', forward);
    own.set('back', back);
    own.set('moving', forward || back || (drives && own.holds('movesWhen')) || own.holds('rollsWhen'));
  },
});

/** The service brake, with the pressure of its accumulator where it has one. */
export const serviceBrake = component({
  kind: 'service-brake',
  says: 'The brake that is worked to slow down; its pressure builds up while the engine runs',
  parameters: z.strictObject({
    pressedWhen: condition,
    /** Its pressure builds up while this holds. */
    chargedWhen: condition.optional(),
    chargeSeconds: amount('time').default(20),
    sinksWhen: condition.optional(),
  }),
  states: () => ({ pressed: truth(), pressure: figure('pressure', 0, [0, 160]) }),
  looksAt: ['engine.running'],
  tick: (given) => {
    const charging = keptInATick(given.chargeSeconds / 3);
    const sinking = keptInATick(20);
    return (own) => {
      own.set('pressed', own.holds('pressedWhen'));
      const charged =
        given.chargedWhen === undefined ? own.other('engine.running') === true : own.holds('chargedWhen');
      const before = own.figure('pressure');
      if (own.holds('sinksWhen')) own.set('pressure', towards(before, 0, sinking));
      else if (charged) own.set('pressure', towards(before, 160, charging));
    };
  },
});

/** Air brakes: the tanks fill while the engine runs, leak when something leaks, and a buzzer sounds below a pressure. */
export const airBrakes = component({
  kind: 'air-brakes',
  says: 'Compressed air for the brakes, with its gauge and buzzer',
  parameters: z.strictObject({
    fillSeconds: amount('time'),
    fullBar: amount('pressure').default(8.5),
    buzzerBelow: amount('pressure'),
    leaksWhen: condition.optional(),
    leakBarPerMinute: z.number().min(0).max(20).default(0.4),
  }),
  states: ({ fullBar }) => ({ bar: figure('pressure', 0, [0, fullBar]), buzzer: truth() }),
  looksAt: ['engine.running', 'ignition.on', 'key.on'],
  tick: (given) => (own) => {
    const running = own.other('engine.running') === true;
    const filled = running ? (given.fullBar / given.fillSeconds) * TICK : 0;
    const lost = own.holds('leaksWhen') ? (given.leakBarPerMinute / 60) * TICK : 0;
    const bar = Math.min(given.fullBar, Math.max(0, own.figure('bar') + filled - lost));
    own.set('bar', bar);
    const powered = running || own.other('ignition.on') === true || own.other('key.on') === true;
    own.set('buzzer', powered && bar < given.buzzerBelow);
  },
});

/** Steering: where the wheel stands, and the pressure left in it after the engine has stopped, which turning it relieves. */
export const steering = component({
  kind: 'steering',
  says: 'The steering, with pressure left in it until the wheel has been turned',
  parameters: z.strictObject({
    leftWhen: condition.optional(),
    rightWhen: condition.optional(),
    /** Turns from stop to stop that relieve it after the engine has stopped; 0 for none. */
    turnsToRelieve: z.number().int().min(0).max(20).default(0),
    lockDegrees: amount('angle').default(40),
    lockSeconds: amount('time').default(3),
    heldWhen: condition.optional(),
  }),
  states: ({ lockDegrees, turnsToRelieve }) => ({
    angle: figure('angle', 0, [-lockDegrees, lockDegrees]),
    residual: figure(null, 0, [0, Math.max(1, turnsToRelieve)]),
    side: figure(null, 0, [-1, 1]),
  }),
  looksAt: ['engine.running'],
  tick: (given) => (own) => {
    const way = Number(own.holds('rightWhen')) - Number(own.holds('leftWhen'));
    const running = own.other('engine.running') === true;
    const step = (given.lockDegrees / given.lockSeconds) * TICK;
    if (way !== 0 && !own.holds('heldWhen')) {
      const angle = own.figure('angle') + way * step;
      own.set('angle', Math.min(given.lockDegrees, Math.max(-given.lockDegrees, angle)));
    }
    const turned = way !== 0 && way !== own.figure('side');
    if (way !== 0) own.set('side', way);
    if (running) own.set('residual', given.turnsToRelieve);
    else if (turned) own.set('residual', Math.max(0, own.figure('residual') - 1));
  },
});

/** The hydraulics: live while something drives the pump, with pressure left until the levers have been worked. */
export const hydraulics = component({
  kind: 'hydraulics',
  says: 'The hydraulics, with pressure left in them until the levers have been worked',
  parameters: z.strictObject({
    liveWhen: condition.optional(),
    lockedWhen: condition.optional(),
    /** The levers, for what relieves them. */
    workedWhen: condition.optional(),
    strokesToRelieve: z.number().int().min(0).max(20).default(0),
  }),
  states: ({ strokesToRelieve }) => ({
    live: truth(),
    lockout: truth(),
    residual: figure(null, 0, [0, Math.max(1, strokesToRelieve)]),
    worked: truth(),
  }),
  looksAt: ['engine.running'],
  tick: (given) => (own) => {
    const running =
      given.liveWhen === undefined ? own.other('engine.running') === true : own.holds('liveWhen');
    const locked = own.holds('lockedWhen');
    own.set('live', running && !locked);
    own.set('lockout', locked);
    const worked = own.holds('workedWhen');
    if (running) own.set('residual', given.strokesToRelieve);
    else if (worked && !own.truth('worked')) own.set('residual', Math.max(0, own.figure('residual') - 1));
    own.set('worked', worked);
  },
});

/** Something that goes up and down and may tilt: bucket, mast, deck, blade. */
export const attachment = component({
  kind: 'attachment',
  says: 'What is raised, lowered and tilted',
  parameters: z.strictObject({
    raisedWhen: condition.optional(),
    loweredWhen: condition.optional(),
    /** Let down by its own weight, also with nothing running. */
    droppedWhen: condition.optional(),
    sinksWhen: condition.optional(),
    tiltBackWhen: condition.optional(),
    tiltForwardWhen: condition.optional(),
    /** Nothing moves unless this holds; without it, the hydraulics must be live where there are any. */
    liveWhen: condition.optional(),
    raiseSeconds: amount('time'),
    dropSeconds: amount('time').default(3),
    sinkSeconds: amount('time').default(30),
    tiltSeconds: amount('time').default(4),
    lowest: amount('length').default(0),
    most: amount('length').default(1),
    start: amount('length').optional(),
    tiltBackDegrees: amount('angle').default(45),
    tiltForwardDegrees: amount('angle').default(45),
  }),
  states: ({ lowest, most, start, tiltBackDegrees, tiltForwardDegrees }) => ({
    height: figure('length', start ?? lowest, [lowest, most]),
    tilt: figure('angle', 0, [-tiltForwardDegrees, tiltBackDegrees]),
    moving: truth(),
  }),
  looksAt: ['hydraulics.live'],
  tick: (given) => (own) => {
    const pump = own.other('hydraulics.live');
    const live = given.liveWhen === undefined ? pump === null || pump === true : own.holds('liveWhen');
    const reach = given.most - given.lowest;
    const height = own.figure('height');
    const up = live && own.holds('raisedWhen') ? (reach / given.raiseSeconds) * TICK : 0;
    const down = live && own.holds('loweredWhen') ? (reach / given.raiseSeconds) * TICK : 0;
    const drop = own.holds('droppedWhen') ? (reach / given.dropSeconds) * TICK : 0;
    const sink = own.holds('sinksWhen') ? (reach / given.sinkSeconds) * TICK : 0;
    const next = settled(height + up - Math.max(down, drop, sink), given.lowest, given.most);
    const degrees = given.tiltBackDegrees + given.tiltForwardDegrees;
    const back = live && own.holds('tiltBackWhen') ? 1 : 0;
    const forward = live && own.holds('tiltForwardWhen') ? 1 : 0;
    const tilt = own.figure('tilt') + (back - forward) * (degrees / given.tiltSeconds) * TICK;
    const nextTilt = settled(tilt, -given.tiltForwardDegrees, given.tiltBackDegrees);
    own.set('moving', next !== height || nextTilt !== own.figure('tilt'));
    own.set('height', next);
    own.set('tilt', nextTilt);
  },
});

/** A figure held to its ends; what is within a hair of one has arrived. */
function settled(value: number, least: number, most: number): number {
  if (value <= least + 1e-9) return least;
  return value >= most - 1e-9 ? most : value;
}

/** A cutter, which spins on for a while once it is let go. */
export const cutter = component({
  kind: 'cutter',
  says: 'Blades, line or reel: engaged, and spinning until they have run down',
  parameters: z.strictObject({ engagedWhen: condition, rundownSeconds: amount('time') }),
  states: ({ rundownSeconds }) => ({
    engaged: truth(),
    spinning: truth(),
    left: figure('time', 0, [0, 3600]),
    /** How long it runs on: a failure may make it longer. */
    rundownSeconds: figure('time', rundownSeconds, [0, 600]),
  }),
  tick: () => (own) => {
    const engaged = own.holds('engagedWhen');
    const left = engaged ? own.figure('rundownSeconds') : Math.max(0, own.figure('left') - TICK);
    own.set('engaged', engaged);
    own.set('left', left);
    own.set('spinning', engaged || left > 0);
  },
});
