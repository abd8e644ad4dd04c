import type { Raised } from './policy';
import type { Gauge } from './schema';
import { type Grade, severity } from './vocabulary';

/** What a gauge says of a reading: the grade, and the limit that decided it, null inside all limits. */
export interface GradedReading {
  grade: Grade;
  at: number | null;
  /** Where a site's policy has raised what that limit means. */
  raised?: Raised | undefined;
}

/** The grade a gauge reading earns and the limit that decided it; sound when inside all limits. */
export function gradeReading(gauge: Gauge, value: number): GradedReading {
  let result: GradedReading = { grade: 'sound', at: null };
  const beyond = (limit: { at: number; inclusive: boolean }, sign: 1 | -1) =>
    sign * (value - limit.at) > 0 || (limit.inclusive && value === limit.at);
  for (const [limits, sign] of [
    [gauge.rising ?? [], 1],
    [gauge.falling ?? [], -1],
  ] as const)
    for (const limit of limits) {
      if (!beyond(limit, sign)) continue;
      const { raised } = limit as { raised?: Raised };
      const graded = { grade: limit.grade, at: limit.at, raised };
      // Of two limits that a policy made alike, the one that was the graver counts.
      const graver = severity(graded.grade) - severity(result.grade) || ownGrade(graded) - ownGrade(result);
      if (graver > 0) result = graded;
    }
  return result;
}

const ownGrade = ({ grade, raised }: GradedReading): number => severity(raised?.from ?? grade);
