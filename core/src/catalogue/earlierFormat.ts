import type { EffectivePack } from './compose';
import { type Fault, type Pack, PACK_FORMAT, type Rung, type Step, type Timing, type Until } from './schema';

/**
 * Content of format 1, as it was published and composed before titles, bounds and the meaning of times were
 * exact. It is kept as it was and read as what it said, so that what was judged by it stays.
 */
interface EarlierFault extends Omit<Fault, 'title' | 'until' | 'plant'> {
  title?: string;
  limit?: string;
  plant?: { how: string; retrieve: string };
}
interface EarlierStep extends Omit<Step, 'timing'> {
  timing?: { says: string; min?: number; max?: number; unit?: string; since?: string } | Timing;
}

type Stored = Omit<Pack, 'format' | 'faults' | 'checkpoints' | 'procedures'> & {
  format?: 1 | 2;
  checkpoints: (Omit<Pack['checkpoints'][number], 'appears'> & {
    appears?: Pack['checkpoints'][number]['appears'];
  })[];
  faults: EarlierFault[];
  procedures: (Omit<Pack['procedures'][number], 'steps'> & { steps: EarlierStep[] })[];
};

/** A stored pack in the present shape. New compositions of it are judged by the present rules. */
export function currentPack(stored: unknown): Pack {
  const pack = stored as Pack | Stored;
  return pack.format === PACK_FORMAT
    ? withRungs(withoutProse(pack as Pack))
    : { ...lift(pack as Stored), format: PACK_FORMAT };
}

/** A stored composition in the present shape, marked as of its own format so that it scores as it did. */
export function currentComposition(stored: unknown): EffectivePack {
  const pack = stored as EffectivePack | Stored;
  if (pack.format === PACK_FORMAT) return withRungs(withoutProse(pack as EffectivePack));
  const { fitOut, choices, hash } = pack as EffectivePack;
  return { ...lift(pack as Stored), format: 1, fitOut, choices, hash };
}

/**
 * A pack as a file has it, in the present shape where it says that it is of no format: what is missing in it
 * is then named row by row. Anything that is no pack at all comes back as it is.
 */
export function currentFile(value: unknown): unknown {
  const file = value as Partial<Stored> | null;
  if (typeof file !== 'object' || file === null) return value;
  const prose = file.format === PACK_FORMAT && isProse((file as Partial<Pack>).machine);
  const earlier =
    file.format === undefined && [file.checkpoints, file.faults, file.procedures].every(Array.isArray);
  const lines = file.format === PACK_FORMAT && hasLines((file as Partial<Pack>).teaching?.ladder);
  if (!earlier && !prose && !lines) return value;
  try {
    return currentPack(file);
  } catch {
    return value;
  }
}

/** What a machine was told of in prose before it had a desk. */
const PROSE = ['components', 'states', 'controls', 'lamps', 'rules', 'timings'];

const isProse = (machine: unknown): boolean =>
  typeof machine === 'object' && machine !== null && PROSE.some((each) => each in machine);

/** A pack without the prose that a desk has taken the place of; the same one where it has none. */
function withoutProse<P extends Pick<Pack, 'machine'>>(pack: P): P {
  if (!isProse(pack.machine)) return pack;
  const machine = Object.fromEntries(
    Object.entries(pack.machine).filter(([field]) => !PROSE.includes(field)),
  );
  return { ...pack, machine: machine as Pack['machine'] };
}

/** The order of teaching as it was before its rungs could be signed off: lines of text. */
const hasLines = (ladder: unknown): boolean =>
  Array.isArray(ladder) && ladder.some((each) => typeof each === 'string');

/** A pack whose lines of teaching are rungs, numbered as they stand; the same one where they are. */
function withRungs<P extends Pick<Pack, 'teaching'>>(pack: P): P {
  const { ladder } = pack.teaching as { ladder: (string | Rung)[] };
  if (!hasLines(ladder)) return pack;
  const rungs = ladder.map((each, i): Rung =>
    typeof each === 'string' ? { id: `rung-${i + 1}`, says: each } : each,
  );
  return { ...pack, teaching: { ...pack.teaching, ladder: rungs } };
}

function lift(pack: Stored): Omit<Pack, 'format'> {
  return {
    ...withRungs(withoutProse(pack)),
    checkpoints: pack.checkpoints.map((each) => ({ ...each, appears: each.appears ?? {} })),
    faults: pack.faults.map(({ limit, plant, title, ...fault }) => ({
      ...fault,
      title: title ?? fault.cues[0]!.shows,
      // How it was planted was not said; the stricter reading is that the machine was altered.
      ...(plant ? { plant: { as: 'change' as const, ...plant } } : {}),
      ...(fault.grade === 'mend' && limit ? { until: untilOf(limit) } : {}),
    })),
    procedures: pack.procedures.map((procedure) => ({
      ...procedure,
      steps: procedure.steps.map(({ timing, ...step }) => ({
        ...step,
        ...(timing ? { timing: timingOf(timing) } : {}),
      })),
    })),
  };
}

/** What was a limit in words; days and shifts were read from them then, everything else was a condition. */
function untilOf(limit: string): Until {
  const days = /within (\d+) days?/.exec(limit);
  if (days) return { bound: 'days', n: Number(days[1]), says: limit };
  if (/\bbefore (work|start|use|leaving)\b/.test(limit)) return { bound: 'before-start', says: limit };
  if (/\b(today|same day)\b/.test(limit)) return { bound: 'today', says: limit };
  if (/\bshift\b/.test(limit)) return { bound: 'shift', says: limit };
  return { bound: 'only-if', says: limit };
}

/** The figures of earlier timings were lifted from words by rule and meant nothing sure: the words stay. */
function timingOf(timing: NonNullable<EarlierStep['timing']>): Timing {
  return 'means' in timing ? timing : { means: 'none', says: timing.says };
}
