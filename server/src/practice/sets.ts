import type { PracticeSet, RouteInput, routes } from '@rounds/contract';
import type { PlainDate } from '@rounds/core/calendar';
import type { EffectivePack } from '@rounds/core/catalogue';
import { commandPlaces } from '@rounds/core/commands';
import { programsOf } from '@rounds/core/machine';
import { and, asc, eq, inArray, type SQL, sql } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { composeOrProblem, packOrProblem } from '../classes/packs';
import { type House, note } from '../data/context';
import { bench } from '../data/gradingSchema';
import { account, machineClass, person } from '../data/schema';
import { commandSet, deskRun, drill, practiceSet } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';

/** How often a set's person has ended something in its class since it was set, as far as `also` holds. */
const ended = (
  what: typeof drill | typeof bench | typeof deskRun | typeof commandSet,
  also = sql`true`,
) => sql`(
  select count(*)::int from ${what}
  where ${what.personId} = ${practiceSet.personId}
    and ${what.classId} = ${practiceSet.classId}
    and ${what.endedAt} >= ${practiceSet.setAt}
    and ${also}
)`;
/** How often a set was done. What was made without a network counts for none, nor a run at the desk that was no test. */
const timesDone = sql<number>`(case ${practiceSet.form}
  when 'bench' then ${ended(bench, sql`${bench.kind} <> 'numbers'`)}
  when 'desk' then ${ended(deskRun, sql`${deskRun.program} = ${practiceSet.program} and ${deskRun.mode} = 'test'`)}
  when 'commands' then ${ended(commandSet)}
  else ${ended(
    drill,
    sql`${drill.form} = ${practiceSet.form} and not ${drill.offline}
      and (${practiceSet.form} <> 'station' or ${drill.deal} ->> 'station' = ${practiceSet.station})`,
  )}
end)`;

/** Practice set and not done, the first due first. `whose` says of which people. */
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
    program: set.program,
    times: set.times,
    done,
    dueOn: set.dueOn,
    overdue: set.dueOn < today,
    by,
    person: { id: set.personId, name: `${given} ${family}` },
  }));
}

/** Refuses what a class in this variant has none of. */
function mustHave(
  pack: EffectivePack,
  { form, station, program }: RouteInput<typeof routes.setPractice>['body'],
) {
  if (form === 'station' && !pack.checkpoints.some((each) => each.station === station))
    throw new ProblemError('drill-act', 'There is nothing to check at that station with this machine.');
  if (form === 'desk' && (program === null || !programsOf(pack).includes(program)))
    throw new ProblemError('desk-run', `${pack.title} has nothing of this kind to do at its desk.`);
  const { desk } = pack.machine;
  if (form === 'commands' && (!desk || commandPlaces(desk).length === 0))
    throw new ProblemError('command-set', `${pack.title} has no commands to call.`);
}

/** Sets people what to practise. Sent again, nothing is set twice. */
export async function setPractice(
  house: House,
  body: RouteInput<typeof routes.setPractice>['body'],
  caller: Caller,
): Promise<void> {
  const { people, ...asked } = body;
  const pack = composeOrProblem(await packOrProblem(house.db, asked.classId), { variant: asked.variant });
  mustHave(pack, body);
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
          program: asked.form === 'desk' ? asked.program : null,
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
    if (!gone) throw new ProblemError('not-found', 'There is nothing of the kind to take back.');
    await note(db, caller, 'practice-set-dropped', id, gone);
  });
}
