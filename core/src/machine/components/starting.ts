import { z } from 'zod';
import { amount, component, condition, figure, truth } from '../component';
import { TICK } from '../decay';
import { LONG_AGO } from './engine';

/** The starter: how long this try, how many tries, how long it has rested. Once the engine has run, tries begin anew. */
export const starter = component({
  kind: 'starter',
  says: 'The electric starter, which must not turn for long and must rest between tries',
  parameters: z.strictObject({
    turnedWhen: condition,
    /** What else must hold for it to turn: neutral, a brake, a seat. */
    allowedWhen: condition.optional(),
    limit: amount('time').default(30),
    rest: amount('time').default(120),
    tries: z.number().int().min(1).max(20).default(3),
  }),
  states: () => ({
    turning: figure('time', 0, [0, LONG_AGO]),
    tries: figure(null, 0, [0, 1000]),
    rest: figure('time', LONG_AGO, [0, LONG_AGO]),
    hot: truth(),
  }),
  looksAt: ['engine.running'],
  tick: (given) => (own) => {
    const before = own.figure('turning');
    const ran = own.other('engine.running') === true;
    const turns =
      !ran && own.holds('turnedWhen') && (given.allowedWhen === undefined || own.holds('allowedWhen'));
    if (turns) {
      if (before === 0) own.set('tries', Math.min(1000, own.figure('tries') + 1));
      own.set('turning', Math.min(LONG_AGO, before + TICK));
      own.set('rest', 0);
    } else {
      own.set('turning', 0);
      own.set('rest', Math.min(LONG_AGO, own.figure('rest') + TICK));
    }
    if (ran) {
      own.set('tries', 0);
      own.set('rest', LONG_AGO);
    }
    own.set('hot', own.figure('turning') > given.limit || (own.figure('tries') > given.tries && turns));
  },
});

/** A recoil or pull-cord starter: it fires after so many pulls, fewer with choke and primer right; a cold engine floods. */
export const pullStart = component({
  kind: 'pull-start',
  says: 'A cord to pull: the engine fires after some pulls, if everything else is right',
  parameters: z.strictObject({
    pulledWhen: condition,
    allowedWhen: condition.optional(),
    firesWhen: condition.optional(),
    chokedWhen: condition.optional(),
    primedWhen: condition.optional(),
    /** Pulls with choke and primer right, and without. */
    pulls: z.number().int().min(1).max(20).default(2),
    coldPulls: z.number().int().min(1).max(40).default(6),
    floodsAfter: z.number().int().min(1).max(40).default(12),
  }),
  states: () => ({
    /** It is being pulled now. */
    pulled: truth(),
    strokes: figure(null, 0, [0, 1000]),
    fires: truth(),
    flooded: truth(),
  }),
  looksAt: ['engine.running', 'engine.warm'],
  tick: (given) => (own) => {
    const able = given.allowedWhen === undefined || own.holds('allowedWhen');
    const now = own.holds('pulledWhen');
    const stroke = now && !own.truth('pulled') && able;
    own.set('pulled', now);
    if (own.other('engine.running') === true) own.set('strokes', 0);
    else if (stroke) own.set('strokes', Math.min(1000, own.figure('strokes') + 1));
    const strokes = own.figure('strokes');
    own.set('flooded', strokes >= given.floodsAfter && own.holds('chokedWhen'));
    const eased =
      own.other('engine.warm') === true ||
      ((given.chokedWhen === undefined || own.holds('chokedWhen')) &&
        (given.primedWhen === undefined || own.holds('primedWhen')));
    const enough = strokes >= (eased ? given.pulls : given.coldPulls);
    const right = given.firesWhen === undefined || own.holds('firesWhen');
    own.set('fires', stroke && enough && right && !own.truth('flooded'));
  },
});

/** The lamp of the glow plugs: lit for some seconds once it is switched on. */
export const preheat = component({
  kind: 'preheat',
  says: 'Glow plugs: the lamp is lit while they heat',
  parameters: z.strictObject({ onWhen: condition, seconds: amount('time') }),
  states: () => ({ lit: truth(), heated: figure('time', 0, [0, LONG_AGO]) }),
  looksAt: ['engine.running'],
  tick:
    ({ seconds }) =>
    (own) => {
      const on = own.holds('onWhen') && own.other('engine.running') !== true;
      const heated = on ? Math.min(LONG_AGO, own.figure('heated') + TICK) : 0;
      own.set('heated', heated);
      own.set('lit', on && heated < seconds);
    },
});

/** A turbocharger, which is hot until the engine has idled some minutes after load. */
export const turbo = component({
  kind: 'turbo',
  says: 'A turbocharger, to be cooled at idle before the engine is stopped',
  parameters: z.strictObject({ coolMinutes: z.number().min(0).max(30) }),
  states: () => ({ hot: truth() }),
  looksAt: ['engine.sinceLoad'],
  tick:
    ({ coolMinutes }) =>
    (own) => {
      const since = own.other('engine.sinceLoad');
      own.set('hot', typeof since === 'number' && since < coolMinutes * 60);
    },
});

/** The exhaust fluid pump, which empties its lines after the engine has stopped; the battery must not be parted meanwhile. */
export const purge = component({
  kind: 'purge',
  says: 'The lamp that is lit while the exhaust fluid is pumped back',
  parameters: z.strictObject({ seconds: amount('time') }),
  states: ({ seconds }) => ({
    lit: truth(),
    left: figure('time', 0, [0, 3600]),
    /** How long it takes: a failure may make it longer. */
    seconds: figure('time', seconds, [0, 3600]),
  }),
  looksAt: ['engine.running'],
  tick: () => (own) => {
    const running = own.other('engine.running') === true;
    const left = running ? own.figure('seconds') : Math.max(0, own.figure('left') - TICK);
    own.set('left', left);
    own.set('lit', !running && left > 0);
  },
});
