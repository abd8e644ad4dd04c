import type {
  PolicyEffect,
  PolicyLine,
  RouteAnswer,
  RouteInput,
  gradingRoutes as routes,
} from '@rounds/contract';
import { longDate, type PlainDate } from '@rounds/core/calendar';
import {
  aboutFault,
  type Composition,
  gradeKind,
  type Pack,
  type PolicyRaise,
  type PolicyScope,
  severity,
  SYSTEM_WORDS,
} from '@rounds/core/catalogue';
import { and, desc, eq, gt, isNull, lte, or } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Caller } from '../accounts/access';
import { type House, lock, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { policyLine } from '../data/gradingSchema';
import { account, machineClass } from '../data/schema';
import { ProblemError } from '../http/problem';
import { contentChanged, publishedPack } from './packs';
import { siteChoices, sitesOf } from './schools';

/** The lines that hold at a site on a day; where no site is named, those of the whole organisation. */
export async function sitePolicy(
  db: Database,
  site: string | null | undefined,
  on: PlainDate,
): Promise<PolicyRaise[]> {
  const rows = await db
    .select({ line: policyLine, by: account.name })
    .from(policyLine)
    .innerJoin(account, eq(account.id, policyLine.accountId))
    .where(
      and(
        site ? or(isNull(policyLine.site), eq(policyLine.site, site)) : isNull(policyLine.site),
        lte(policyLine.from, on),
        or(isNull(policyLine.endedOn), gt(policyLine.endedOn, on)),
      ),
    )
    .orderBy(policyLine.from, policyLine.id);
  return rows.map(({ line: { id, scope, atLeast, from, why }, by }) => ({
    id,
    scope,
    atLeast,
    from,
    why,
    by,
  }));
}

/** What a site has decided about a class: its choices between schools, and what its policy raises today. */
export async function siteTerms(
  db: Database,
  pack: Pack,
  site: string | null | undefined,
  today: PlainDate,
): Promise<Pick<Composition, 'choices' | 'policy'>> {
  return {
    choices: await siteChoices(db, pack, site ?? undefined),
    policy: await sitePolicy(db, site, today),
  };
}

/** What a line is about, in words. */
async function aboutWords(
  db: Database,
  scope: PolicyScope,
  titles: ReadonlyMap<string, string>,
): Promise<string> {
  switch (scope.of) {
    case 'every':
      return 'Every defect';
    case 'class':
      return `${titles.get(scope.classId) ?? scope.classId}: every defect`;
    case 'system':
      return `${SYSTEM_WORDS[scope.system]}: every defect`;
    case 'kind':
      return gradeKind(scope.kind)?.says ?? scope.kind;
    case 'fault': {
      const pack = titles.has(scope.classId) ? (await publishedPack(db, scope.classId))?.pack : null;
      const title = pack?.faults.find((each) => each.id === scope.fault)?.title ?? scope.fault;
      return `${titles.get(scope.classId) ?? scope.classId}: ${title}`;
    }
  }
}

async function classTitles(db: Database): Promise<Map<string, string>> {
  const rows = await db
    .select({ id: machineClass.id, title: machineClass.title })
    .from(machineClass)
    .orderBy(machineClass.title);
  return new Map(rows.map((each) => [each.id, each.title]));
}

function stateOf(line: typeof policyLine.$inferSelect, today: PlainDate): PolicyLine['state'] {
  if (line.endedOn !== null && line.endedOn <= today) return 'ended';
  return line.from > today ? 'to-come' : 'in-force';
}

/** Every line that was made, the newest first. */
export async function policyLines(house: House): Promise<RouteAnswer<typeof routes.policy>> {
  const today = await siteToday(house);
  const ender = alias(account, 'ender');
  const rows = await house.db
    .select({ line: policyLine, by: account.name, endedBy: ender.name })
    .from(policyLine)
    .innerJoin(account, eq(account.id, policyLine.accountId))
    .leftJoin(ender, eq(ender.id, policyLine.endedBy))
    .orderBy(desc(policyLine.madeAt), desc(policyLine.id));
  const titles = await classTitles(house.db);
  const lines: PolicyLine[] = [];
  for (const { line, by, endedBy } of rows)
    lines.push({
      id: line.id,
      site: line.site,
      scope: line.scope,
      atLeast: line.atLeast,
      from: line.from,
      why: line.why,
      by,
      madeAt: new Date(line.madeAt).toISOString(),
      ended:
        line.endedOn === null
          ? null
          : { on: line.endedOn, by: endedBy ?? 'unknown', why: line.endedWhy ?? '' },
      state: stateOf(line, today),
      about: await aboutWords(house.db, line.scope, titles),
    });
  return {
    today,
    lines,
    sites: await sitesOf(house.db),
    classes: [...titles].map(([id, title]) => ({ id, title })),
  };
}

type Raise = RouteInput<typeof routes.previewPolicy>['body'];

/** Which faults a line raises by itself, in every class that has some. */
export async function policyEffect(db: Database, { scope, atLeast, site }: Raise): Promise<PolicyEffect> {
  if (site !== null && !(await sitesOf(db)).includes(site))
    throw new ProblemError('not-found', `Nobody works at a site called "${site}".`);
  const titles = await classTitles(db);
  const named = scope.of === 'class' || scope.of === 'fault' ? scope.classId : null;
  if (named !== null && !titles.has(named))
    throw new ProblemError('not-found', `There is no machine class "${named}".`);
  const raise: PolicyRaise = { id: '', scope, atLeast, from: '2000-01-01', by: '', why: '' };
  const classes: PolicyEffect['classes'] = [];
  for (const [id, title] of titles) {
    if (named !== null && id !== named) continue;
    const pack = (await publishedPack(db, id))?.pack;
    if (!pack) continue;
    if (scope.of === 'fault' && !pack.faults.some((each) => each.id === scope.fault))
      throw new ProblemError('unknown-row', `${title} has no such fault.`);
    const checks = new Map(pack.checkpoints.map((each) => [each.id, each]));
    const faults = pack.faults
      .filter(
        (each) =>
          each.grade !== 'sound' &&
          severity(each.grade) < severity(atLeast) &&
          aboutFault(raise, pack, checks.get(each.checkpoint)!, each),
      )
      .map((each) => ({ id: each.id, title: each.title, from: each.grade, to: atLeast }));
    if (faults.length > 0) classes.push({ id, title, faults });
  }
  return { faults: classes.reduce((sum, each) => sum + each.faults.length, 0), classes };
}

/** Raises from a day on; sent again, it is the same line. */
export async function raisePolicy(
  house: House,
  body: RouteInput<typeof routes.raisePolicy>['body'],
  caller: Caller,
): Promise<void> {
  const today = await siteToday(house);
  if (body.from < today)
    throw new ProblemError(
      'date-in-past',
      `A policy begins today or later; what was found before ${longDate(body.from)} stays graded as it was.`,
    );
  await house.db.transaction(async (db) => {
    const { faults } = await policyEffect(db, body);
    if (faults === 0)
      throw new ProblemError(
        'nothing-raised',
        `Everything that this is about is ${body.atLeast} or graver already. Nothing was saved.`,
      );
    const made = await db
      .insert(policyLine)
      .values({ ...body, accountId: caller.id, madeAt: house.now().toISOString() })
      .onConflictDoNothing()
      .returning({ id: policyLine.id });
    if (made.length === 0) return;
    await contentChanged(db);
    await note(db, caller, 'policy-raised', body.id, {
      site: body.site,
      scope: body.scope,
      atLeast: body.atLeast,
      from: body.from,
    });
  });
}

/** Ends a line from a day on; one that is ended stays so. */
export async function endPolicy(
  house: House,
  { params: { id }, body }: Pick<RouteInput<typeof routes.endPolicy>, 'params' | 'body'>,
  caller: Caller,
): Promise<void> {
  const today = await siteToday(house);
  if (body.on < today)
    throw new ProblemError(
      'date-in-past',
      'A policy ends today or later; what was graded until then stays as it was graded.',
    );
  await house.db.transaction(async (db) => {
    await lock(db, 'policy');
    const [line] = await db.select().from(policyLine).where(eq(policyLine.id, id));
    if (!line) throw new ProblemError('not-found', 'There is no such line in the policy.');
    if (line.endedOn !== null)
      throw new ProblemError('policy-ended', `It ends on ${longDate(line.endedOn)} already.`);
    await db
      .update(policyLine)
      .set({ endedOn: body.on, endedBy: caller.id, endedWhy: body.why })
      .where(eq(policyLine.id, id));
    await contentChanged(db);
    await note(db, caller, 'policy-ended', id, { on: body.on });
  });
}
