import { type PackImportPlan, routes } from '@rounds/contract';
import {
  contentHash,
  type LibraryRow,
  libraryRows,
  type Pack,
  packDifferences,
  type PackError,
  packJsonSchema,
  type PackReading,
  type TableKind,
} from '@rounds/core/catalogue';
import { planSvg, RAIL_COLOURS, railLayout, railSvg } from '@rounds/core/drawing';
import { session } from '@rounds/core/procedure';
import { eq } from 'drizzle-orm';
import type { Router } from 'express';
import { type House, note } from '../data/context';
import type { Database } from '../data/database';
import { machineClass, packRevision } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import {
  contentVersion,
  holdClass,
  nextRevision,
  packOrProblem,
  packProblem,
  publishedPack,
  publishPack,
} from './packs';
import { tableCsv } from './tableCsv';

interface FileGiven {
  name: string;
  kind: 'pack' | TableKind;
  classId: string | null;
  source: string;
}

/** Reads a file in a worker thread. */
async function readFile(house: House, file: FileGiven, gone: AbortSignal): Promise<PackReading> {
  if (file.kind === 'pack') return house.pool.run('readPack', file.source.replace(/^\ufeff/, ''), { gone });
  if (!file.classId)
    throw new ProblemError(
      'invalid',
      'A table of checks or faults needs the class it belongs to. Nothing was changed.',
    );
  return house.pool.run(
    'readTable',
    { base: await packOrProblem(house.db, file.classId), kind: file.kind, source: file.source },
    { gone },
  );
}

/** What an import would publish, and the plan to show before it. Nothing is written. */
async function planned(
  db: Database,
  file: FileGiven,
  reading: PackReading,
): Promise<{ plan: PackImportPlan; pack: Pack | null }> {
  const plan = (
    classId: string,
    title: string,
    outcome: PackImportPlan['outcome'],
    more: Partial<PackImportPlan> = {},
  ): PackImportPlan => ({
    classId,
    title,
    outcome,
    hash: '',
    changes: [],
    errors: [],
    ...more,
  });
  if (!reading.pack)
    return {
      plan: plan(file.classId ?? '', file.name, 'refused', { errors: reading.errors as PackError[] }),
      pack: null,
    };
  const { pack } = reading;
  const [known] = await db.select().from(machineClass).where(eq(machineClass.id, pack.id));
  const current = known ? await publishedPack(db, pack.id) : null;
  if (!current) {
    const before = known ? await nextRevision(db, pack.id) : 1;
    const [same] = await db
      .select({ hash: packRevision.hash })
      .from(packRevision)
      .where(eq(packRevision.hash, contentHash(pack)));
    const next = same || pack.revision >= before ? pack : { ...pack, revision: before };
    return { plan: plan(pack.id, pack.title, 'new-class', { hash: contentHash(next) }), pack: next };
  }
  const changes = packDifferences(current.pack, pack);
  if (changes.length === 0)
    return { plan: plan(pack.id, pack.title, 'same', { hash: current.hash }), pack: null };
  const next = { ...pack, revision: await nextRevision(db, pack.id) };
  return {
    plan: plan(pack.id, pack.title, 'new-revision', { hash: contentHash(next), changes }),
    pack: next,
  };
}

/** Routes of search, export and import. */
export function exchangeRoutes(router: Router, house: House): void {
  let searchable: { version: string; titles: Record<string, string>; rows: LibraryRow[] } | null = null;
  const rowsOf = new Map<string, LibraryRow[]>();
  const version = () => contentVersion(house.db);
  bind(
    router,
    house,
    routes.library,
    async () => {
      const now = await version();
      if (searchable?.version === now) return searchable;
      const published = await house.db
        .select({ hash: packRevision.hash, id: machineClass.id, title: machineClass.title })
        .from(machineClass)
        .innerJoin(packRevision, eq(packRevision.hash, machineClass.publishedHash));
      for (const known of rowsOf.keys())
        if (!published.some((each) => each.hash === known)) rowsOf.delete(known);
      for (const { hash, id } of published)
        if (!rowsOf.has(hash)) rowsOf.set(hash, libraryRows(await packOrProblem(house.db, id)));
      searchable = {
        version: now,
        titles: Object.fromEntries(published.map((each) => [each.id, each.title])),
        rows: published.flatMap((each) => rowsOf.get(each.hash) ?? []),
      };
      return searchable;
    },
    { version },
  );

  bind(
    router,
    house,
    routes.previewPack,
    async ({ body, gone }) => (await planned(house.db, body, await readFile(house, body, gone))).plan,
  );

  bind(router, house, routes.importPack, async ({ body, caller, gone }) => {
    const reading = await readFile(house, body, gone);
    return house.db.transaction(async (db) => {
      if (reading.pack) await holdClass(db, reading.pack.id);
      const { plan, pack } = await planned(db, body, reading);
      if (plan.outcome === 'refused') throw packProblem(body.name, plan.errors);
      if (plan.hash !== body.hash)
        throw new ProblemError(
          'import-moved',
          `${plan.title} was changed by somebody else after you looked at what "${body.name}" ` +
            'would do. Nothing was imported; look again.',
        );
      if (pack) {
        await publishPack(db, pack, {
          accountId: caller.id,
          note: body.note || `imported from ${body.name}`,
        });
        const changes = plan.changes.map(({ section, id, kind }) => ({ section, id, kind }));
        await note(db, caller, 'class-imported', plan.classId, {
          revision: pack.revision,
          file: body.name,
          changes,
        });
      }
      return plan;
    });
  });

  bind(router, house, routes.packSchema, async () => ({
    file: JSON.stringify(packJsonSchema(), null, 2),
    name: 'pack.schema.json',
  }));
  bind(router, house, routes.classYaml, async ({ params, gone }) => ({
    file: await house.pool.run('packYaml', await packOrProblem(house.db, params.id), { gone }),
    name: `${params.id}.yaml`,
  }));
  bind(router, house, routes.classJson, async ({ params }) => ({
    file: `${JSON.stringify(await packOrProblem(house.db, params.id), null, 2)}\n`,
    name: `${params.id}.json`,
  }));
  bind(router, house, routes.checkpointsCsv, async ({ params }) => ({
    file: tableCsv(await packOrProblem(house.db, params.id), 'checkpoints'),
    name: `${params.id}-checks.csv`,
  }));
  bind(router, house, routes.faultsCsv, async ({ params }) => ({
    file: tableCsv(await packOrProblem(house.db, params.id), 'faults'),
    name: `${params.id}-faults.csv`,
  }));
  bind(router, house, routes.procedureRail, async ({ params }) => {
    const pack = await packOrProblem(house.db, params.id);
    if (!pack.procedures.some((each) => each.id === params.procedure))
      throw new ProblemError('not-found', 'There is no such procedure in this class.');
    const layout = railLayout(session(pack, [params.procedure]), 640);
    return { file: railSvg(layout, RAIL_COLOURS), name: `${params.id}-${params.procedure}.svg` };
  });
  bind(router, house, routes.planSvg, async ({ params }) => {
    const pack = await packOrProblem(house.db, params.id);
    return {
      file: planSvg(pack.plan, `Plan of the ${pack.title.toLowerCase()}, one unit is one metre`, {
        names: true,
        size: 1200,
      }),
      name: `${params.id}-plan.svg`,
    };
  });
}
