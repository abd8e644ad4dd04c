import { isDeepStrictEqual } from 'node:util';
import type { PlainDate } from '@rounds/core/calendar';
import {
  type CertificationEvent,
  certificationEventBody,
  type GivenCertificates,
  ruleSetSchema,
  rulesHistory,
  type RulesHistory,
  type ScopedRules,
  type Standing,
  standingAt,
  standingUntilChange,
} from '@rounds/core/certification';
import { and, asc, eq, gt, inArray, lte, or, sql } from 'drizzle-orm';
import { type House, lock, readSetting, siteToday, writeSetting } from '../data/context';
import type { Database } from '../data/database';
import { certificationEventRow, person, ruleSetRow, standingRow } from '../data/schema';

type PersonRow = typeof person.$inferSelect;

/** Every rule set that was made, by the site and class it is asked for. */
export class Rules {
  private readonly histories = new Map<string, RulesHistory>();
  constructor(readonly sets: readonly ScopedRules[]) {}

  of(site: string, classId: string): RulesHistory {
    // Sites and classes without rules of their own share one history.
    const ownSite = this.sets.some((each) => each.site === site) ? site : '';
    const ownClass = this.sets.some((each) => each.classId === classId) ? classId : '';
    const key = JSON.stringify([ownSite, ownClass]);
    let history = this.histories.get(key);
    if (!history) this.histories.set(key, (history = rulesHistory(this.sets, ownSite, ownClass)));
    return history;
  }
}

export async function readRules(db: Database): Promise<Rules> {
  const rows = await db.select().from(ruleSetRow).orderBy(asc(ruleSetRow.seq));
  return new Rules(
    rows.map((row) => ({
      site: row.site,
      classId: row.classId,
      from: row.effectiveFrom,
      rules: row.body === null ? null : ruleSetSchema.parse(row.body),
      given: row.given as GivenCertificates,
    })),
  );
}

/** Certification events by person, then class, each list in date order. */
export async function eventsByPerson(
  db: Database,
  people?: readonly string[],
): Promise<Map<string, Map<string, CertificationEvent[]>>> {
  const rows = await db
    .select({
      personId: certificationEventRow.personId,
      classId: certificationEventRow.classId,
      on: certificationEventRow.on,
      body: certificationEventRow.body,
    })
    .from(certificationEventRow)
    .where(people ? inArray(certificationEventRow.personId, [...people]) : undefined)
    .orderBy(asc(certificationEventRow.on), asc(certificationEventRow.seq));
  const result = new Map<string, Map<string, CertificationEvent[]>>();
  for (const row of rows) {
    let classes = result.get(row.personId);
    if (!classes) result.set(row.personId, (classes = new Map<string, CertificationEvent[]>()));
    let list = classes.get(row.classId);
    if (!list) classes.set(row.classId, (list = []));
    list.push({ on: row.on, body: certificationEventBody.parse(row.body) });
  }
  return result;
}

/** Raised when the projection is computed otherwise than before, so that a start makes it anew. */
const PROJECTION = 1;
/** People whose standings are made in one go, so that others are answered in between. */
const PORTION = 300;

/**
 * Makes the standings of people anew as of a date, in the given transaction. All people when none are
 * named.
 */
export async function projectStandings(
  db: Database,
  today: PlainDate,
  people?: readonly string[],
): Promise<number> {
  const rules = await readRules(db);
  const wanted = people
    ? [...new Set(people)]
    : (await db.select({ id: person.id }).from(person).orderBy(person.id)).map((each) => each.id);
  let made = 0;
  for (let i = 0; i < wanted.length; i += PORTION) {
    const portion = wanted.slice(i, i + PORTION);
    const who = await db
      .select({ id: person.id, site: person.site, born: person.born })
      .from(person)
      .where(inArray(person.id, portion));
    const events = await eventsByPerson(db, portion);
    const rows = who.flatMap(({ id, site, born }) =>
      [...(events.get(id) ?? [])].map(([classId, list]) => {
        const { standing, nextChange } = standingUntilChange(list, rules.of(site, classId), today, born);
        const { status, mayOperate, until } = standing;
        return { personId: id, classId, status, mayOperate, until, asOf: today, nextChange, body: standing };
      }),
    );
    const kept = new Map(
      (await db.select().from(standingRow).where(inArray(standingRow.personId, portion))).map((row) => [
        `${row.personId} ${row.classId}`,
        row,
      ]),
    );
    // A row that says the same, and still will on the days to come, is left as it is.
    const changed = rows.filter((row) => !isStillRight(kept.get(`${row.personId} ${row.classId}`), row));
    for (let k = 0; k < changed.length; k += 500)
      await db
        .insert(standingRow)
        .values(changed.slice(k, k + 500))
        .onConflictDoUpdate({
          target: [standingRow.personId, standingRow.classId],
          set: {
            status: sql`excluded.status`,
            mayOperate: sql`excluded.may_operate`,
            until: sql`excluded.until_date`,
            asOf: sql`excluded.as_of`,
            nextChange: sql`excluded.next_change`,
            body: sql`excluded.body`,
          },
        });
    made += rows.length;
  }
  return made;
}

type Kept = typeof standingRow.$inferSelect;

function isStillRight(kept: Kept | undefined, made: Kept): boolean {
  return (
    kept !== undefined &&
    kept.asOf <= made.asOf &&
    kept.nextChange === made.nextChange &&
    isDeepStrictEqual(standingAt(kept.body, made.asOf), made.body)
  );
}

/**
 * Today where the site is, once the kept standings are those of today: the ones whose span does not hold it
 * are made again, the first time a date is asked for. Also when a clock was set back.
 */
export async function standingsToday(house: House): Promise<PlainDate> {
  const today = await siteToday(house);
  if (house.known.standingsFor === today) return today;
  await house.db.transaction(async (db) => {
    await lock(db, 'standings');
    if ((await readSetting(db, 'standings', 0)) !== PROJECTION) {
      await projectStandings(db, today);
      await writeSetting(db, 'standings', PROJECTION);
      return;
    }
    const stale = await db
      .selectDistinct({ id: standingRow.personId })
      .from(standingRow)
      .where(or(lte(standingRow.nextChange, today), gt(standingRow.asOf, today)));
    if (stale.length > 0)
      await projectStandings(
        db,
        today,
        stale.map((each) => each.id),
      );
  });
  house.known.standingsFor = today;
  return today;
}

/** Kept standings of people, by person, in the order of the classes' ids. Call `standingsToday` before. */
export async function standingsOf(
  db: Database,
  people: readonly Pick<PersonRow, 'id'>[],
  today: PlainDate,
): Promise<Map<string, { classId: string; standing: Standing }[]>> {
  const result = new Map<string, { classId: string; standing: Standing }[]>(
    people.map((each) => [each.id, []]),
  );
  if (people.length === 0) return result;
  const rows = await db
    .select({ personId: standingRow.personId, classId: standingRow.classId, body: standingRow.body })
    .from(standingRow)
    .where(
      inArray(
        standingRow.personId,
        people.map((each) => each.id),
      ),
    )
    .orderBy(standingRow.classId);
  for (const row of rows)
    result.get(row.personId)!.push({ classId: row.classId, standing: standingAt(row.body, today) });
  return result;
}

/** The kept standing of one person in one class; null where nothing is on record. */
export async function standingOf(
  db: Database,
  personId: string,
  classId: string,
  today: PlainDate,
): Promise<Standing | null> {
  const [row] = await db
    .select({ body: standingRow.body })
    .from(standingRow)
    .where(and(eq(standingRow.personId, personId), eq(standingRow.classId, classId)));
  return row ? standingAt(row.body, today) : null;
}
