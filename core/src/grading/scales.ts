import type { Grade } from '../catalogue';

/**
 * Another scale in use at a site, with its mapping to and from the four grades and what the mapping loses.
 */
export interface GradingScale {
  id: 'two-step' | 'three-step' | 'lamps';
  levels: readonly string[];
  from: Readonly<Record<Grade, string>>;
  to: Readonly<Record<string, Grade>>;
  loses: string;
}

/**
 * Scales that sites use beside the four grades (common practice). `to` takes the stricter grade where
 * several share a level.
 */
export const GRADING_SCALES: readonly GradingScale[] = [
  {
    id: 'two-step',
    levels: ['fit', 'not fit'],
    from: { sound: 'fit', watch: 'fit', mend: 'not fit', stop: 'not fit' },
    to: { fit: 'watch', 'not fit': 'stop' },
    loses: 'sound and watch read the same, and a mend that may work within limits reads as not fit',
  },
  {
    id: 'three-step',
    levels: ['serviceable', 'repair', 'out of use'],
    from: { sound: 'serviceable', watch: 'serviceable', mend: 'repair', stop: 'out of use' },
    to: { serviceable: 'watch', repair: 'mend', 'out of use': 'stop' },
    loses: 'sound and watch read the same, so a thing to look at again is forgotten',
  },
  {
    id: 'lamps',
    levels: ['no lamp', 'amber', 'red'],
    from: { sound: 'no lamp', watch: 'amber', mend: 'amber', stop: 'red' },
    to: { 'no lamp': 'sound', amber: 'mend', red: 'stop' },
    loses: 'watch and mend read the same, so a repair that must be ordered looks like one that may wait',
  },
];
