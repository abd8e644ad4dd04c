import type { Gauge } from './schema';
import { type Grade, severity } from './vocabulary';

/** The grade a gauge reading earns and the limit that decided it; sound when inside all limits. */
export function gradeReading(gauge: Gauge, value: number): { grade: Grade; at: number | null } {
  let result: { grade: Grade; at: number | null } = { grade: 'sound', at: null };
  const beyond = (limit: { at: number; inclusive: boolean }, sign: 1 | -1) =>
    sign * (value - limit.at) > 0 || (limit.inclusive && value === limit.at);
  for (const [limits, sign] of [
    [gauge.rising ?? [], 1],
    [gauge.falling ?? [], -1],
  ] as const)
    for (const limit of limits)
      if (beyond(limit, sign) && severity(limit.grade) > severity(result.grade))
        result = { grade: limit.grade, at: limit.at };
  return result;
}
