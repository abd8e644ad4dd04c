import { benchKey } from '@rounds/core/bench';
import { type Grade, severity } from '@rounds/core/catalogue';
import type { Counted } from '@rounds/core/insight';
import { and, asc, eq, gte, isNotNull, lt } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { effectivePackOf } from '../classes/packs';
import type { House } from '../data/context';
import { bench, benchAnswerRow, exercise, exerciseAnswer, exercisePlace } from '../data/gradingSchema';
import { person } from '../data/schema';
import { type Asked, askedDays, type ObservationRow } from './observations';

const nameOf = (who: { givenName: string; familyName: string }) => `${who.givenName} ${who.familyName}`;

/** Every grade that somebody gave, in evaluations, on benches and in class exercises: whether it was too low. */
export async function gradesGiven(
  house: House,
  caller: Caller,
  asked: Asked,
  evaluations: readonly ObservationRow[],
): Promise<Counted[]> {
  const judged = (who: typeof person.$inferSelect, key: Grade, given: Grade): Counted => ({
    key: who.id,
    name: nameOf(who),
    who: who.id,
    failed: severity(given) < severity(key),
  });
  const grades: Counted[] = evaluations.flatMap(({ row, who }) =>
    row.body.faults.flatMap(({ key, given }) => (given === null ? [] : [judged(who, key, given)])),
  );
  const { after, before, holds } = await askedDays(house, asked);
  const scope = withinScope(scopeOf(caller));
  const benched = await house.db
    .select({ row: bench, answer: benchAnswerRow, who: person })
    .from(benchAnswerRow)
    .innerJoin(bench, eq(bench.id, benchAnswerRow.benchId))
    .innerJoin(person, eq(person.id, bench.personId))
    .where(
      and(
        scope,
        isNotNull(bench.endedAt),
        gte(bench.endedAt, after),
        lt(bench.endedAt, before),
        asked.classId ? eq(bench.classId, asked.classId) : undefined,
      ),
    )
    .orderBy(asc(bench.endedAt));
  for (const { row, answer, who } of benched) {
    if (!holds(row.endedAt!) || row.dealt.of !== 'findings' || 'choice' in answer.body) continue;
    const key = benchKey(
      await effectivePackOf(house.db, row.packHash),
      row.dealt.deal.cases[answer.n]!,
    ).grade;
    grades.push(judged(who, key, answer.body.grade));
  }
  const shown = await house.db
    .select({ row: exercise, answer: exerciseAnswer, who: person })
    .from(exerciseAnswer)
    .innerJoin(exercisePlace, eq(exercisePlace.id, exerciseAnswer.placeId))
    .innerJoin(exercise, eq(exercise.id, exerciseAnswer.exerciseId))
    .innerJoin(person, eq(person.id, exercisePlace.personId))
    .where(
      and(
        scope,
        isNotNull(exercise.endedAt),
        gte(exercise.endedAt, after),
        lt(exercise.endedAt, before),
        asked.classId ? eq(exercise.classId, asked.classId) : undefined,
      ),
    )
    .orderBy(asc(exercise.endedAt));
  for (const { row, answer, who } of shown) {
    if (!holds(row.endedAt!) || !row.revealed.includes(answer.n)) continue;
    const key = benchKey(await effectivePackOf(house.db, row.packHash), row.cases[answer.n]!).grade;
    grades.push(judged(who, key, answer.grade));
  }
  return grades;
}
