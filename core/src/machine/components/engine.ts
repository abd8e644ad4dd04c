import { z } from 'zod';
import { amount, choice, component, condition, figure, truth } from '../component';
import { keptInATick, TICK, towards } from '../decay';

/** Degrees at which an engine counts as warm, and where its thermostat holds it idling (common practice). */
const WARM = 70;
const THERMOSTAT = 88;
/** What full load adds, what a blocked cooler leads to, and the day it stands in (from memory). */
const LOADED = 7;
const OVERHEATED = 118;
const HOT = 105;
const AMBIENT = 15;
/** A stopped engine cools so slowly (time constant in seconds; from memory). */
const COOLING = 45 * 60;
/** Oil pressure of a sound engine in bar, three quarters of it there in time, and how fast it is lost (from memory). */
const OIL = 4;
const OIL_LOST = 0.5;
/** Long enough ago to have been forgotten: an engine found at the start of a shift, in seconds. */
export const LONG_AGO = 24 * 3600;

/**
 * How many time constants a first-order response takes to get there, written out because a platform's logarithm need not
 * be the same everywhere: warm is ln((88 - 15) / (88 - 70)), three quarters of the oil pressure is ln(4 / (4 - 3)).
 */
const WARM_IN = 1.400087683252;
const OIL_IN = 1.38629436112;

/** An engine, or with `runsWhen` a motor that simply runs: speed, temperatures, oil pressure, load. */
export const engine = component({
  kind: 'engine',
  says: 'The engine or motor: it runs, idles, warms and cools, has oil pressure and load',
  parameters: z.strictObject({
    fuel: z.enum(['diesel', 'petrol', 'gas', 'electric']).default('diesel'),
    /** Seconds that the starter turns before it fires. */
    firesAfter: amount('time').default(1),
    /** What must hold for it to fire: fuel, spark. */
    firesWhen: condition.optional(),
    /** It runs just while this holds; nothing starts it. */
    runsWhen: condition.optional(),
    stopsWhen: condition.optional(),
    loadedWhen: condition.optional(),
    oilLostWhen: condition.optional(),
    overheatsWhen: condition.optional(),
    smokesWhen: condition.optional(),
    /** Runs faster while this holds. */
    fastWhen: condition.optional(),
    warmMinutes: z.number().min(0).max(60).default(5),
    oilSeconds: amount('time').default(5),
    idleRpm: z.number().min(0).max(10_000).default(800),
    fastRpm: z.number().min(0).max(12_000).default(1800),
    silent: z.boolean().default(false),
  }),
  states: () => ({
    running: truth(),
    idle: truth(),
    rpm: figure('speed', 0, [0, 12_000]),
    load: figure('share', 0, [0, 100]),
    coolant: figure('temperature', AMBIENT, [AMBIENT, OVERHEATED]),
    /** Oil follows the coolant more slowly. */
    oil: figure('temperature', AMBIENT, [AMBIENT, OVERHEATED]),
    oilPressure: figure('pressure', 0, [0, OIL]),
    warm: truth(),
    hot: truth(),
    sinceLoad: figure('time', LONG_AGO, [0, LONG_AGO]),
    smoke: choice(['none', 'white', 'black']),
  }),
  // An engine that is found running has just worked.
  found: {
    running: { idle: true, oilPressure: OIL, sinceLoad: 0 },
    warm: { coolant: THERMOSTAT, oil: THERMOSTAT },
  },
  looksAt: ['starter.turning', 'pull-start.fires'],
  tick: (given) => {
    const warming = keptInATick((given.warmMinutes * 60) / WARM_IN);
    const cooling = keptInATick(COOLING);
    const following = keptInATick(60);
    const rising = keptInATick(given.oilSeconds / OIL_IN);
    const losing = keptInATick(OIL_LOST);
    const revving = keptInATick(0.8);
    return (own) => {
      const turning = own.other('starter.turning');
      const pulled = own.other('pull-start.fires') === true;
      let running = own.truth('running');
      if (given.runsWhen !== undefined) running = own.holds('runsWhen');
      else if (!running) {
        const able = given.firesWhen === undefined || own.holds('firesWhen');
        running = able && ((typeof turning === 'number' && turning >= given.firesAfter) || pulled);
      }
      if (own.holds('stopsWhen')) running = false;
      const load = running && own.holds('loadedWhen') ? 100 : 0;
      // Where a hand sets the speed, that is what it is; else load brings it up.
      const fast = running && (given.fastWhen === undefined ? load > 0 : own.holds('fastWhen'));
      own.set('running', running);
      own.set('load', load);
      own.set('idle', running && !fast && load === 0);
      const wanted = running ? (fast ? given.fastRpm : given.idleRpm) : 0;
      const rpm = towards(own.figure('rpm'), wanted, revving);
      // Below one turn a minute it stands.
      own.set('rpm', rpm < 1 ? 0 : rpm);
      const blocked = running && own.holds('overheatsWhen');
      const end = blocked ? OVERHEATED : running ? THERMOSTAT + (LOADED * load) / 100 : AMBIENT;
      const coolant =
        given.warmMinutes === 0 && !blocked
          ? end
          : towards(own.figure('coolant'), end, running ? warming : cooling);
      own.set('coolant', coolant);
      own.set('oil', given.warmMinutes === 0 ? coolant : towards(own.figure('oil'), coolant, following));
      own.set('warm', given.warmMinutes === 0 || coolant >= WARM);
      own.set('hot', coolant >= HOT);
      const lost = own.holds('oilLostWhen');
      const oil = running && !lost ? OIL : 0;
      own.set('oilPressure', towards(own.figure('oilPressure'), oil, lost || !running ? losing : rising));
      own.set('sinceLoad', load > 0 ? 0 : Math.min(LONG_AGO, own.figure('sinceLoad') + TICK));
      own.set(
        'smoke',
        own.holds('smokesWhen') ? 'black' : running && coolant < 30 && !given.silent ? 'white' : 'none',
      );
    };
  },
});
