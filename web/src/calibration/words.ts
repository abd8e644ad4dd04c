import type { ReplayScore, ReplaySection } from '@rounds/core/calibration';

export const SCORE_WORDS: Readonly<Record<ReplayScore, string>> = {
  done: 'Done',
  prompted: 'Prompted',
  not: 'Not',
};

export const SECTION_WORDS: Readonly<Record<ReplaySection, string>> = {
  checks: 'Checks of the round',
  findings: 'Planted faults',
  start: 'Start',
};

/** A difference of credit in points of a hundred, signed. */
export function points(credit: number | null): string {
  if (credit === null) return '–';
  const whole = Math.round(100 * credit);
  return whole > 0 ? `+${whole}` : whole < 0 ? `−${-whole}` : '0';
}
