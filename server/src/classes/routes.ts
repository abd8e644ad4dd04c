import { type ClassSummary, gradingRoutes, routes, type Unit } from '@rounds/contract';
import { rulesOn } from '@rounds/core/certification';
import { asc, count, eq, sql } from 'drizzle-orm';
import type { Router } from 'express';
import { readRules } from '../certification/standings';
import { type House, siteToday } from '../data/context';
import { machineClass, packRevision, unit } from '../data/schema';
import { bind } from '../http/binder';
import { draftRoutes } from './drafts';
import { exchangeRoutes } from './exchange';
import { contentVersion, packOrProblem, publishedPack } from './packs';
import { endPolicy, policyEffect, policyLines, raisePolicy, sitePolicy } from './policy';
import { printRoutes } from './prints';
import { choiceLog, chooseSchool, siteChoices, sitesOf } from './schools';

/** Machine classes in list form; the outline for the thumbnail comes out of the pack in the database. */
async function summaries(house: House, id?: string): Promise<ClassSummary[]> {
  const units = house.db
    .select({ classId: unit.classId, n: count().as('n') })
    .from(unit)
    .groupBy(unit.classId)
    .as('units');
  const rows = await house.db
    .select({
      id: machineClass.id,
      title: machineClass.title,
      family: machineClass.family,
      revision: packRevision.revision,
      checkpoints: sql<number>`coalesce(jsonb_array_length(${packRevision.body} -> 'checkpoints'), 0)`,
      faults: sql<number>`coalesce(jsonb_array_length(${packRevision.body} -> 'faults'), 0)`,
      outlines: sql<ClassSummary['outlines'] | null>`${packRevision.body} #> '{plan,outlines}'`,
      units: sql<number>`coalesce(${units.n}, 0)::int`,
    })
    .from(machineClass)
    .leftJoin(packRevision, eq(packRevision.hash, machineClass.publishedHash))
    .leftJoin(units, eq(units.classId, machineClass.id))
    .where(id === undefined ? undefined : eq(machineClass.id, id))
    .orderBy(asc(machineClass.family), asc(machineClass.title));
  return rows.map((row) => ({
    ...row,
    outlines: (row.outlines ?? []).map(({ part, points, solid }) => ({ part, points, solid })),
  }));
}

function shown(row: typeof unit.$inferSelect): Unit {
  return row;
}

/** Routes of machine classes and machines. */
export function classRoutes(router: Router, house: House): void {
  bind(router, house, routes.classes, async () => ({ classes: await summaries(house) }), {
    version: () => contentVersion(house.db),
  });

  bind(router, house, routes.machineClass, async ({ params, query }) => {
    const published = await publishedPack(house.db, params.id);
    const [summary] = await summaries(house, params.id);
    const today = await siteToday(house);
    const rules = rulesOn((await readRules(house.db)).of(query.site ?? '', params.id), today);
    const units = (
      await house.db.select().from(unit).where(eq(unit.classId, params.id)).orderBy(unit.name)
    ).map(shown);
    return {
      summary: summary!,
      pack: published?.pack ?? null,
      publishedAt: published?.publishedAt ?? null,
      rules,
      units,
      sites: await sitesOf(house.db),
      choices: published ? await siteChoices(house.db, published.pack, query.site) : {},
      choiceLog: await choiceLog(house.db, params.id, query.site),
      policy: await sitePolicy(house.db, query.site, today),
    };
  });

  bind(router, house, routes.chooseSchool, async ({ params, body, caller }) => {
    const pack = await packOrProblem(house.db, params.id);
    await chooseSchool(house, caller, pack, body);
    return {
      choices: await siteChoices(house.db, pack, body.site),
      choiceLog: await choiceLog(house.db, params.id, body.site),
    };
  });

  bind(router, house, gradingRoutes.policy, () => policyLines(house));
  bind(router, house, gradingRoutes.previewPolicy, ({ body }) => policyEffect(house.db, body));
  bind(router, house, gradingRoutes.raisePolicy, async ({ body, caller }) => {
    await raisePolicy(house, body, caller);
    return { done: true } as const;
  });
  bind(router, house, gradingRoutes.endPolicy, async ({ params, body, caller }) => {
    await endPolicy(house, { params, body }, caller);
    return { done: true } as const;
  });
  draftRoutes(router, house);
  exchangeRoutes(router, house);
  printRoutes(router, house);
}
