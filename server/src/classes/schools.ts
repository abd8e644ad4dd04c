import type { SchoolChoice } from '@rounds/contract';
import type { Pack } from '@rounds/core/catalogue';
import { and, asc, eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { type House, note } from '../data/context';
import type { Database } from '../data/database';
import { account, person, schoolChoiceRow, unit } from '../data/schema';
import { ProblemError } from '../http/problem';
import { holdClass } from './packs';

/** Sites the organisation has people or machines at. */
export async function sitesOf(db: Database): Promise<string[]> {
  const rows = [
    ...(await db.selectDistinct({ site: person.site }).from(person)),
    ...(await db.selectDistinct({ site: unit.site }).from(unit)),
  ];
  return [...new Set(rows.map((each) => each.site).filter(Boolean))].sort((a, b) => a.localeCompare(b, 'en'));
}

/** What the sites chose in a class, oldest first. */
export async function choiceLog(db: Database, classId: string, site?: string): Promise<SchoolChoice[]> {
  const rows = await db
    .select({ row: schoolChoiceRow, by: account.name })
    .from(schoolChoiceRow)
    .leftJoin(account, eq(account.id, schoolChoiceRow.accountId))
    .where(
      and(
        eq(schoolChoiceRow.classId, classId),
        site === undefined ? undefined : eq(schoolChoiceRow.site, site),
      ),
    )
    .orderBy(asc(schoolChoiceRow.seq));
  return rows.map(({ row, by }) => ({
    site: row.site,
    schoolId: row.schoolId,
    optionId: row.optionId,
    reason: row.reason,
    by: by ?? 'unknown',
    at: new Date(row.chosenAt).toISOString(),
  }));
}

/**
 * The choices of a site that still hold for a pack: the newest of each school, where the pack still has
 * that option.
 */
export async function siteChoices(
  db: Database,
  pack: Pack,
  site: string | undefined,
): Promise<Record<string, string>> {
  if (!site) return {};
  const options = new Map(pack.schools.map((each) => [each.id, new Set(each.options.map((o) => o.id))]));
  return Object.fromEntries(
    (await choiceLog(db, pack.id, site))
      .filter((each) => options.get(each.schoolId)?.has(each.optionId))
      .map((each) => [each.schoolId, each.optionId]),
  );
}

/**
 * Records a choice. Throws the unknown-row problem where the pack has no such school or option, the not-found
 * one for a site nobody is at, and the choice-moved one where another option than `instead` is in force by
 * now.
 */
export async function chooseSchool(
  house: House,
  caller: Caller,
  pack: Pack,
  choice: {
    site: string;
    schoolId: string;
    optionId: string;
    reason: string;
    instead?: string | null | undefined;
  },
): Promise<void> {
  const { instead, ...chosen } = choice;
  const school = pack.schools.find((each) => each.id === choice.schoolId);
  if (!school?.options.some((each) => each.id === choice.optionId))
    throw new ProblemError('unknown-row', `${pack.title} has no such position to choose. Nothing was saved.`);
  await house.db.transaction(async (db) => {
    await holdClass(db, pack.id);
    if (!(await sitesOf(db)).includes(choice.site))
      throw new ProblemError(
        'not-found',
        `Nobody works at a site called "${choice.site}". Nothing was saved.`,
      );
    const before = (await siteChoices(db, pack, choice.site))[choice.schoolId] ?? null;
    if (instead !== undefined && instead !== before)
      throw new ProblemError(
        'choice-moved',
        `Somebody else chose for ${choice.site} after you opened this page. Nothing was ` +
          'saved; look at what holds now.',
      );
    await db.insert(schoolChoiceRow).values({
      id: uuidv7(),
      classId: pack.id,
      ...chosen,
      accountId: caller.id,
      chosenAt: house.now().toISOString(),
    });
    await note(db, caller, 'school-chosen', pack.id, { ...chosen, before });
  });
}
