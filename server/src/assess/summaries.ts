import type { EvaluationSummary } from '@rounds/contract';
import { and, desc, eq, inArray, lt, ne, sql, type SQL } from 'drizzle-orm';
import type { House } from '../house/context';
import { account, evaluation, machineClass, person, unit } from '../house/schema';

/** What list of evaluations is wanted. */
export interface SummaryFilter {
  personId?: string;
  id?: string;
  open?: boolean;
  planted?: boolean;
  team?: string;
  before?: string;
  limit?: number;
}

/** Evaluations in list form, newest first. */
export async function summaryRows(house: House, filter: SummaryFilter): Promise<EvaluationSummary[]> {
  const wanted: (SQL | undefined)[] = [
    filter.personId ? eq(evaluation.personId, filter.personId) : undefined,
    filter.id ? eq(evaluation.id, filter.id) : undefined,
    filter.open === undefined ? undefined : filter.open ? ne(evaluation.phase, 'closed') : eq(evaluation.phase, 'closed'),
    filter.planted ? sql`jsonb_array_length(${evaluation.stillPlanted}) > 0` : undefined,
    filter.team ? inArray(evaluation.personId, house.db.select({ id: person.id }).from(person).where(eq(person.team, filter.team))) : undefined,
    filter.before ? lt(evaluation.createdAt, filter.before) : undefined,
  ];
  const rows = await house.db
    .select({ e: evaluation, given: person.givenName, family: person.familyName, classTitle: machineClass.title, unitName: unit.name, trainerName: account.name })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .innerJoin(machineClass, eq(machineClass.id, evaluation.classId))
    .innerJoin(unit, eq(unit.id, evaluation.unitId))
    .innerJoin(account, eq(account.id, evaluation.trainerId))
    .where(and(...wanted))
    .orderBy(desc(evaluation.createdAt), desc(evaluation.id))
    .limit(filter.limit ?? 100);
  return rows.map(({ e, given, family, classTitle, unitName, trainerName }) => ({
    id: e.id,
    personId: e.personId,
    personName: `${given} ${family}`,
    classId: e.classId,
    classTitle,
    unitName,
    trainerId: e.trainerId,
    trainerName,
    createdAt: new Date(e.createdAt).toISOString(),
    phase: e.phase as EvaluationSummary['phase'],
    outcome: e.outcome,
    score: e.score === null ? null : Number(e.score),
    overridden: e.overridden,
    stillPlanted: e.stillPlanted,
  }));
}
