import { addDays } from '@rounds/core/calendar';
import { compose, GRADES, type Grade, severity } from '@rounds/core/catalogue';
import {
  type Deal,
  dealDrill,
  type DrillAct,
  type DrillForm,
  type Learner,
  scriptedDrill,
} from '@rounds/core/drill';
import type { History } from './evaluations';
import { TEAMS, TRAINERS } from './names';

/** A walk-round drill as somebody worked it. */
export interface DemoDrill {
  id: string;
  personId: string;
  /** Login of the account that it was worked with. */
  by: string;
  classId: string;
  composition: { variant: string };
  form: DrillForm;
  deal: Deal;
  startedAt: string;
  endedAt: string;
  acts: { id: string; act: DrillAct }[];
}

const FORKLIFT = 'counterbalance-forklift';

/** Somebody who leaves out a way to check now and then, and grades one too low or too high now and then. */
function learner(sure: number, random: () => number): Learner {
  return {
    methods: (allowed) => allowed.filter((_, i) => i === 0 || random() < sure),
    call: (seen): Grade => {
      if (random() < sure) return seen;
      const by = random() < 0.7 ? -1 : 1;
      return GRADES[Math.min(3, Math.max(0, severity(seen) + by))]!;
    },
  };
}

/** Drills that people worked: Isla's rising ones on the forklift, and some of others. */
export function drills({ packs, people, today, random, newId }: History): DemoDrill[] {
  const made: DemoDrill[] = [];
  const work = (
    who: { person: History['people'][number]; by: string },
    classId: string,
    daysAgo: number,
    sure: number,
    form: DrillForm = 'round',
  ) => {
    const pack = packs.find((each) => each.id === classId);
    if (!pack) return;
    const composition = { variant: pack.variants[0]!.id };
    const effective = compose(pack, composition);
    const deal = dealDrill(effective, { form, seed: Math.floor(random() * 2 ** 31) });
    const startedAt = `${addDays(today, -daysAgo)}T12:10:00.000Z`;
    made.push({
      id: newId(startedAt),
      personId: who.person.id,
      by: who.by,
      classId,
      composition,
      form,
      deal,
      startedAt,
      endedAt: new Date(Date.parse(startedAt) + 900_000).toISOString(),
      acts: scriptedDrill(effective, deal, learner(sure, random)).map((act) => ({
        id: newId(startedAt),
        act,
      })),
    });
  };
  const isla = people.find((each) => each.givenName === 'Isla');
  if (isla) {
    const own = { person: isla, by: 'isla' };
    for (const [daysAgo, sure] of [
      [40, 0.45],
      [29, 0.6],
      [17, 0.75],
      [8, 1],
    ] as const)
      work(own, FORKLIFT, daysAgo, sure);
    work(own, FORKLIFT, 5, 0.8, 'weak');
    work(own, 'reach-truck', 12, 0.6);
  }
  const others = people.filter((each) => each !== isla).slice(0, 6);
  for (const [i, person] of others.entries()) {
    const classes = TEAMS.find(([team]) => team === person.team)![2].filter((each) =>
      packs.some((pack) => pack.id === each),
    );
    const classId = classes[i % Math.max(1, classes.length)];
    if (classId) work({ person, by: TRAINERS[i % TRAINERS.length]![1] }, classId, 6 + 5 * i, 0.5 + 0.08 * i);
  }
  return made;
}
