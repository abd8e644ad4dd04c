import type { StandingStatus } from '@rounds/core/certification';
import { arcPath } from '@rounds/core/drawing';

/** One stroke of the sign of a standing, on a 24 grid: the pale rest of the ring, or the standing's own colour. */
export interface ArcStroke {
  d: string;
  width: number;
  pale?: boolean;
}

const RING = 'M12 3a9 9 0 1 0 0 18a9 9 0 0 0 0-18';
const BROKEN: readonly ArcStroke[] = [
  { d: arcPath(12, 12, 9, 0.08, 0.42), width: 3 },
  { d: arcPath(12, 12, 9, 0.58, 0.92), width: 3 },
];
const BAR: ArcStroke = { d: 'M7 12h10', width: 3 };

/**
 * What is left of a certificate: an arc that shrinks from full as `share` (0 to 1, null for full) falls; a broken
 * ring when nothing is left, with a bar when it was taken.
 */
export function arcStrokes(status: StandingStatus, share: number | null): readonly ArcStroke[] {
  const ring = (part: number): ArcStroke[] => [
    { d: RING, width: 2, pale: true },
    { d: arcPath(12, 12, 9, 0, part), width: 4 },
  ];
  switch (status) {
    case 'valid':
    case 'due':
      return ring(Math.max(0.04, Math.min(1, share ?? 1)));
    case 'in-training':
      return ring(0.06);
    case 'suspended':
    case 'withdrawn':
      return [...BROKEN, BAR];
    case 'lapsed':
    case 'in-grace':
      return BROKEN;
    default:
      return [{ d: RING, width: 2, pale: true }];
  }
}

const TONES: Partial<Record<StandingStatus, 'ink' | 'crimson'>> = {
  due: 'ink',
  'in-grace': 'ink',
  lapsed: 'crimson',
  suspended: 'crimson',
  withdrawn: 'crimson',
};

/** Which colour of the palette the sign of a standing has. */
export const arcTone = (status: StandingStatus) => TONES[status] ?? 'petrol';
