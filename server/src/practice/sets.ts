import type { PracticeSet, RouteInput, routes } from '@rounds/contract';
import type { PlainDate } from '@rounds/core/calendar';
import { and, asc, eq, inArray, type SQL, sql } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { composeOrProblem, packOrProblem } from '../classes/packs';
import { type House, note } from '../data/context';
import { account, machineClass, person } from '../data/schema';
import { drill, practiceSet } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';

/** Drills of the set's kind that its person has ended since it was set; what was made without a network counts for none. */
const timesDone = sql<number>`(
  select count(*)::int from ${drill}
  where ${drill.personId} = ${practiceSet.personId}
    and ${drill.classId} = ${practiceSet.classId}
    and ${drill.form} = ${practiceSet.form}
    and (${practiceSet.form} <> 'station' or ${drill.deal} ->> 'station' = ${practiceSet.station})
    and ${drill.endedAt} >= ${practiceSet.setAt}
    and not ${drill.offline}
)`;

/** Drills set and not done, the first due first. `whose` says of which people. */
export async function openSets(
  house: House,
  today: PlainDate,
  whose: SQL | undefined,
): Promise<(PracticeSet & { person: { id: string; name: string } })[]> {
  const rows = await house.db
    .select({
      set: practiceSet,
      classTitle: machineClass.title,
      by: account.name,
      given: person.givenName,
      family: person.familyName,
      done: timesDone,
    })
    .from(practiceSet)
    .innerJoin(machineClass, eq(machineClass.id, practiceSet.classId))
    .innerJoin(account, eq(account.id, practiceSet.setBy))
    .innerJoin(person, eq(person.id, practiceSet.personId))
    .where(and(whose, sql`${timesDone} < ${practiceSet.times}`))
    .orderBy(asc(practiceSet.dueOn), asc(practiceSet.id));
  return rows.map(({ set, classTitle, by, given, family, done }) => ({
    id: set.id,
    classId: set.classId,
    classTitle,
    variant: set.variant,
    form: set.form,
    station: set.station,
    times: set.times,
    done,
    dueOn: set.dueOn,
    overdue: set.dueOn < today,
    by,
    person: { id: set.personId, name: `${given} ${family}` },
  }));
}

/** Sets people a drill. Sent again, nothing is set twice. */
export async function setPractice(
  house: House,
  body: RouteInput<typeof routes.setPractice>['body'],
  caller: Caller,
): Promise<void> {
  const { people, ...asked } = body;
  const pack = composeOrProblem(await packOrProblem(house.db, asked.classId), { variant: asked.variant });
  if (asked.form === 'station' && !pack.checkpoints.some((each) => each.station === asked.station))
    throw new ProblemError('drill-act', 'There is nothing to check at that station with this machine.');
  const ids = people.map((each) => each.personId);
  const known = await house.db.select({ id: person.id }).from(person).where(inArray(person.id, ids));
  if (known.length < new Set(ids).size)
    throw new ProblemError('not-found', 'One of these people is not on the roster. Nothing was set.');
  await house.db.transaction(async (db) => {
    const made = await db
      .insert(practiceSet)
      .values(
        people.map(({ id, personId }) => ({
          id,
          personId,
          ...asked,
          station: asked.form === 'station' ? asked.station : null,
          setBy: caller.id,
          setAt: house.now().toISOString(),
        })),
      )
      .onConflictDoNothing()
      .returning({ id: practiceSet.id, personId: practiceSet.personId });
    for (const { id, personId } of made)
      await note(db, caller, 'practice-set', id, { personId, classId: asked.classId, dueOn: asked.dueOn });
  });
}

export async function dropPracticeSet(house: House, id: string, caller: Caller): Promise<void> {
  await house.db.transaction(async (db) => {
    const [gone] = await db
      .delete(practiceSet)
      .where(eq(practiceSet.id, id))
      .returning({ personId: practiceSet.personId, classId: practiceSet.classId });
    if (!gone) throw new ProblemError('not-found', 'There is no such drill to take back.');
    await note(db, caller, 'practice-set-dropped', id, gone);
  });
}
