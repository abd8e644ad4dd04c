import { z } from 'zod';
import { amount, component, condition, figure, truth } from '../component';
import { keptInATick, TICK, towards } from '../decay';

/**
 * Loads on a generator: each takes its starting power for a moment, then what it runs on. The sum is what the set carries.
 */
export const loads = component({
  kind: 'loads',
  says: 'What hangs on the generator: the sum of what runs and what is just starting',
  parameters: z.strictObject({
    /** Up to six loads: the condition of each, and in kW what it takes starting and running. */
    firstWhen: condition,
    secondWhen: condition.optional(),
    thirdWhen: condition.optional(),
    fourthWhen: condition.optional(),
    fifthWhen: condition.optional(),
    sixthWhen: condition.optional(),
    starts: z.array(z.number().min(0)).min(1).max(6),
    runs: z.array(z.number().min(0)).min(1).max(6),
    startSeconds: amount('time').default(3),
    rating: z.number().positive(),
  }),
  states: ({ rating, starts }) => ({
    total: figure(null, 0, [0, starts.reduce((sum, each) => sum + each, 0)]),
    rating: { ...figure(null, rating, [rating, rating]), start: rating },
    ...Object.fromEntries(LOADS.map((name) => [`${name}For`, figure('time', 0, [0, 3600])])),
  }),
  tick:
    ({ starts, runs, startSeconds }) =>
    (own) => {
      let total = 0;
      LOADS.forEach((name, i) => {
        const on = own.holds(`${name}When`);
        const since = on ? Math.min(3600, own.figure(`${name}For`) + TICK) : 0;
        own.set(`${name}For`, since);
        if (on) total += since < startSeconds ? (starts[i] ?? 0) : (runs[i] ?? 0);
      });
      own.set('total', total);
    },
});
const LOADS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'] as const;

/**
 * An alternator on its engine: voltage and frequency come up with the engine and dip when load is put on. The frequency
 * settles lower the more it carries (droop: a governor of 4 % falls by 4 % from nothing to full load; speed droop as in
 * IEEE 1547 and any handbook of generating sets, from memory).
 */
export const alternator = component({
  kind: 'alternator',
  says: 'Voltage and frequency, which dip when load is put on and settle with droop',
  parameters: z.strictObject({
    volts: z.number().positive(),
    hz: z.number().positive(),
    droopPercent: z.number().min(0).max(10).default(0),
    dipPercent: z.number().min(0).max(60).default(15),
    recoverSeconds: amount('time').default(3),
    /** Loaded beyond this share of its rating the engine cannot keep its speed. */
    stallsAbovePercent: z.number().min(50).max(300).default(110),
  }),
  states: ({ volts, hz }) => ({
    volts: figure('voltage', 0, [0, volts * 1.1]),
    hz: figure('frequency', 0, [0, hz * 1.1]),
    carried: figure(null, 0, [0, 100_000]),
  }),
  looksAt: ['engine.running', 'loads.total', 'loads.rating'],
  tick: (given) => {
    // Three time constants are 95 % of the way.
    const recovering = keptInATick(given.recoverSeconds / 3);
    const stopping = keptInATick(1);
    return (own) => {
      const running = own.other('engine.running') === true;
      const total = Number(own.other('loads.total') ?? 0);
      const rating = Number(own.other('loads.rating') ?? 0) || 1;
      const step = Math.max(0, total - own.figure('carried')) / rating;
      own.set('carried', total);
      if (!running) {
        own.set('volts', towards(own.figure('volts'), 0, stopping));
        own.set('hz', towards(own.figure('hz'), 0, stopping));
        return;
      }
      const share = total / rating;
      const beyond = Math.max(0, share - given.stallsAbovePercent / 100);
      const settled =
        given.hz * (1 - (given.droopPercent / 100) * Math.min(1, share)) * (1 - Math.min(0.6, beyond));
      const dipped = 1 - Math.min(0.9, (given.dipPercent / 100) * step);
      own.set('hz', towards(own.figure('hz') * dipped, settled, recovering));
      own.set(
        'volts',
        towards(own.figure('volts') * dipped, given.volts * (1 - Math.min(0.6, beyond)), recovering),
      );
    };
  },
});

/** The breakers: closed while the main one is. */
export const breakers = component({
  kind: 'breakers',
  says: 'The main breaker of a generating set',
  parameters: z.strictObject({ closedWhen: condition, mayCloseWhen: condition.optional() }),
  states: () => ({ closed: truth() }),
  tick: (given) => (own) => {
    const may = given.mayCloseWhen === undefined || own.truth('closed') || own.holds('mayCloseWhen');
    own.set('closed', own.holds('closedWhen') && may);
  },
});

/** The controller of a generating set: it runs the engine by hand or by itself, and lets it cool before it stops. */
export const controller = component({
  kind: 'controller',
  says: 'Starts and stops a generating set, with a cool-down before it stops',
  parameters: z.strictObject({
    runWhen: condition,
    stopWhen: condition,
    poweredWhen: condition.optional(),
    coolDown: amount('time').default(180),
  }),
  states: () => ({
    wanted: truth(),
    cooling: truth(),
    stops: truth(),
    left: figure('time', 0, [0, 3600]),
  }),
  looksAt: ['engine.running'],
  tick: (given) => (own) => {
    const powered = given.poweredWhen === undefined || own.holds('poweredWhen');
    const running = own.other('engine.running') === true;
    if (own.holds('runWhen') && powered) {
      own.set('wanted', true);
      own.set('left', given.coolDown);
    }
    const asked = own.holds('stopWhen') || !powered;
    if (asked) own.set('wanted', false);
    const cooling = running && !own.truth('wanted');
    if (cooling) own.set('left', Math.max(0, own.figure('left') - TICK));
    own.set('cooling', cooling && own.figure('left') > 0 && powered);
    own.set('stops', !powered || (cooling && own.figure('left') <= 0));
  },
});
