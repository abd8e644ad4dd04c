import type { SequenceSession } from '@rounds/contract';
import { stepTrends } from '@rounds/core/procedure';
import { and, desc, eq } from 'drizzle-orm';
import { type Caller, maySee, scopeOf, withinScope } from '../accounts/access';
import { effectivePackOf } from '../classes/packs';
import type { House } from '../data/context';
import { evaluation, machineClass, person, sequenceResult, unit } from '../data/schema';
import { ProblemError } from '../http/problem';
import { seesKey } from './access';

/** Sessions that are shown of a person, and that the figures of a class are made from. */
const MOST_OF_PERSON = 60;
const MOST_OF_CLASS = 2000;

/** A person's judged sessions of start and stop, newest first. */
export async function personSequences(
  house: House,
  { id }: { id: string },
  caller: Caller,
): Promise<{ sessions: SequenceSession[] }> {
  const [who] = await house.db.select().from(person).where(eq(person.id, id));
  if (!who || !maySee(caller, who))
    throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
  const all = await house.db
    .select({
      result: sequenceResult,
      purpose: evaluation.purpose,
      outcome: evaluation.outcome,
      packHash: evaluation.packHash,
      classTitle: machineClass.title,
      unitName: unit.name,
    })
    .from(sequenceResult)
    .innerJoin(evaluation, eq(evaluation.id, sequenceResult.evaluationId))
    .innerJoin(machineClass, eq(machineClass.id, sequenceResult.classId))
    .innerJoin(unit, eq(unit.id, evaluation.unitId))
    .where(eq(sequenceResult.personId, id))
    .orderBy(desc(sequenceResult.endedAt))
    .limit(MOST_OF_PERSON);
  // Before the decision the person evaluated learns nothing of how it went.
  const rows = all.filter(({ purpose, outcome }) => seesKey(caller, { personId: id, purpose, outcome }));
  const titles = new Map<string, string>();
  for (const hash of new Set(rows.map((each) => each.packHash)))
    for (const each of (await effectivePackOf(house.db, hash)).procedures)
      titles.set(`${hash} ${each.id}`, each.title);
  return {
    sessions: rows.map(({ result, packHash, purpose, classTitle, unitName }) => ({
      purpose,
      classTitle,
      unitName,
      id: result.id,
      evaluationId: result.evaluationId,
      classId: result.classId,
      endedAt: new Date(result.endedAt).toISOString(),
      procedures: result.procedures.map((each) => ({
        id: each,
        title: titles.get(`${packHash} ${each}`) ?? each,
      })),
      score: result.score === null ? null : Number(result.score),
      critical: result.critical,
      steps: result.steps,
    })),
  };
}

/** How often the people of a class that a caller may see get each step of start and stop wrong. */
export async function classSequences(house: House, { id }: { id: string }, caller: Caller) {
  const [known] = await house.db.select().from(machineClass).where(eq(machineClass.id, id));
  if (!known) throw new ProblemError('not-found', 'There is no such class.');
  const scope = scopeOf(caller);
  const rows = await house.db
    .select({ steps: sequenceResult.steps, personId: sequenceResult.personId })
    .from(sequenceResult)
    .innerJoin(person, eq(person.id, sequenceResult.personId))
    .where(and(eq(sequenceResult.classId, id), scope ? withinScope(scope) : undefined))
    .orderBy(desc(sequenceResult.endedAt))
    .limit(MOST_OF_CLASS);
  return {
    sessions: rows.length,
    people: new Set(rows.map((each) => each.personId)).size,
    steps: stepTrends(rows.map((each) => each.steps)),
  };
}
