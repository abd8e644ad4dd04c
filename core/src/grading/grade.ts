import { addDays, longDate, type PlainDate } from '../calendar';
import {
  type Checkpoint,
  type EffectivePack,
  type Fault,
  type Gauge,
  type Grade,
  type GradedReading,
  GRADES,
  gradeReading,
  type Origin,
  originWords,
  type PolicyRaise,
  severity,
  type Until,
  type UntilBound,
  type Use,
  worse,
} from '../catalogue';

/** What was found: a fault of the pack, and/or a reading on one of the checkpoint's gauges. */
export interface Finding {
  checkpoint: string;
  fault?: string;
  readings?: readonly { quantity: string; value: number }[];
}

/** Where a reason comes from: the class's own row or limit, or a line of the site's policy. */
export type ReasonOrigin = Origin | { kind: 'policy'; line: PolicyRaise };

/** One link of the chain that leads to a grade. */
export interface GradeReason {
  by: 'key' | 'reading' | 'use' | 'policy';
  /** The grade once this reason counts. */
  grade: Grade;
  says: string;
  origin: ReasonOrigin;
}

export interface Grading {
  grade: Grade;
  /** In the order in which they count, each with its origin. */
  reasons: GradeReason[];
  limitsUsed: { quantity: string; value: number; at: number; unit: string; origin: Origin }[];
  act: string[];
  /** How far the mend may go on; null where it is none. */
  until: Until | null;
  /** Last date by which a mend must be cured; null where none is set or the grade forbids use. */
  dueBy: PlainDate | null;
  mayClear: 'operator' | 'competent' | 'maker' | null;
}

const ROAD_SYSTEMS = new Set(['brakes', 'steering', 'tyres-wheels', 'visibility', 'electrical']);
const LIFTING_SYSTEMS = new Set([
  'hoist-rope-chain',
  'hydraulics',
  'attachment',
  'structure',
  'safety-device',
]);
const BEARS_ON: Readonly<Record<Use, (checkpoint: Checkpoint) => boolean>> = {
  'carries-people': () => true,
  'lifts-over-people': ({ system }) => LIFTING_SYSTEMS.has(system),
  'works-on-road': ({ system }) => ROAD_SYSTEMS.has(system),
  'leans-on-device': ({ system }) => system === 'safety-device',
};

/** A use in words, as it raises a grade. */
export const USE_WORDS: Readonly<Record<Use, string>> = {
  'carries-people': 'the machine carries people',
  'lifts-over-people': 'the machine lifts over people',
  'works-on-road': 'the machine works on a road',
  'leans-on-device': "today's work leans on this safety device",
};

/** Whether a use bears on what is found at a checkpoint. */
export const bearsOn = (use: Use, checkpoint: Checkpoint): boolean => BEARS_ON[use](checkpoint);

/** What happens by grade, whoever finds it. */
export const GRADE_ACTS: Readonly<Record<Grade, string[]>> = {
  sound: ['Use; nothing to do'],
  watch: ['Use', 'Record it', 'Look again at the stated interval'],
  mend: ['Order the repair', 'Use only within the stated limit', 'Record owner and date'],
  stop: ['Do not use', 'Isolate and take the key', 'Tag', 'Report to the supervisor'],
};

/** How far a mend may go on of which no row says it. */
const AT_ONCE: Until = { bound: 'before-start', says: 'Put right before it is started.' };

const USE_ORIGIN: Origin = { kind: 'practice', note: 'one step for what hangs on it' };

/**
 * Grades a finding: the fault's grade by the key, measured readings against the gauge's limits, raised by what the
 * machine is used for, and by the site's policy, which the pack was composed with. Nothing lowers a grade, and sound
 * is never raised.
 * Throws RangeError for a checkpoint, fault or quantity the pack does not have, or a reading that is not a number.
 */
export function gradeFinding(
  finding: Finding,
  pack: EffectivePack,
  uses: readonly Use[] = [],
  on: PlainDate | null = null,
): Grading {
  const checkpoint = pack.checkpoints.find((each) => each.id === finding.checkpoint);
  if (!checkpoint) throw new RangeError(`no checkpoint "${finding.checkpoint}"`);
  const fault =
    finding.fault === undefined ? null : (pack.faults.find((each) => each.id === finding.fault) ?? null);
  if (finding.fault !== undefined && !fault) throw new RangeError(`no fault "${finding.fault}"`);
  const reasons: GradeReason[] = [];
  const limitsUsed: Grading['limitsUsed'] = [];
  /** Lines that raise what was found, with the grade they raise it to. */
  const raises: { grade: Grade; line: string }[] = [];
  let grade: Grade = 'sound';
  if (fault) {
    grade = fault.raised?.from ?? fault.grade;
    if (fault.raised) raises.push({ grade: fault.grade, line: fault.raised.by });
    reasons.push({ by: 'key', grade, says: keyWords(fault, grade), origin: fault.origin });
  }
  for (const reading of finding.readings ?? []) {
    const gauge = checkpoint.gauges?.find((each) => each.quantity === reading.quantity);
    if (!gauge) throw new RangeError(`checkpoint "${checkpoint.id}" has no gauge for ${reading.quantity}`);
    if (!Number.isFinite(reading.value))
      throw new RangeError(`the reading of ${reading.quantity} is not a number`);
    const graded = gradeReading(gauge, reading.value);
    const own = graded.raised?.from ?? graded.grade;
    if (graded.raised) raises.push({ grade: graded.grade, line: graded.raised.by });
    grade = worse(grade, own);
    reasons.push({
      by: 'reading',
      grade,
      says: readingWords(gauge, reading.value, graded),
      origin: gauge.origin,
    });
    if (graded.at !== null)
      limitsUsed.push({
        quantity: reading.quantity,
        value: reading.value,
        at: graded.at,
        unit: gauge.unit,
        origin: gauge.origin,
      });
  }
  if (reasons.length === 0)
    reasons.push({
      by: 'key',
      grade,
      says: `${checkpoint.part} is as it should be: ${checkpoint.sound}`,
      origin: checkpoint.origin,
    });
  const use = uses.find((each) => BEARS_ON[each](checkpoint));
  if (use && (grade === 'watch' || grade === 'mend')) {
    grade = GRADES[severity(grade) + 1]!;
    reasons.push({ by: 'use', grade, says: `one step up, because ${USE_WORDS[use]}`, origin: USE_ORIGIN });
  }
  for (const raise of raises) {
    const line = pack.policy?.find((each) => each.id === raise.line);
    if (!line || severity(raise.grade) <= severity(grade)) continue;
    grade = raise.grade;
    reasons.push({
      by: 'policy',
      grade,
      says: `raised to ${grade} by site policy: ${line.why}`,
      origin: { kind: 'policy', line },
    });
  }
  const cured = fault ?? faultAlike(pack, checkpoint, grade);
  const until = grade === 'mend' ? (cured?.until ?? AT_ONCE) : null;
  return {
    grade,
    reasons,
    limitsUsed,
    act: [
      ...(cured && grade !== 'sound' ? [cured.do] : []),
      ...(until ? [until.says] : []),
      ...GRADE_ACTS[grade],
    ],
    until,
    dueBy: until && on ? dueBy(until, on) : null,
    mayClear: grade === 'sound' ? null : (cured?.cure ?? 'competent'),
  };
}

const keyWords = (fault: Fault, grade: Grade): string =>
  grade === 'sound'
    ? `${fault.title} is sound. ${fault.why}`
    : `${fault.title} is a ${grade} by the key. ${fault.why}`;

function readingWords(gauge: Gauge, value: number, { grade, at, raised }: GradedReading): string {
  const figure = `${gauge.quantity} is ${Number(value.toFixed(2))} ${gauge.unit}`;
  if (at === null) return `${figure}, within its limits: ${limitsWords(gauge)}`;
  return `${figure}, at or past the limit of ${at} ${gauge.unit}: ${raised?.from ?? grade} (${limitsWords(gauge)})`;
}

/** The limits of a gauge, mildest first: "watch from 5 %, stop from 10 %". */
export function limitsWords({ rising, falling, unit }: Gauge): string {
  const said = (limits: Gauge['rising'], [on, past]: readonly [string, string]) =>
    [...(limits ?? [])]
      .sort((a, b) => severity(a.grade) - severity(b.grade))
      .map(({ grade, at, inclusive }) => `${grade} ${inclusive ? on : past} ${at} ${unit}`);
  return [...said(rising, ['from', 'above']), ...said(falling, ['down from', 'below'])].join(', ');
}

/** The fault of a check that a reading of this grade stands for: how it is cured and by whom. */
function faultAlike(pack: EffectivePack, checkpoint: Checkpoint, grade: Grade): Fault | null {
  const alike = pack.faults.filter((each) => each.checkpoint === checkpoint.id && each.grade === grade);
  return (
    alike.find((each) => each.cues.some(({ method }) => method === 'measure' || method === 'read')) ??
    alike[0] ??
    null
  );
}

/** Where a reason comes from, in words. */
export function reasonOriginWords(origin: ReasonOrigin): string {
  if (origin.kind !== 'policy') return originWords(origin);
  return `Site policy since ${longDate(origin.line.from)}, ${origin.line.by}`;
}

/** The chain of reasons for a grade, a sentence each, with where it comes from. */
export function explainGrade({ reasons }: Grading): string[] {
  return reasons.map(({ says, origin }) => `${says} (${reasonOriginWords(origin)})`);
}

/**
 * The last date by which a mend of this bound is to be cured, when it was found on `on`: that day for a bound
 * of the shift or of hours within the day; null where the bound names a condition or a service instead.
 */
export function dueBy(until: Until, on: PlainDate): PlainDate | null {
  switch (until.bound) {
    case 'before-start':
    case 'today':
    case 'shift':
      return on;
    case 'hours':
      return addDays(on, Math.floor((until.n ?? 0) / 24));
    case 'days':
      return addDays(on, Math.floor(until.n ?? 0));
    case 'next-service':
    case 'only-if':
      return null;
  }
}

/** What whoever finds it does next. */
export const FINDER_ACTS = ['go-on', 'top-up', 'order-repair', 'stop-and-tag'] as const;
export type FinderAct = (typeof FINDER_ACTS)[number];

/**
 * What is right to do about a graded finding, the best first. What the operator may cure on the spot is put right; a
 * stop of that sort may be tagged as well.
 */
export function rightActs({ grade, mayClear }: Pick<Grading, 'grade' | 'mayClear'>): FinderAct[] {
  if (grade === 'sound' || grade === 'watch') return ['go-on'];
  if (grade === 'stop') return mayClear === 'operator' ? ['top-up', 'stop-and-tag'] : ['stop-and-tag'];
  return mayClear === 'operator' ? ['top-up'] : ['order-repair'];
}

/** By when it has to be cured: the bound of a mend, before the next start of a stop; null where nothing is to be cured. */
export function rightBound({ grade, until }: Pick<Grading, 'grade' | 'until'>): UntilBound | null {
  return grade === 'stop' ? 'before-start' : grade === 'mend' ? (until?.bound ?? 'before-start') : null;
}

const URGENCY: Readonly<Record<UntilBound, number>> = {
  'before-start': 0,
  shift: 1,
  today: 1,
  hours: 2,
  days: 3,
  // A condition holds for as long as the work goes on.
  'only-if': 4,
  'next-service': 5,
};

/** How a bound that was given stands to the right one: the same, sooner than need be, or too late. */
export function compareBounds(given: UntilBound, right: UntilBound): 'same' | 'sooner' | 'later' {
  const apart = URGENCY[given] - URGENCY[right];
  return apart === 0 ? 'same' : apart < 0 ? 'sooner' : 'later';
}
