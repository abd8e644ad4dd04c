import type { Account, Role } from '@rounds/contract';
import { DEFAULT_RULES, localDate, type PlainDate, type RuleSet } from '@rounds/core';
import { desc, eq, lte } from 'drizzle-orm';
import type { Database, Store } from './database';
import { audit, ruleSetRow, setting } from './schema';

/** The caller of a route. */
export interface Caller extends Account {
  role: Role;
}

/** What every area works with. `now` is the only clock. */
export interface House {
  store: Store;
  db: Database;
  now: () => Date;
  demo: boolean;
  /** Address for links in PDFs, null to take the request's own. */
  publicUrl: string | null;
}

export async function readSetting<T>(db: Database, key: string, fallback: T): Promise<T> {
  const [row] = await db.select().from(setting).where(eq(setting.key, key));
  return row ? (row.value as T) : fallback;
}

export async function writeSetting(db: Database, key: string, value: unknown): Promise<void> {
  await db.insert(setting).values({ key, value }).onConflictDoUpdate({ target: setting.key, set: { value } });
}

export async function siteTimeZone(house: House): Promise<string> {
  return readSetting(house.db, 'time-zone', 'UTC');
}

/** Today where the site is. */
export async function siteToday(house: House): Promise<PlainDate> {
  return localDate(house.now().toISOString(), await siteTimeZone(house));
}

/** The rule set in force on a date. */
export async function rulesOn(db: Database, on: PlainDate): Promise<{ effectiveFrom: PlainDate; rules: RuleSet }> {
  const [row] = await db.select().from(ruleSetRow).where(lte(ruleSetRow.effectiveFrom, on)).orderBy(desc(ruleSetRow.effectiveFrom), desc(ruleSetRow.createdAt)).limit(1);
  return row ? { effectiveFrom: row.effectiveFrom, rules: row.body as RuleSet } : { effectiveFrom: '2000-01-01', rules: DEFAULT_RULES };
}

/** Adds a line to the audit trail. */
export async function note(db: Database, caller: Caller | null, act: string, subject: string, detail: unknown = null): Promise<void> {
  await db.insert(audit).values({ accountId: caller?.id ?? null, act, subject, detail });
}
