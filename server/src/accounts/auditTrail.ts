import type { RouteAnswer, RouteInput, routes } from '@rounds/contract';
import { and, desc, eq, inArray, lt } from 'drizzle-orm';
import { z } from 'zod';
import type { House } from '../data/context';
import { account, audit, evaluation, person, unit } from '../data/schema';
import { readCursor, writeCursor } from '../http/cursor';

const isId = (text: string) => z.uuid().safeParse(text).success;
const place = z.tuple([z.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER)]);

/** Names of what lines are about, by id: accounts, people, machines, and evaluations by their person. */
async function namesOf({ db }: House, subjects: readonly string[]): Promise<Map<string, string>> {
  const ids = [...new Set(subjects.filter(isId))];
  if (ids.length === 0) return new Map();
  const [accounts, people, units, evaluations] = await Promise.all([
    db.select({ id: account.id, name: account.name }).from(account).where(inArray(account.id, ids)),
    db
      .select({ id: person.id, given: person.givenName, family: person.familyName })
      .from(person)
      .where(inArray(person.id, ids)),
    db.select({ id: unit.id, name: unit.name }).from(unit).where(inArray(unit.id, ids)),
    db
      .select({ id: evaluation.id, given: person.givenName, family: person.familyName, machine: unit.name })
      .from(evaluation)
      .innerJoin(person, eq(person.id, evaluation.personId))
      .innerJoin(unit, eq(unit.id, evaluation.unitId))
      .where(inArray(evaluation.id, ids)),
  ]);
  return new Map([
    ...accounts.map((each) => [each.id, each.name] as const),
    ...people.map((each) => [each.id, `${each.given} ${each.family}`] as const),
    ...units.map((each) => [each.id, each.name] as const),
    ...evaluations.map(
      (each) => [each.id, `evaluation of ${each.given} ${each.family} on ${each.machine}`] as const,
    ),
  ]);
}

/** A page of the audit, newest first. Throws ProblemError for a place that is none. */
export async function auditTrail(
  house: House,
  query: RouteInput<typeof routes.audit>['query'],
): Promise<RouteAnswer<typeof routes.audit>> {
  const after = query.cursor ? readCursor(query.cursor, place) : null;
  const rows = await house.db
    .select({ line: audit, by: account.name })
    .from(audit)
    .leftJoin(account, eq(account.id, audit.accountId))
    .where(and(query.act ? eq(audit.act, query.act) : undefined, after ? lt(audit.seq, after[0]) : undefined))
    .orderBy(desc(audit.seq))
    .limit(query.limit + 1);
  const page = rows.slice(0, query.limit);
  const names = await namesOf(
    house,
    page.map(({ line }) => line.subject),
  );
  return {
    rows: page.map(({ line, by }) => ({
      at: new Date(line.at).toISOString(),
      by,
      act: line.act,
      subject: line.subject,
      about: names.get(line.subject) ?? (isId(line.subject) ? null : line.subject),
      detail: line.detail,
    })),
    next: rows.length > query.limit ? writeCursor([page.at(-1)!.line.seq]) : null,
  };
}
