import { type RouteAnswer, routes } from '@rounds/contract';
import { longDate } from '@rounds/core/calendar';
import { rulesOn, type ScopedRules, standing, type Standing } from '@rounds/core/certification';
import { desc, eq } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { sitesOf } from '../classes/schools';
import { type House, lock, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { account, machineClass, person, ruleSetRow } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { eventsByPerson, projectStandings, readRules, Rules } from './standings';

type Effect = RouteAnswer<typeof routes.previewRules>['rows'][number];

/** People who are named one by one in the preview of new rules. */
const LISTED = 200;

function scoped(body: {
  site: string | null;
  classId: string | null;
  effectiveFrom: string;
  rules: ScopedRules['rules'];
  given: ScopedRules['given'];
}): ScopedRules {
  return {
    site: body.site,
    classId: body.classId,
    from: body.effectiveFrom,
    rules: body.rules,
    given: body.given,
  };
}

async function checkScope(db: Database, today: string, set: ScopedRules): Promise<void> {
  if (set.from < today)
    throw new ProblemError(
      'date-in-past',
      `Rules begin today or later; ${longDate(set.from)} has passed, and what happened ` +
        'then stays judged by the rules of then.',
    );
  if (
    set.classId !== null &&
    (await db.select({ id: machineClass.id }).from(machineClass).where(eq(machineClass.id, set.classId)))
      .length === 0
  )
    throw new ProblemError('not-found', `There is no machine class "${set.classId}".`);
  if (set.site !== null && !(await sitesOf(db)).includes(set.site))
    throw new ProblemError('not-found', `Nobody works at a site called "${set.site}".`);
}

/** Who would stand otherwise on the day a rule set begins. */
async function effectsOf(db: Database, set: ScopedRules): Promise<{ affected: number; rows: Effect[] }> {
  const now = await readRules(db);
  const then = new Rules([...now.sets, set]);
  const titles = new Map(
    (await db.select({ id: machineClass.id, title: machineClass.title }).from(machineClass)).map((each) => [
      each.id,
      each.title,
    ]),
  );
  const people = await db
    .select()
    .from(person)
    .where(eq(person.active, true))
    .orderBy(person.familyName, person.givenName, person.id);
  const rows: Effect[] = [];
  let affected = 0;
  const shown = ({ status, until, mayOperate }: Standing) => ({ status, until, mayOperate });
  for (let i = 0; i < people.length; i += 300) {
    const portion = people.slice(i, i + 300);
    const events = await eventsByPerson(
      db,
      portion.map((each) => each.id),
    );
    for (const who of portion)
      for (const [classId, list] of events.get(who.id) ?? []) {
        const before = shown(standing(list, now.of(who.site, classId), set.from, who.born));
        const after = shown(standing(list, then.of(who.site, classId), set.from, who.born));
        if (JSON.stringify(before) === JSON.stringify(after)) continue;
        affected += 1;
        if (rows.length < LISTED)
          rows.push({
            personId: who.id,
            personName: `${who.givenName} ${who.familyName}`,
            classId,
            classTitle: titles.get(classId) ?? classId,
            before,
            after,
          });
      }
  }
  return { affected, rows };
}

/** Routes of the certification rules. */
export function certificationRoutes(router: Router, house: House): void {
  bind(router, house, routes.rules, async () => {
    const today = await siteToday(house);
    const history = (await readRules(house.db)).of('', '');
    const inForce = history.findLast((each) => each.from <= today) ?? history[0];
    return { effectiveFrom: inForce.from, rules: rulesOn(history, today) };
  });

  bind(router, house, routes.rulesSets, async () => {
    const rows = await house.db
      .select({ set: ruleSetRow, by: account.name })
      .from(ruleSetRow)
      .leftJoin(account, eq(account.id, ruleSetRow.accountId))
      .orderBy(desc(ruleSetRow.seq));
    const { sets } = await readRules(house.db);
    return {
      sets: rows.map(({ set, by }, i) => ({
        id: set.id,
        site: set.site,
        classId: set.classId,
        effectiveFrom: set.effectiveFrom,
        rules: sets[sets.length - 1 - i]!.rules,
        given: sets[sets.length - 1 - i]!.given,
        by: by ?? 'shipped with Rounds',
        madeAt: new Date(set.createdAt).toISOString(),
      })),
      sites: await sitesOf(house.db),
      classes: await house.db
        .select({ id: machineClass.id, title: machineClass.title })
        .from(machineClass)
        .orderBy(machineClass.title),
    };
  });

  bind(router, house, routes.previewRules, async ({ body }) => {
    const set = scoped(body);
    await checkScope(house.db, await siteToday(house), set);
    return { on: set.from, ...(await effectsOf(house.db, set)) };
  });

  bind(router, house, routes.setRules, async ({ body, caller }) => {
    const set = scoped(body);
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      await lock(db, 'standings');
      await checkScope(db, today, set);
      const { affected } = await effectsOf(db, set);
      await db.insert(ruleSetRow).values({
        id: uuidv7(),
        site: set.site,
        classId: set.classId,
        effectiveFrom: set.from,
        given: set.given,
        body: set.rules,
        accountId: caller.id,
        createdAt: house.now().toISOString(),
      });
      await projectStandings(db, today);
      await note(db, caller, 'rules-set', set.from, {
        site: set.site,
        classId: set.classId,
        given: set.given,
        rules: set.rules,
        affected,
      });
    });
    return { done: true as const };
  });
}
