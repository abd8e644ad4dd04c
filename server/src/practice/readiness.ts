import type { Pack } from '@rounds/core/catalogue';
import { localDate, type PlainDate } from '@rounds/core/calendar';
import { isReadyBy } from '@rounds/core/commands';
import { type DeskTry, type PartReadiness, readinessOf } from '@rounds/core/practice';
import { and, asc, eq, inArray, isNotNull, type SQL, sql } from 'drizzle-orm';
import { type House, siteTimeZone } from '../data/context';
import { person } from '../data/schema';
import { commandSet, deskRun } from '../data/teachingSchema';

/** What people did at desks and with commands, by person and class. */
interface Shown {
  desk: Map<string, DeskTry[]>;
  sets: Map<string, { unmet: string[] }[]>;
}

const keyOf = ({ personId, classId }: { personId: string | null; classId: string }) =>
  `${personId} ${classId}`;

function add<T>(to: Map<string, T[]>, key: string, one: T): void {
  const own = to.get(key);
  if (own) own.push(one);
  else to.set(key, [one]);
}

/** Looks up what the people of `whose` (a condition on `person`) did at desks and with commands, in some classes. */
export async function shownBeyondRounds(
  house: House,
  whose: SQL | undefined,
  classIds: readonly string[],
): Promise<Shown> {
  const shown: Shown = { desk: new Map(), sets: new Map() };
  if (classIds.length === 0) return shown;
  const zone = await siteTimeZone(house);
  const runs = await house.db
    .select({
      personId: deskRun.personId,
      classId: deskRun.classId,
      program: deskRun.program,
      mode: deskRun.mode,
      endedAt: deskRun.endedAt,
      score: sql<number | null>`(${deskRun.result} ->> 'score')::float8`,
      critical: sql<number>`(${deskRun.result} ->> 'critical')::int`,
    })
    .from(deskRun)
    .innerJoin(person, eq(person.id, deskRun.personId))
    .where(and(isNotNull(deskRun.endedAt), inArray(deskRun.classId, [...classIds]), whose));
  for (const run of runs)
    if (run.score !== null)
      add(shown.desk, keyOf(run), {
        on: localDate(new Date(run.endedAt!).toISOString(), zone),
        program: run.program,
        asTest: run.mode === 'test',
        score: run.score,
        critical: run.critical,
      });
  const sets = await house.db
    .select({
      personId: commandSet.personId,
      classId: commandSet.classId,
      unmet: sql<string[]>`${commandSet.result} -> 'unmet'`,
    })
    .from(commandSet)
    .innerJoin(person, eq(person.id, commandSet.personId))
    .where(and(isNotNull(commandSet.endedAt), inArray(commandSet.classId, [...classIds]), whose))
    .orderBy(asc(commandSet.endedAt));
  for (const set of sets) add(shown.sets, keyOf(set), set);
  return shown;
}

/** How far somebody is with each part of being ready for an assessment in a class. */
export function partsOf(
  pack: Pack,
  key: { personId: string; classId: string },
  roundDays: readonly PlainDate[],
  shown: Shown,
): PartReadiness[] {
  const sets = shown.sets.get(keyOf(key)) ?? [];
  return readinessOf(pack, {
    roundDays,
    desk: shown.desk.get(keyOf(key)) ?? [],
    commandSets: sets.length,
    commandsReady: isReadyBy(sets),
  });
}
