import type { ClassPractice, RouteAnswer, routes } from '@rounds/contract';
import type { Pack } from '@rounds/core/catalogue';
import { isDue, isReady, type ItemState, itemStates, itemWords } from '@rounds/core/practice';
import { and, asc, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { publishedPack } from '../classes/packs';
import { type House, siteToday } from '../data/context';
import { machineClass, person } from '../data/schema';
import { commandSet, deskRun, drill, practiceSet } from '../data/teachingSchema';
import { personOr404 } from '../people/roster';
import { bench, exercise, exercisePlace } from '../data/gradingSchema';
import { classesPractised, reviewsOf } from '../data/practiceReviews';
import { classesCommanded, commandFigures } from './commands';
import { classesAtDesk, deskFigures } from './desk';
import { partsOf, shownBeyondRounds } from './readiness';
import { openSets } from './sets';

/** Most things forgotten that are listed. */
const MOST_FORGOTTEN = 8;
/** Drills without a network that are listed, the latest first. */
const MOST_OFFLINE = 20;

function forgotten(pack: Pack, states: readonly ItemState[]): ClassPractice['forgotten'] {
  return states
    .filter((each) => each.wrong > 0)
    .sort(
      (a, b) => b.wrong / b.times - a.wrong / a.times || b.wrong - a.wrong || a.item.localeCompare(b.item),
    )
    .flatMap(({ item, times, wrong }) => {
      const says = itemWords(pack, item);
      return says ? [{ item, says, times, wrong }] : [];
    })
    .slice(0, MOST_FORGOTTEN);
}

/** What the benches of a class come to. */
function benchFigures(ended: readonly (typeof bench.$inferSelect)[]) {
  const findings = ended.filter((each) => each.kind !== 'numbers');
  const sum = (of: (each: (typeof ended)[number]) => number) =>
    findings.reduce((total, each) => total + of(each), 0);
  const last = ended.at(-1);
  return {
    benches: ended.length,
    graded: sum((each) => each.answered),
    gradedRight: sum((each) => each.right),
    lastBench: last ? { id: last.id, endedAt: new Date(last.endedAt!).toISOString() } : null,
  };
}

/** Drills, benches or runs at a desk that the caller began for a person and did not end. */
function begun(
  house: House,
  table: typeof drill | typeof bench | typeof deskRun | typeof commandSet,
  personId: string,
  caller: Caller,
) {
  return house.db
    .select({ id: table.id, classTitle: machineClass.title, startedAt: table.startedAt })
    .from(table)
    .innerJoin(machineClass, eq(machineClass.id, table.classId))
    .where(and(eq(table.personId, personId), eq(table.accountId, caller.id), isNull(table.endedAt)))
    .orderBy(asc(table.startedAt));
}

/** Most class exercises that are listed. */
const MOST_EXERCISES = 20;

/** Class exercises that a person took part in, the latest first. */
async function exercisesOf(house: House, personId: string) {
  const rows = await house.db
    .select({
      id: exercise.id,
      title: exercise.title,
      classTitle: machineClass.title,
      endedAt: exercise.endedAt,
      right: exercisePlace.right,
      of: exercisePlace.graded,
    })
    .from(exercisePlace)
    .innerJoin(exercise, eq(exercise.id, exercisePlace.exerciseId))
    .innerJoin(machineClass, eq(machineClass.id, exercise.classId))
    .where(and(eq(exercisePlace.personId, personId), isNotNull(exercise.endedAt)))
    .orderBy(desc(exercise.endedAt))
    .limit(MOST_EXERCISES);
  return rows.map((each) => ({ ...each, endedAt: new Date(each.endedAt!).toISOString() }));
}

/** What a person has practised, a class at a time, the latest first. */
export async function personPractice(
  house: House,
  caller: Caller,
  id: string,
): Promise<RouteAnswer<typeof routes.personPractice>> {
  const who = await personOr404(house, caller, id);
  const every = await house.db
    .select({
      id: drill.id,
      classId: drill.classId,
      form: drill.form,
      endedAt: drill.endedAt,
      endedOn: drill.endedOn,
      result: drill.result,
      met: drill.met,
      offline: drill.offline,
    })
    .from(drill)
    .where(and(eq(drill.personId, id), isNotNull(drill.endedAt)))
    .orderBy(asc(drill.endedAt));
  const rows = every.filter((each) => !each.offline);
  const benches = await house.db
    .select()
    .from(bench)
    .where(and(eq(bench.personId, id), isNotNull(bench.endedAt)))
    .orderBy(asc(bench.endedAt));
  const now = house.now().toISOString();
  const classes: ClassPractice[] = [];
  const drilled = rows.map((each) => each.classId).reverse();
  const practisedIn = [
    ...(await classesPractised(house.db, id)),
    ...(await classesAtDesk(house, id)),
    ...(await classesCommanded(house, id)),
  ];
  const all = [...new Set([...drilled, ...practisedIn])];
  const shown = await shownBeyondRounds(house, eq(person.id, id), all);
  for (const classId of all) {
    const own = rows.filter((each) => each.classId === classId);
    const point = ({ id: drillId, endedAt, result }: (typeof own)[number]) => ({
      id: drillId,
      endedAt: new Date(endedAt!).toISOString(),
      score: result!.score,
    });
    const published = await publishedPack(house.db, classId);
    const ownBenches = benches.filter((each) => each.classId === classId);
    const states = [...itemStates(await reviewsOf(house.db, id, classId)).values()];
    const metOn = [...new Set(own.filter((each) => each.met).map((each) => each.endedOn!))];
    const parts = published ? partsOf(published.pack, { personId: id, classId }, metOn, shown) : [];
    classes.push({
      classId,
      classTitle: published?.pack.title ?? classId,
      drills: own.length,
      last: own.length > 0 ? point(own.at(-1)!) : null,
      trend: own
        .filter((each) => each.form === 'round')
        .map((each) => ({
          ...point(each),
          chance: each.result!.chance,
          dPrime: each.result!.detection.sensitivity?.dPrime ?? null,
        })),
      ...benchFigures(ownBenches),
      ...(await deskFigures(house, id, classId)),
      ...(await commandFigures(house, id, classId)),
      items: states.length,
      due: states.filter((each) => isDue(each, now)).length,
      forgotten: published ? forgotten(published.pack, states) : [],
      metOn,
      parts,
      ready: isReady(parts),
    });
  }
  const open = [
    ...(await begun(house, drill, id, caller)).map((each) => ({ ...each, what: 'drill' as const })),
    ...(await begun(house, bench, id, caller)).map((each) => ({ ...each, what: 'bench' as const })),
    ...(await begun(house, deskRun, id, caller)).map((each) => ({ ...each, what: 'desk' as const })),
    ...(await begun(house, commandSet, id, caller)).map((each) => ({ ...each, what: 'commands' as const })),
  ];
  return {
    person: { id: who.id, name: `${who.givenName} ${who.familyName}` },
    classes,
    offline: await Promise.all(
      every
        .filter((each) => each.offline)
        .reverse()
        .slice(0, MOST_OFFLINE)
        .map(async ({ id: drillId, classId, endedAt, result }) => ({
          id: drillId,
          classTitle: (await publishedPack(house.db, classId))?.pack.title ?? classId,
          endedAt: new Date(endedAt!).toISOString(),
          score: result!.score,
        })),
    ),
    exercises: await exercisesOf(house, id),
    sets: (await openSets(house, await siteToday(house), eq(practiceSet.personId, id))).map(
      ({ person: _person, ...set }) => set,
    ),
    open: open.map((each) => ({ ...each, startedAt: new Date(each.startedAt).toISOString() })),
  };
}
