import { type Grade, GRADES } from '../catalogue';

/** Another scale in use at a site, with its mapping to and from the four grades. */
export interface GradingScale {
  id: 'two-step' | 'three-step' | 'lamps';
  name: string;
  levels: readonly string[];
  from: Readonly<Record<Grade, string>>;
  to: Readonly<Record<string, Grade>>;
}

/**
 * Scales that sites use beside the four grades (common practice). `to` takes the stricter grade where
 * several share a level.
 */
export const GRADING_SCALES: readonly GradingScale[] = [
  {
    id: 'two-step',
    name: 'Two steps',
    levels: ['fit', 'not fit'],
    from: { sound: 'fit', watch: 'fit', mend: 'not fit', stop: 'not fit' },
    to: { fit: 'watch', 'not fit': 'stop' },
  },
  {
    id: 'three-step',
    name: 'Three steps',
    levels: ['serviceable', 'repair', 'out of use'],
    from: { sound: 'serviceable', watch: 'serviceable', mend: 'repair', stop: 'out of use' },
    to: { serviceable: 'watch', repair: 'mend', 'out of use': 'stop' },
  },
  {
    id: 'lamps',
    name: 'Amber and red',
    levels: ['no lamp', 'amber', 'red'],
    from: { sound: 'no lamp', watch: 'amber', mend: 'amber', stop: 'red' },
    to: { 'no lamp': 'sound', amber: 'mend', red: 'stop' },
  },
];

/** A grade that a scale does not give back: what it says, and what that is read as. */
export interface ScaleLoss {
  grade: Grade;
  level: string;
  back: Grade;
  says: string;
}

/** What is lost when a grade is written in a scale and read again: exactly the grades that come back as another. */
export function scaleLosses({ from, to }: GradingScale): ScaleLoss[] {
  return GRADES.flatMap((grade) => {
    const level = from[grade];
    const back = to[level]!;
    if (back === grade) return [];
    const alike = GRADES.filter((each) => each !== grade && from[each] === level);
    return [
      {
        grade,
        level,
        back,
        says: `${grade} is written "${level}", the same as ${alike.join(' and ')}, and is read as ${back}`,
      },
    ];
  });
}
