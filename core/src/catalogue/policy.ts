import { z } from 'zod';
import { plainDateText } from '../calendar';
import { GRADE_KIND_IDS } from './gradeKinds';
import type { Checkpoint, Fault, Gauge, Pack, Until } from './schema';
import { id, text } from './schemaParts';
import { type Grade, severity, SYSTEMS } from './vocabulary';

/** What a site raises: every defect, those of a class, of a system, of a kind in every class, or one fault. */
export const policyScopeSchema = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('every') }),
  z.strictObject({ of: z.literal('class'), classId: id }),
  z.strictObject({ of: z.literal('system'), system: z.enum(SYSTEMS) }),
  z.strictObject({ of: z.literal('kind'), kind: z.enum(GRADE_KIND_IDS) }),
  z.strictObject({ of: z.literal('fault'), classId: id, fault: id }),
]);
export type PolicyScope = z.infer<typeof policyScopeSchema>;

/**
 * A line of a site's grading policy: from a day on, what it names is graded at least so. Sound stays sound, and
 * nothing is ever lowered.
 */
export const policyRaiseSchema = z.strictObject({
  id: z.string(),
  scope: policyScopeSchema,
  atLeast: z.enum(['mend', 'stop']),
  from: plainDateText,
  by: z.string().describe('Who decided it'),
  why: text,
});
export type PolicyRaise = z.infer<typeof policyRaiseSchema>;

/** What was raised: the grade before, and the line that did it. */
export interface Raised {
  from: Grade;
  by: string;
}

/** How far a mend may go on that only the policy has made one. */
const RAISED_UNTIL: Until = {
  bound: 'before-start',
  says: 'Put right before it is started, as the site has decided.',
};

/** Whether a line is about a check, whatever is found there. */
function aboutCheck({ scope }: PolicyRaise, pack: Pick<Pack, 'id'>, check: Checkpoint): boolean {
  return (
    scope.of === 'every' ||
    (scope.of === 'class' && scope.classId === pack.id) ||
    (scope.of === 'system' && scope.system === check.system)
  );
}

/** Whether a line is about a fault at its check. */
export function aboutFault(
  raise: PolicyRaise,
  pack: Pick<Pack, 'id'>,
  check: Checkpoint,
  fault: Fault,
): boolean {
  const { scope } = raise;
  return (
    aboutCheck(raise, pack, check) ||
    (scope.of === 'kind' && scope.kind === fault.kind) ||
    (scope.of === 'fault' && scope.classId === pack.id && scope.fault === fault.id)
  );
}

/** A grade as the lines leave it, with the line that raised it the furthest; the earliest where several do. */
function raisedBy(
  grade: Grade,
  lines: readonly PolicyRaise[],
): { grade: Grade; raised: Raised } | { grade: Grade; raised: null } {
  if (grade === 'sound') return { grade, raised: null };
  let best: PolicyRaise | null = null;
  for (const line of lines) if (severity(line.atLeast) > severity(best?.atLeast ?? grade)) best = line;
  return best ? { grade: best.atLeast, raised: { from: grade, by: best.id } } : { grade, raised: null };
}

/**
 * Works the lines that are about a class into its faults and gauges. Answers the lines that changed something, so that
 * a class which none touches stays exactly as it was.
 */
export function applyPolicy<T extends Pick<Pack, 'id' | 'checkpoints' | 'faults'>>(
  pack: T,
  policy: readonly PolicyRaise[],
): { pack: T; policy: PolicyRaise[] } {
  if (policy.length === 0) return { pack, policy: [] };
  const used = new Set<string>();
  const checks = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const faults = pack.faults.map((fault) => {
    const check = checks.get(fault.checkpoint);
    const lines = check ? policy.filter((each) => aboutFault(each, pack, check, fault)) : [];
    const { grade, raised } = raisedBy(fault.grade, lines);
    if (!raised) return fault;
    used.add(raised.by);
    const { until: _until, ...rest } = fault;
    return { ...rest, grade, raised, ...(grade === 'mend' ? { until: RAISED_UNTIL } : {}) };
  });
  const checkpoints = pack.checkpoints.map((check) => {
    const lines = policy.filter((each) => aboutCheck(each, pack, check));
    if (lines.length === 0 || !check.gauges) return check;
    const raisedLimits = (limits: Gauge['rising']) =>
      limits?.map((limit) => {
        const { grade, raised } = raisedBy(limit.grade, lines);
        if (raised) used.add(raised.by);
        return raised ? { ...limit, grade, raised } : limit;
      });
    return {
      ...check,
      gauges: check.gauges.map((gauge) => ({
        ...gauge,
        ...(gauge.rising ? { rising: raisedLimits(gauge.rising) } : {}),
        ...(gauge.falling ? { falling: raisedLimits(gauge.falling) } : {}),
      })),
    };
  });
  return used.size === 0
    ? { pack, policy: [] }
    : { pack: { ...pack, checkpoints, faults }, policy: policy.filter((each) => used.has(each.id)) };
}
