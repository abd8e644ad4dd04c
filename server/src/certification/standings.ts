import type { Role } from '@rounds/contract';
import { standing, type CertificationEvent, type CertificationEventBody, type PlainDate, type RuleSet, type Standing } from '@rounds/core';
import { asc, inArray } from 'drizzle-orm';
import type { Database } from '../house/database';
import type { Caller } from '../house/context';
import { certificationEventRow, type person } from '../house/schema';

type PersonRow = typeof person.$inferSelect;

/** Whether a caller may see a person: operators themselves, supervisors their team, trainers and administrators everybody. */
export function maySee(caller: Caller, who: { id: string; team: string }): boolean {
  const all: readonly Role[] = ['trainer', 'administrator'];
  if (all.includes(caller.role)) return true;
  if (caller.role === 'supervisor') return caller.team !== null && caller.team === who.team;
  return caller.role === 'operator' && caller.personId === who.id;
}

/** Certification events by person, then class, each list in date order. */
export async function eventsByPerson(db: Database, people?: readonly string[]): Promise<Map<string, Map<string, CertificationEvent[]>>> {
  const rows = await db
    .select({ personId: certificationEventRow.personId, classId: certificationEventRow.classId, on: certificationEventRow.on, body: certificationEventRow.body })
    .from(certificationEventRow)
    .where(people ? inArray(certificationEventRow.personId, [...people]) : undefined)
    .orderBy(asc(certificationEventRow.on), asc(certificationEventRow.seq));
  const result = new Map<string, Map<string, CertificationEvent[]>>();
  for (const row of rows) {
    let classes = result.get(row.personId);
    if (!classes) result.set(row.personId, (classes = new Map()));
    let list = classes.get(row.classId);
    if (!list) classes.set(row.classId, (list = []));
    list.push({ on: row.on, body: row.body as CertificationEventBody });
  }
  return result;
}

/** Standings of people in every class they have events in. */
export async function standingsOf(
  db: Database,
  people: readonly PersonRow[],
  rules: RuleSet,
  on: PlainDate,
): Promise<Map<string, { classId: string; standing: Standing }[]>> {
  if (people.length === 0) return new Map();
  const events = await eventsByPerson(db, people.length > 400 ? undefined : people.map((each) => each.id));
  return new Map(
    people.map((each) => [
      each.id,
      [...(events.get(each.id) ?? [])]
        .map(([classId, list]) => ({ classId, standing: standing(list, rules, on, each.born) }))
        .sort((a, b) => (a.classId < b.classId ? -1 : 1)),
    ]),
  );
}
