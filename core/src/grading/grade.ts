import { addDays, type PlainDate } from '../calendar';
import {
  type Checkpoint,
  type EffectivePack,
  type Grade,
  gradeReading,
  GRADES,
  type Origin,
  severity,
  type Until,
  worse,
} from '../catalogue';

/** What was found: a fault of the pack, and/or a reading on one of the checkpoint's gauges. */
export interface Finding {
  checkpoint: string;
  fault?: string;
  readings?: readonly { quantity: string; value: number }[];
}

/**
 * An employer's way with grades. It may raise any grade; it may lower one only where no safety device and
 * no published limit stands behind a stop.
 */
export interface GradingPolicy {
  /** Every grade other than sound becomes stop. */
  allToStop?: boolean;
  /** Grades set by fault id. */
  grades?: Readonly<Record<string, Grade>>;
}

/** What the machine is used for; each raises the grades it bears on by one step. */
export interface UseContext {
  carriesPeople?: boolean;
  worksOnRoad?: boolean;
  liftsOverPeople?: boolean;
}

export interface Grading {
  grade: Grade;
  reasons: string[];
  limitsUsed: { quantity: string; value: number; at: number; unit: string; origin: Origin }[];
  act: string[];
  /** How far the mend may go on; null where it is none or nothing is said. */
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

/** What happens by grade, whoever finds it. */
export const GRADE_ACTS: Readonly<Record<Grade, string[]>> = {
  sound: ['Use; nothing to do'],
  watch: ['Use', 'Record it', 'Look again at the stated interval'],
  mend: ['Order the repair', 'Use only within the stated limit', 'Record owner and date'],
  stop: ['Do not use', 'Isolate and take the key', 'Tag', 'Report to the supervisor'],
};

/**
 * Grades a finding: base grade of the fault, measured readings against the gauge's limits, raised by the
 * use context, then the employer's policy.
 * Throws RangeError for a checkpoint, fault or quantity the pack does not have, or a reading that is not a
 * number.
 */
export function gradeFinding(
  finding: Finding,
  pack: EffectivePack,
  policy: GradingPolicy = {},
  context: UseContext = {},
  on: PlainDate | null = null,
): Grading {
  const checkpoint = pack.checkpoints.find((each) => each.id === finding.checkpoint);
  if (!checkpoint) throw new RangeError(`no checkpoint "${finding.checkpoint}"`);
  const fault =
    finding.fault === undefined ? null : (pack.faults.find((each) => each.id === finding.fault) ?? null);
  if (finding.fault !== undefined && !fault) throw new RangeError(`no fault "${finding.fault}"`);
  let grade: Grade = fault?.grade ?? 'sound';
  const reasons: string[] = fault ? [`${fault.id} is a ${fault.grade} by the key: ${fault.why}`] : [];
  const limitsUsed: Grading['limitsUsed'] = [];
  let publishedStop = false;
  for (const reading of finding.readings ?? []) {
    const gauge = checkpoint.gauges?.find((each) => each.quantity === reading.quantity);
    if (!gauge) throw new RangeError(`checkpoint "${checkpoint.id}" has no gauge for ${reading.quantity}`);
    if (!Number.isFinite(reading.value))
      throw new RangeError(`the reading of ${reading.quantity} is not a number`);
    const { grade: measured, at } = gradeReading(gauge, reading.value);
    if (at === null) reasons.push(`${reading.quantity} ${reading.value} ${gauge.unit} is within limits`);
    else {
      limitsUsed.push({
        quantity: reading.quantity,
        value: reading.value,
        at,
        unit: gauge.unit,
        origin: gauge.origin,
      });
      reasons.push(
        `${reading.quantity} ${reading.value} ${gauge.unit} is beyond the limit of ${at} ` +
          `${gauge.unit}: ${measured}`,
      );
      publishedStop ||=
        measured === 'stop' && (gauge.origin.kind === 'published' || gauge.origin.cite !== undefined);
    }
    grade = worse(grade, measured);
  }

  const raisedBy = contextReason(checkpoint, context);
  if (grade !== 'sound' && grade !== 'stop' && raisedBy) {
    grade = GRADES[severity(grade) + 1]!;
    reasons.push(`raised to ${grade}: ${raisedBy}`);
  }
  const before = grade;
  const set = fault ? policy.grades?.[fault.id] : undefined;
  if (set && severity(set) > severity(grade)) {
    grade = set;
    reasons.push(`raised to ${grade} by site policy`);
  } else if (set && severity(set) < severity(grade)) {
    if (
      before === 'stop' &&
      (checkpoint.system === 'safety-device' || publishedStop || fault?.origin.kind === 'published')
    )
      reasons.push(
        `site policy asks for ${set}, but a stop of a safety device or a published limit is never lowered`,
      );
    else {
      grade = set;
      reasons.push(`set to ${grade} by site policy`);
    }
  }
  if (policy.allToStop && grade !== 'sound' && grade !== 'stop') {
    grade = 'stop';
    reasons.push('site policy takes the machine out of use for any defect');
  }
  const until = grade === 'mend' ? (fault?.until ?? null) : null;
  return {
    grade,
    reasons,
    limitsUsed,
    act: [
      ...(fault && grade !== 'sound' ? [fault.do] : []),
      ...(until ? [until.says] : []),
      ...GRADE_ACTS[grade],
    ],
    until,
    dueBy: until && on ? dueBy(until, on) : null,
    mayClear: grade === 'sound' ? null : (fault?.cure ?? 'competent'),
  };
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

function contextReason(checkpoint: Checkpoint, context: UseContext): string | null {
  if (context.carriesPeople) return 'the machine carries people';
  if (context.liftsOverPeople && LIFTING_SYSTEMS.has(checkpoint.system))
    return 'the machine lifts over people';
  if (context.worksOnRoad && ROAD_SYSTEMS.has(checkpoint.system)) return 'the machine works on a road';
  return null;
}
