import { addDays, type PlainDate } from '@rounds/core/calendar';
import { compose, type EffectivePack } from '@rounds/core/catalogue';
import type { DrillForm } from '@rounds/core/drill';
import { type LessonPlan, proposeLesson } from '@rounds/core/teaching';
import type { History } from './evaluations';

/** A lesson that a trainer kept to give it again. */
export interface DemoPlan {
  id: string;
  title: string;
  by: string;
  classId: string;
  variant: string;
  plan: LessonPlan;
  keptOn: PlainDate;
}
/** Practice that a trainer set somebody. */
export interface DemoSet {
  id: string;
  personId: string;
  classId: string;
  variant: string;
  form: DrillForm | 'desk';
  /** What is done at the desk. */
  program: 'start' | null;
  times: number;
  dueOn: PlainDate;
  by: string;
  setAt: string;
}

const BY = 'hilda';

/** Two kept lessons. */
export function keptLessons({ packs, today, newId }: History): DemoPlan[] {
  const keep = (
    title: string,
    classId: string,
    daysAgo: number,
    planOf: (pack: EffectivePack) => LessonPlan,
  ): DemoPlan[] => {
    const pack = packs.find((each) => each.id === classId);
    if (!pack) return [];
    const keptOn = addDays(today, -daysAgo);
    const variant = pack.variants[0]!.id;
    const plan = planOf(compose(pack, { variant }));
    return [{ id: newId(`${keptOn}T10:00:00.000Z`), title, by: BY, classId, variant, plan, keptOn }];
  };
  return [
    ...keep('First walk-round, 30 minutes', 'counterbalance-forklift', 44, (pack) =>
      proposeLesson(pack, { subject: 'round', minutes: 30 }),
    ),
    ...keep('Starting on a cold morning', 'wheel-loader', 16, (pack) =>
      proposeLesson(pack, { subject: 'startup' }),
    ),
  ];
}

/** Practice set for this week: what Isla has before her, and a drill that somebody is late with. */
export function practiceSets({ packs, people, today, newId }: History): DemoSet[] {
  const pack = packs.find((each) => each.id === 'counterbalance-forklift');
  if (!pack) return [];
  const set = (given: string, form: DemoSet['form'], times: number, dueIn: number): DemoSet[] => {
    const who = people.find((each) => each.givenName === given);
    if (!who) return [];
    const setAt = `${addDays(today, -3)}T07:30:00.000Z`;
    return [
      {
        id: newId(setAt),
        personId: who.id,
        classId: pack.id,
        variant: pack.variants[0]!.id,
        form,
        program: form === 'desk' ? 'start' : null,
        times,
        dueOn: addDays(today, dueIn),
        by: BY,
        setAt,
      },
    ];
  };
  const other = people.find(
    (each) => each.givenName !== 'Isla' && each.team === people.find((one) => one.givenName === 'Isla')?.team,
  );
  return [
    ...set('Isla', 'round', 2, 6),
    ...set('Isla', 'desk', 1, 9),
    ...(other ? set(other.givenName, 'weak', 1, -1) : []),
  ];
}
