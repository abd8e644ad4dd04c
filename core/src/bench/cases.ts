import { z } from 'zod';
import {
  type Checkpoint,
  type EffectivePack,
  type Fault,
  type Gauge,
  type Grade,
  type Method,
  METHODS,
  readingEvidence,
  shownEvidence,
  type Use,
  USES,
} from '../catalogue';
import { caseItem, possibleCases, revealingMethods } from '../drill';
import type { Evidence } from '../drawing/evidence';
import { bearsOn, gradeFinding, type Grading } from '../grading';
import {
  fromReader,
  quantityOf,
  readingLines,
  readingsNearLimits,
  UNIT_SYSTEMS,
  type UnitSystem,
} from '../measuring';
import { readingItem } from '../practice';

/** How the findings of a bench are put: as words, drawn, measured, or all of these as they come. */
export const BENCH_FORMS = ['all', 'words', 'drawing', 'measured'] as const;
export type BenchForm = (typeof BENCH_FORMS)[number];

/** A finding as it is dealt. Whoever holds it can work out its grade. */
export const benchCaseSchema = z.strictObject({
  checkpoint: z.string().max(64),
  fault: z
    .string()
    .max(64)
    .nullable()
    .describe('A fault or lookalike; null for a sound part, and for a reading'),
  reading: z
    .strictObject({
      quantity: z.string().max(200),
      read: z.strictObject({
        system: z.enum(UNIT_SYSTEMS),
        measured: z.number(),
        whole: z.number().nullable(),
      }),
    })
    .nullable(),
  uses: z.array(z.enum(USES)).max(USES.length),
  methods: z.array(z.enum(METHODS)).min(1).max(METHODS.length).describe('Those used, with what they showed'),
});
export type BenchCase = z.infer<typeof benchCaseSchema>;

/** What a learner sees of a finding: nothing that says how it is graded. */
export interface FindingView {
  part: string;
  station: string;
  /** What the machine is used for today, beside its usual work. */
  uses: Use[];
  words: { method: Method; shows: string }[];
  drawing: Evidence | null;
  readings: { name: string; says: string }[];
}

/** The item of practice that a case is. */
export function benchItem({ checkpoint, fault, reading }: BenchCase): string {
  return reading ? readingItem(checkpoint, reading.quantity) : caseItem({ checkpoint, fault });
}

function checkOf(pack: EffectivePack, id: string): Checkpoint {
  const check = pack.checkpoints.find((each) => each.id === id);
  if (!check) throw new RangeError(`no checkpoint "${id}"`);
  return check;
}

const faultOf = (pack: EffectivePack, id: string | null): Fault | null =>
  id === null ? null : (pack.faults.find((each) => each.id === id) ?? null);

const gaugeOf = (check: Checkpoint, quantity: string): Gauge => {
  const gauge = check.gauges?.find((each) => each.quantity === quantity);
  if (!gauge) throw new RangeError(`checkpoint "${check.id}" has no gauge for ${quantity}`);
  return gauge;
};

const valueOf = (check: Checkpoint, { quantity, read }: NonNullable<BenchCase['reading']>): number =>
  quantityOf(gaugeOf(check, quantity), read);

function drawnReading(check: Checkpoint, reading: NonNullable<BenchCase['reading']>): Evidence | null {
  const gauge = gaugeOf(check, reading.quantity);
  const { whole, system } = reading.read;
  const own = gauge.worked && whole !== null ? fromReader(whole, gauge.worked.unit, system) : null;
  return readingEvidence(check, gauge, valueOf(check, reading), own);
}

/** The key of a case: its grade with all reasons. */
export function benchKey(pack: EffectivePack, { checkpoint, fault, reading, uses }: BenchCase): Grading {
  return gradeFinding(
    {
      checkpoint,
      ...(fault === null ? {} : { fault }),
      ...(reading
        ? {
            readings: [
              {
                quantity: reading.quantity,
                value: valueOf(checkOf(pack, checkpoint), reading),
              },
            ],
          }
        : {}),
    },
    pack,
    uses,
  );
}

/** Lines of a case in words: what each method that was used showed. */
function wordsOf(check: Checkpoint, fault: Fault | null, methods: readonly Method[]) {
  return methods.flatMap((method) => {
    const cue = fault?.cues.find((each) => each.method === method)?.shows;
    const shows = cue ?? check.appears[method];
    return shows ? [{ method, shows }] : [];
  });
}

/** The drawing of a case: what the first of its methods shows that any drawing speaks to. */
function drawingOf(pack: EffectivePack, check: Checkpoint, fault: Fault | null, methods: readonly Method[]) {
  for (const method of methods) {
    const drawn = shownEvidence(pack, check, fault, method);
    if (drawn) return drawn;
  }
  return null;
}

/** A case as its learner sees it in a form. */
export function findingView(pack: EffectivePack, dealt: BenchCase, form: BenchForm): FindingView {
  const check = checkOf(pack, dealt.checkpoint);
  const fault = faultOf(pack, dealt.fault);
  const { reading } = dealt;
  return {
    part: check.part,
    station: pack.plan.stations.find((each) => each.id === check.station)?.name ?? check.station,
    uses: [...dealt.uses],
    words: reading || form === 'drawing' ? [] : wordsOf(check, fault, dealt.methods),
    drawing:
      form === 'words'
        ? null
        : reading
          ? drawnReading(check, reading)
          : drawingOf(pack, check, fault, dealt.methods),
    readings: reading ? readingLines(gaugeOf(check, reading.quantity), reading.read) : [],
  };
}

export interface Candidate extends BenchCase {
  item: string;
  grade: Grade;
}

/** Most methods of a case that are shown, so that their number does not tell a fault. */
const MOST_METHODS = 2;

/**
 * The methods of a part whose showing a case may consist of: those that reveal the fault, or of a sound part those that
 * show something, each set at most two long, in the order in which the class names them.
 */
function methodsOf(check: Checkpoint, fault: Fault | null): Method[] {
  const able = fault ? revealingMethods(check, fault) : check.methods.filter((each) => check.appears[each]);
  return able.slice(0, MOST_METHODS);
}

const known = new WeakMap<EffectivePack, Map<string, Candidate[]>>();

/**
 * Every finding that a class can put in a form, with its grade: faults, lookalikes, sound parts, and readings near limits.
 * Remembered for the pack, which is never changed in place.
 */
export function benchCandidates(pack: EffectivePack, form: BenchForm, system: UnitSystem): Candidate[] {
  const of = known.get(pack) ?? new Map<string, Candidate[]>();
  known.set(pack, of);
  const key = `${form} ${system}`;
  const before = of.get(key);
  if (before) return before;
  const candidates = everyFinding(pack, form, system);
  of.set(key, candidates);
  return candidates;
}

function everyFinding(pack: EffectivePack, form: BenchForm, system: UnitSystem): Candidate[] {
  const found: BenchCase[] = [];
  if (form !== 'measured')
    for (const { checkpoint, fault } of possibleCases(pack)) {
      const check = checkOf(pack, checkpoint);
      const row = faultOf(pack, fault);
      const methods = form === 'drawing' ? drawnMethods(pack, check, row) : methodsOf(check, row);
      if (methods.length > 0) found.push({ checkpoint, fault, reading: null, uses: [], methods });
    }
  if (form === 'all' || form === 'measured')
    for (const check of pack.checkpoints)
      for (const gauge of check.gauges ?? [])
        for (const { grade: _grade, ...read } of readingsNearLimits(gauge, system))
          found.push({
            checkpoint: check.id,
            fault: null,
            reading: { quantity: gauge.quantity, read },
            uses: [],
            methods: ['measure'],
          });
  return found.flatMap((each) => {
    const check = checkOf(pack, each.checkpoint);
    const uses = usesOf(pack).filter((use) => bearsOn(use, check));
    return [each, ...uses.map((use) => ({ ...each, uses: [use] }))].map((one) => ({
      ...one,
      item: benchItem(one),
      grade: benchKey(pack, one).grade,
    }));
  });
}

/** What a class may be put to; that a safety device is leant on may happen to any. */
const usesOf = (pack: EffectivePack): readonly Use[] => [...(pack.uses ?? []), 'leans-on-device'];

/** Methods whose drawing shows that a part is faulty, or sound; none where no drawing can tell. */
function drawnMethods(pack: EffectivePack, check: Checkpoint, fault: Fault | null): Method[] {
  if (!fault) {
    const method = check.methods.find((each) => shownEvidence(pack, check, null, each) !== null);
    return method ? [method] : [];
  }
  return revealingMethods(check, fault)
    .filter((method) => fault.cues.some((cue) => cue.method === method && cue.drawing))
    .slice(0, 1);
}
