import type { EvaluationSummary, PlantedNow } from '@rounds/contract';
import { and, desc, eq, getTableColumns, ne, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import { maySee, withinScope, type Scope } from '../certification/standings';
import type { Caller, House } from '../data/context';
import { account, evaluation, machineClass, person, unit } from '../data/schema';
import { readCursor, writeCursor } from '../http/cursor';
import { seesKey } from './access';

/** What list of evaluations is wanted. */
export interface SummaryFilter {
  scope?: Scope;
  personId?: string;
  id?: string;
  open?: boolean;
  cursor?: string | undefined;
  limit?: number;
}

/** A place in the list: the instant to the microsecond, as the database keeps it, and the id. */
const place = z.tuple([z.string().regex(/^\d{1,19}$/), z.uuid()]);
const micros = sql<string>`(extract(epoch from ${evaluation.createdAt}) * 1000000)::bigint::text`;

async function rowsOf(house: House, filter: SummaryFilter) {
  const decider = alias(account, 'decider');
  let after: SQL | undefined;
  if (filter.cursor) {
    const [at, id] = readCursor(filter.cursor, place);
    after = sql`(${micros}::numeric, ${evaluation.id}) < (${at}::numeric, ${id}::uuid)`;
  }
  const open =
    filter.open === undefined
      ? undefined
      : filter.open
        ? ne(evaluation.phase, 'closed')
        : eq(evaluation.phase, 'closed');
  return house.db
    .select({
      e: getTableColumns(evaluation),
      at: micros,
      given: person.givenName,
      family: person.familyName,
      classTitle: machineClass.title,
      unitName: unit.name,
      trainerName: account.name,
      deciderName: decider.name,
    })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .innerJoin(machineClass, eq(machineClass.id, evaluation.classId))
    .innerJoin(unit, eq(unit.id, evaluation.unitId))
    .innerJoin(account, eq(account.id, evaluation.trainerId))
    .leftJoin(decider, eq(decider.id, evaluation.decidedBy))
    .where(
      and(
        filter.scope ? withinScope(filter.scope) : undefined,
        filter.personId ? eq(evaluation.personId, filter.personId) : undefined,
        filter.id ? eq(evaluation.id, filter.id) : undefined,
        open,
        after,
      ),
    )
    .orderBy(desc(evaluation.createdAt), desc(evaluation.id))
    .limit(filter.limit ?? 100);
}

type Row = Awaited<ReturnType<typeof rowsOf>>[number];

/**
 * A row as a caller may see it: the person evaluated learns nothing of plants before the decision, not even
 * that there are any.
 */
function shown(
  caller: Caller,
  { e, given, family, classTitle, unitName, trainerName, deciderName }: Row,
): EvaluationSummary {
  const open = seesKey(caller, e);
  const phase = e.phase as EvaluationSummary['phase'];
  return {
    id: e.id,
    personId: e.personId,
    personName: `${given} ${family}`,
    classId: e.classId,
    classTitle,
    unitName,
    trainerId: e.decidedBy ?? e.trainerId,
    trainerName: deciderName ?? trainerName,
    createdAt: new Date(e.createdAt).toISOString(),
    phase: !open && phase === 'retrieving' ? 'reviewing' : phase,
    outcome: e.outcome,
    score: e.score === null ? null : Number(e.score),
    overridden: e.overridden,
    computed: e.overridden ? e.computed : null,
    stillPlanted: open ? e.stillPlanted : [],
  };
}

/** Evaluations in list form, newest first. */
export async function summaryRows(
  house: House,
  caller: Caller,
  filter: SummaryFilter,
): Promise<EvaluationSummary[]> {
  return (await rowsOf(house, filter)).map((row) => shown(caller, row));
}

/** A page of evaluations, newest first, with the place of the next one. */
export async function summaryPage(
  house: House,
  caller: Caller,
  filter: SummaryFilter & { limit: number },
): Promise<{ rows: EvaluationSummary[]; next: string | null }> {
  const rows = await rowsOf(house, { ...filter, limit: filter.limit + 1 });
  const page = rows.slice(0, filter.limit);
  const last = page.at(-1);
  return {
    rows: page.map((row) => shown(caller, row)),
    next: rows.length > filter.limit && last ? writeCursor([last.at, last.e.id]) : null,
  };
}

/**
 * Faults still in machines, for everybody who works with them but the person they were planted for. Whose
 * evaluation it is stays with those who may see it.
 */
export async function plantedRows(house: House, caller: Caller): Promise<PlantedNow[]> {
  if (caller.role === 'operator') return [];
  const rows = await house.db
    .select({
      e: evaluation,
      who: { id: person.id, given: person.givenName, family: person.familyName, team: person.team },
      classTitle: machineClass.title,
      machine: { name: unit.name, site: unit.site },
      trainerName: account.name,
    })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .innerJoin(machineClass, eq(machineClass.id, evaluation.classId))
    .innerJoin(unit, eq(unit.id, evaluation.unitId))
    .innerJoin(account, eq(account.id, evaluation.trainerId))
    .where(sql`jsonb_array_length(${evaluation.stillPlanted}) > 0`)
    .orderBy(desc(evaluation.createdAt));
  return rows
    .filter(({ e }) => seesKey(caller, e))
    .map(({ e, who, classTitle, machine, trainerName }) => ({
      evaluationId: e.id,
      classTitle,
      unitName: machine.name,
      site: machine.site,
      trainerName,
      personName: maySee(caller, who) ? `${who.given} ${who.family}` : null,
      since: new Date(e.createdAt).toISOString(),
      faults: e.stillPlanted.map((each) => each.name),
    }));
}
