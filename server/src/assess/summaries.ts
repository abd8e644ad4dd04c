import type { EVALUATION_ORDERS, EvaluationSummary, PlantedNow } from '@rounds/contract';
import { and, count, desc, eq, getTableColumns, ilike, ne, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import { type Caller, maySee, type Scope, withinScope } from '../accounts/access';
import type { House } from '../data/context';
import { account, evaluation, machineClass, person, unit } from '../data/schema';
import { readCursor, writeCursor } from '../http/cursor';
import { seesKey } from './access';
import type { EvaluationRow } from './stream';

/** What list of evaluations is wanted. */
export interface SummaryFilter {
  scope?: Scope;
  personId?: string;
  id?: string;
  open?: boolean;
  search?: string | undefined;
  classId?: string | undefined;
  outcome?: string | undefined;
  purpose?: EvaluationRow['purpose'];
  cursor?: string | undefined;
  limit?: number;
  page?: number;
  pageSize?: number;
  sort?: (typeof EVALUATION_ORDERS)[number];
  order?: 'ascending' | 'descending';
}

const NEWEST_FIRST = [desc(evaluation.createdAt), desc(evaluation.id)] as const;

/** The order that was asked for; evaluations of one place stand newest first. */
function orderOf({ sort = 'when', order = 'descending' }: SummaryFilter): SQL[] {
  const by = {
    when: [evaluation.createdAt, evaluation.id],
    person: [person.familyName, person.givenName],
    class: [machineClass.title, unit.name],
    trainer: [account.name],
    score: [evaluation.score],
  }[sort];
  const direction = order === 'descending' ? sql`desc` : sql`asc`;
  return [...by.map((each) => sql`${each} ${direction} nulls last`), ...NEWEST_FIRST];
}

function conditionOf(filter: SummaryFilter): SQL | undefined {
  const pattern = filter.search ? `%${filter.search.replace(/[%_\\]/g, '\\$&')}%` : null;
  return and(
    filter.scope ? withinScope(filter.scope) : undefined,
    filter.personId ? eq(evaluation.personId, filter.personId) : undefined,
    // By its id either is found; a list is of one kind.
    filter.id ? undefined : eq(evaluation.purpose, filter.purpose ?? 'evaluation'),
    filter.id ? eq(evaluation.id, filter.id) : undefined,
    filter.open === true ? ne(evaluation.phase, 'closed') : undefined,
    filter.open === false ? eq(evaluation.phase, 'closed') : undefined,
    filter.classId ? eq(evaluation.classId, filter.classId) : undefined,
    filter.outcome ? eq(evaluation.outcome, filter.outcome) : undefined,
    pattern
      ? or(
          ilike(sql`${person.givenName} || ' ' || ${person.familyName}`, pattern),
          ilike(unit.name, pattern),
          ilike(machineClass.title, pattern),
        )
      : undefined,
  );
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
    .where(and(conditionOf(filter), after))
    .orderBy(...(filter.cursor ? NEWEST_FIRST : orderOf(filter)))
    .limit(filter.limit ?? 100)
    .offset(filter.cursor || !filter.page ? 0 : (filter.page - 1) * (filter.pageSize ?? 1));
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
    purpose: e.purpose,
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
): Promise<{ rows: EvaluationSummary[]; next: string | null; total: number }> {
  const rows = await rowsOf(house, { ...filter, limit: filter.limit + 1, pageSize: filter.limit });
  const page = rows.slice(0, filter.limit);
  const last = page.at(-1);
  const byTime = (filter.sort ?? 'when') === 'when' && (filter.order ?? 'descending') === 'descending';
  const [counted] = await house.db
    .select({ n: count() })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .innerJoin(machineClass, eq(machineClass.id, evaluation.classId))
    .innerJoin(unit, eq(unit.id, evaluation.unitId))
    .where(conditionOf(filter));
  return {
    rows: page.map((row) => shown(caller, row)),
    next: byTime && rows.length > filter.limit && last ? writeCursor([last.at, last.e.id]) : null,
    total: counted?.n ?? 0,
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
