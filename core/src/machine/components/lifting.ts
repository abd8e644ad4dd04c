import { z } from 'zod';
import { amount, choice, component, condition, figure, truth } from '../component';
import { TICK } from '../decay';

/** Moves a figure by its speed while told to, up to its ends. */
function moved(value: number, way: number, perSecond: number, least: number, most: number): number {
  const next = value + way * perSecond * TICK;
  if (next <= least + 1e-9) return least;
  return next >= most - 1e-9 ? most : next;
}

const way = (more: boolean, less: boolean): number => Number(more) - Number(less);

/** A boom that is raised and telescoped, held in by an envelope: how far it may be out at each angle. */
export const boom = component({
  kind: 'boom',
  says: 'A boom with its angle, how far it is out, and the envelope it must keep to',
  parameters: z.strictObject({
    raisedWhen: condition.optional(),
    loweredWhen: condition.optional(),
    extendedWhen: condition.optional(),
    retractedWhen: condition.optional(),
    /** The higher capacity is chosen: the tighter envelope holds. */
    highWhen: condition.optional(),
    lowestDegrees: amount('angle').default(0),
    highestDegrees: amount('angle'),
    stroke: amount('length'),
    raiseSeconds: amount('time'),
    extendSeconds: amount('time'),
    /** Angle and share of the stroke that may be out, in rising angles; the whole stroke where none is given. */
    envelopeLow: z.array(z.tuple([z.number(), z.number()])).default([]),
    envelopeHigh: z.array(z.tuple([z.number(), z.number()])).default([]),
    stowedBelow: amount('length').default(0.3),
    stowedUnderDegrees: amount('angle').default(15),
  }),
  states: ({ lowestDegrees, highestDegrees, stroke }) => ({
    angle: figure('angle', lowestDegrees, [lowestDegrees, highestDegrees]),
    length: figure('length', 0, [0, stroke]),
    moving: truth(),
    stowed: truth(true),
    atStop: truth(),
    insideHigh: truth(true),
    /** How much further it may go out. */
    margin: figure('length', 0, [0, stroke]),
  }),
  tick: (given) => {
    const reach = given.highestDegrees - given.lowestDegrees;
    const allowed = (envelope: readonly (readonly [number, number])[], angle: number): number =>
      (envelopeAt(envelope, angle) / 100) * given.stroke;
    return (own) => {
      const [angle, length] = [own.figure('angle'), own.figure('length')];
      const envelope = own.holds('highWhen') ? given.envelopeHigh : given.envelopeLow;
      const turned = moved(
        angle,
        way(own.holds('raisedWhen'), own.holds('loweredWhen')),
        reach / given.raiseSeconds,
        given.lowestDegrees,
        given.highestDegrees,
      );
      // Lowering stops where the boom is further out than it may be there.
      const nextAngle = turned < angle && length > allowed(envelope, turned) + 1e-9 ? angle : turned;
      const most = Math.max(length, allowed(envelope, nextAngle));
      const nextLength = moved(
        length,
        way(own.holds('extendedWhen'), own.holds('retractedWhen')),
        given.stroke / given.extendSeconds,
        0,
        Math.min(given.stroke, most),
      );
      own.set('angle', nextAngle);
      own.set('length', nextLength);
      own.set('moving', nextAngle !== angle || nextLength !== length);
      own.set('stowed', nextLength <= given.stowedBelow && nextAngle <= given.stowedUnderDegrees);
      const room = allowed(envelope, nextAngle) - nextLength;
      own.set('atStop', room <= 1e-6 && nextLength < given.stroke);
      own.set('insideHigh', nextLength <= allowed(given.envelopeHigh, nextAngle) + 1e-9);
      own.set('margin', Math.max(0, room));
    };
  },
});

/** The share of the stroke that may be out at an angle, between the points given. */
function envelopeAt(points: readonly (readonly [number, number])[], angle: number): number {
  if (points.length === 0) return 100;
  const above = points.findIndex(([at]) => at >= angle);
  if (above < 0) return points.at(-1)![1];
  if (above === 0) return points[0]![1];
  const [[a0, s0], [a1, s1]] = [points[above - 1]!, points[above]!];
  return s0 + ((angle - a0) / (a1 - a0)) * (s1 - s0);
}

/** A jib or mast that goes up and down by itself, and may swing to the sides. */
export const jib = component({
  kind: 'jib',
  says: 'A jib with its height and how far it is swung',
  parameters: z.strictObject({
    raisedWhen: condition.optional(),
    loweredWhen: condition.optional(),
    leftWhen: condition.optional(),
    rightWhen: condition.optional(),
    stowedWhen: condition.optional(),
    top: amount('length').default(1.5),
    raiseSeconds: amount('time').default(12),
    swingDegrees: amount('angle').default(60),
    swingSeconds: amount('time').default(15),
    runOn: amount('time').default(0),
  }),
  states: ({ top, swingDegrees, raiseSeconds, runOn }) => ({
    height: figure('length', 0, [0, top]),
    swing: figure('angle', 0, [-swingDegrees, swingDegrees]),
    moving: truth(),
    centred: truth(true),
    stowed: truth(),
    /** Parameters that a failure may change: how long it takes, and how long it runs on when let go. */
    raiseSeconds: figure('time', raiseSeconds, [0.1, 3600]),
    runOn: figure('time', runOn, [0, 60]),
    way: figure(null, 0, [-1, 1]),
    left: figure('time', 0, [0, 60]),
  }),
  tick: (given) => (own) => {
    const [height, swing] = [own.figure('height'), own.figure('swing')];
    const told = way(own.holds('raisedWhen'), own.holds('loweredWhen'));
    // It runs on a little in the way it went.
    const left = told !== 0 ? own.figure('runOn') : Math.max(0, own.figure('left') - TICK);
    if (told !== 0) own.set('way', told);
    own.set('left', left);
    const up = told !== 0 ? told : left > 0 ? own.figure('way') : 0;
    const side = way(own.holds('rightWhen'), own.holds('leftWhen'));
    const nextHeight = moved(height, up, given.top / own.figure('raiseSeconds'), 0, given.top);
    const perSecond = (2 * given.swingDegrees) / given.swingSeconds;
    const nextSwing = moved(swing, side, perSecond, -given.swingDegrees, given.swingDegrees);
    own.set('height', nextHeight);
    own.set('swing', nextSwing);
    own.set('moving', nextHeight !== height || nextSwing !== swing);
    own.set('centred', Math.abs(nextSwing) < 2);
    own.set('stowed', own.holds('stowedWhen'));
  },
});

/** An upper part that turns on the lower one. */
export const turret = component({
  kind: 'turret',
  says: 'What turns on the undercarriage: its angle, whether it turns, and whether it is in line',
  parameters: z.strictObject({
    leftWhen: condition.optional(),
    rightWhen: condition.optional(),
    degreesPerSecond: z.number().min(0.1).max(60),
  }),
  states: () => ({
    angle: figure('angle', 0, [0, 360]),
    moving: truth(),
    turning: choice(['still', 'left', 'right']),
    turned: choice(['in-line', 'across']),
    /** Wired the wrong way round it turns the other way. */
    swapped: truth(),
  }),
  tick: (given) => (own) => {
    const told = way(own.holds('rightWhen'), own.holds('leftWhen'));
    const side = own.truth('swapped') ? -told : told;
    const angle = own.figure('angle') + side * given.degreesPerSecond * TICK;
    const within = angle < 0 ? angle + 360 : angle >= 360 ? angle - 360 : angle;
    own.set('angle', within);
    own.set('moving', side !== 0);
    own.set('turning', side === 0 ? 'still' : side > 0 ? 'right' : 'left');
    own.set('turned', within <= 5 || within >= 355 ? 'in-line' : 'across');
  },
});

/** Something pushed out and pulled in: axles, outriggers. */
function pushedOut(kind: 'axles' | 'outriggers', says: string) {
  return component({
    kind,
    says,
    parameters: z.strictObject({
      outWhen: condition.optional(),
      inWhen: condition.optional(),
      pinnedWhen: condition.optional(),
      seconds: amount('time').default(15),
    }),
    states: () => ({
      out: truth(),
      in: truth(true),
      moving: truth(),
      pinned: truth(),
      reached: figure('share', 0, [0, 100]),
    }),
    found: { out: { reached: 100, in: false }, pinned: { reached: 100, out: true, in: false } },
    tick:
      ({ seconds }) =>
      (own) => {
        const before = own.figure('reached');
        const next = moved(before, way(own.holds('outWhen'), own.holds('inWhen')), 100 / seconds, 0, 100);
        own.set('reached', next);
        own.set('moving', next !== before);
        own.set('out', next === 100);
        own.set('in', next === 0);
        own.set('pinned', next === 100 && own.holds('pinnedWhen'));
      },
  });
}
export const axles = pushedOut('axles', 'Axles that widen the machine');
export const outriggers = pushedOut('outriggers', 'Outriggers, out and pinned');

/**
 * A hoist: the height of its hook, the wraps on its drum (fewer the lower the hook, by its two ends), and the upper limit
 * that stops it.
 */
export const hoist = component({
  kind: 'hoist',
  says: 'A hoist with the height of its hook, the wraps left on its drum, and its upper limit',
  parameters: z.strictObject({
    raisedWhen: condition.optional(),
    loweredWhen: condition.optional(),
    fastWhen: condition.optional(),
    allowedWhen: condition.optional(),
    /** Whether the upper limit works; it stops the hook half a metre below the top. */
    limitWhen: condition.optional(),
    top: amount('length').default(20),
    /** The lowest the hook goes; below the floor where there is a pit, and wraps go on leaving the drum. */
    bottom: amount('length').default(0),
    start: amount('length').default(6),
    slowMetresPerSecond: z.number().min(0.001).max(5).default(0.05),
    fastMetresPerSecond: z.number().min(0.001).max(10).default(0.2),
    wrapsAtTop: z.number().min(0).max(200).default(20),
    wrapsAtFloor: z.number().min(0).max(200).default(3),
  }),
  states: ({ top, bottom, start, wrapsAtTop }) => ({
    height: figure('length', start, [bottom, top]),
    wraps: figure(null, 0, [0, wrapsAtTop]),
    upperLimit: truth(),
    moving: truth(),
  }),
  tick: (given) => (own) => {
    const height = own.figure('height');
    const allowed = given.allowedWhen === undefined || own.holds('allowedWhen');
    const works = given.limitWhen === undefined || own.holds('limitWhen');
    const ceiling = works ? Math.max(0, given.top - 0.5) : given.top;
    const speed = own.holds('fastWhen') ? given.fastMetresPerSecond : given.slowMetresPerSecond;
    const told = allowed ? way(own.holds('raisedWhen'), own.holds('loweredWhen')) : 0;
    const next = moved(height, told, speed, given.bottom, Math.max(height, ceiling));
    own.set('height', next);
    own.set('moving', next !== height);
    own.set('upperLimit', works && next >= ceiling - 1e-6);
    const wraps = given.wrapsAtFloor + ((given.wrapsAtTop - given.wrapsAtFloor) * next) / given.top;
    own.set('wraps', Math.max(0, wraps));
  },
});

/** A bridge or trolley that is driven along its rails and may drift on. */
function driven(kind: 'bridge' | 'trolley', says: string) {
  return component({
    kind,
    says,
    parameters: z.strictObject({
      drivenWhen: condition,
      allowedWhen: condition.optional(),
      driftSeconds: amount('time').default(1),
    }),
    states: () => ({ moving: truth(), left: figure('time', 0, [0, 60]) }),
    tick:
      ({ driftSeconds, allowedWhen }) =>
      (own) => {
        const drives = own.holds('drivenWhen') && (allowedWhen === undefined || own.holds('allowedWhen'));
        const left = drives ? driftSeconds : Math.max(0, own.figure('left') - TICK);
        own.set('left', left);
        own.set('moving', drives || left > 0);
      },
  });
}
export const bridge = driven('bridge', 'A bridge that runs along its rails');
export const trolley = driven('trolley', 'A trolley that runs across the bridge');

/** A load: how heavy it is, and whether it is off the ground. Rules and the scene lift it and set it down. */
export const load = component({
  kind: 'load',
  says: 'The load: how heavy, and whether it is off the ground',
  parameters: z.strictObject({ kg: amount('mass').default(0) }),
  states: ({ kg }) => ({ kg: { ...figure('mass', kg, [0, 200_000]), start: kg }, off: truth() }),
  tick: () => () => undefined,
});

/** How far the machine, or its platform, is out of level. The scene and failures tilt it. */
export const level = component({
  kind: 'level',
  says: 'How far the machine is out of level',
  parameters: z.strictObject({ start: amount('angle').default(0), levelledWhen: condition.optional() }),
  states: ({ start }) => ({ deg: figure('angle', start, [0, 45]) }),
  tick: () => (own) => {
    if (own.holds('levelledWhen')) own.set('deg', moved(own.figure('deg'), -1, 0.5, 0, 45));
  },
});

/** The choice between two capacities, taken where the boom is inside the tighter envelope. */
export const capacity = component({
  kind: 'capacity',
  says: 'Two capacities, the higher of which needs the boom inside',
  parameters: z.strictObject({ highWhen: condition, acceptedWhen: condition.optional() }),
  states: () => ({ mode: choice(['low', 'high']) }),
  tick: (given) => (own) => {
    const accepted = given.acceptedWhen === undefined || own.holds('acceptedWhen');
    own.set('mode', own.holds('highWhen') && accepted ? 'high' : 'low');
  },
});

/** A stripe at the mouth of the boom, whose colour says which capacity its extension allows. */
export const stripe = component({
  kind: 'stripe',
  says: 'A coloured stripe that tells which capacity the boom allows',
  parameters: z.strictObject({
    low: z.string(),
    high: z.string(),
    highWhen: condition,
    matchesWhen: condition.optional(),
  }),
  states: ({ low, high }) => ({ colour: choice([low, high]), matches: truth(true) }),
  tick: (given) => (own) => {
    own.set('colour', own.holds('highWhen') ? given.high : given.low);
    own.set('matches', given.matchesWhen === undefined || own.holds('matchesWhen'));
  },
});

/**
 * Lifting columns that move together once grouped and confirmed, and rest on locks every so many centimetres. Rules say
 * when they are identified, grouped and confirmed.
 */
export const columns = component({
  kind: 'columns',
  says: 'Lifting columns: grouped, confirmed, raised together, and resting on their locks',
  parameters: z.strictObject({
    raisedWhen: condition,
    loweredWhen: condition,
    /** Lowering passes the locks only while they are drawn, which needs the weight on the hydraulics first. */
    locksDrawnWhen: condition.optional(),
    movesWhen: condition,
    metresPerSecond: z.number().min(0.001).max(1),
    top: amount('length'),
    lockStep: amount('length'),
  }),
  states: ({ top }) => ({
    heights: figure('length', 0, [0, top]),
    grouped: truth(),
    confirmed: truth(),
    locked: truth(true),
    moving: truth(),
  }),
  tick: (given) => (own) => {
    const height = own.figure('heights');
    const told = own.holds('movesWhen') ? way(own.holds('raisedWhen'), own.holds('loweredWhen')) : 0;
    const next = moved(height, told, given.metresPerSecond, 0, given.top);
    const below = Math.floor(height / given.lockStep + 1e-9) * given.lockStep;
    // Without the locks drawn it comes to rest on the next one below.
    const drawn = own.holds('locksDrawnWhen');
    const rests = told < 0 && !drawn && next <= below;
    const arrived = rests ? below : next;
    own.set('heights', arrived);
    own.set('moving', arrived !== height);
    own.set('locked', arrived === 0 || rests || (own.truth('locked') && arrived === height));
  },
});

/** A radio link between a hand-held control and the machine. */
export const radioLink = component({
  kind: 'radio-link',
  says: 'A radio control: paired, and how full its battery is',
  parameters: z.strictObject({
    pairedWhen: condition,
    poweredWhen: condition,
    allowedWhen: condition.optional(),
    /** What makes it ready to be paired, and from when to when after that it answers. */
    armedWhen: condition.optional(),
    least: amount('time').default(0),
    most: amount('time').default(3600),
    batteryHours: z.number().min(1).max(100).default(10),
  }),
  states: () => ({
    paired: truth(),
    battery: figure('share', 100, [0, 100]),
    armedFor: figure('time', 0, [0, 3600]),
  }),
  tick: (given) => (own) => {
    const powered = own.holds('poweredWhen') && own.figure('battery') > 0;
    const armed = powered && (given.armedWhen === undefined || own.holds('armedWhen'));
    const armedFor = armed ? Math.min(3600, own.figure('armedFor') + TICK) : 0;
    own.set('armedFor', armedFor);
    const allowed = given.allowedWhen === undefined || own.holds('allowedWhen');
    const inTime = armedFor >= given.least - 1e-9 && armedFor <= given.most + 1e-9;
    const pairs = own.holds('pairedWhen') && armed && inTime && allowed;
    own.set('paired', powered && (own.truth('paired') || pairs));
    if (powered)
      own.set('battery', Math.max(0, own.figure('battery') - (100 * TICK) / (given.batteryHours * 3600)));
  },
});
