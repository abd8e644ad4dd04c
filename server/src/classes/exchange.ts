import { routes, type PackImportPlan } from '@rounds/contract';
import {
  applyTable,
  contentHash,
  libraryRows,
  packDifferences,
  packJsonSchema,
  packTable,
  packToYaml,
  planSvg,
  readPack,
  type LibraryRow,
  type Pack,
  type PackError,
  type TableKind,
} from '@rounds/core';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { eq } from 'drizzle-orm';
import type { Router } from 'express';
import { bind } from '../house/binder';
import { note, type House } from '../house/context';
import { ProblemError } from '../house/problem';
import { machineClass, packRevision } from '../house/schema';
import { nextRevision, packOrProblem, packProblem, publishedPack, publishPack } from './packs';

/** Spreadsheets run a cell that begins so; it goes out behind an apostrophe and comes back without it. */
const RUNS = /^[=+\-@\t\r]/;

function tableCsv(pack: Pack, kind: TableKind): string {
  return `\ufeff${stringify(packTable(pack, kind).map((row) => row.map((cell) => (RUNS.test(cell) ? `'${cell}` : cell))))}`;
}

/** A CSV text as cells with the line each row begins on. Comma or semicolon, as spreadsheets of the country write it. */
function csvCells(source: string): { cells: string[][]; lines: number[]; errors: PackError[] } {
  const head = source.split('\n', 1)[0] ?? '';
  const delimiter = (head.match(/;/g)?.length ?? 0) > (head.match(/,/g)?.length ?? 0) ? ';' : ',';
  try {
    const rows = parse(source, { bom: true, delimiter, relax_column_count: true, skip_empty_lines: true, info: true }) as unknown as {
      record: string[];
      info: { lines: number };
    }[];
    const cells = rows.map((row) => row.record.map((cell) => (cell.startsWith("'") && RUNS.test(cell.slice(1)) ? cell.slice(1) : cell)));
    const lines = rows.map((row) => row.info.lines - row.record.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0));
    return { cells, lines, errors: [] };
  } catch (error) {
    const at = (error as { lines?: number }).lines ?? 1;
    return { cells: [], lines: [], errors: [{ line: at, path: '', rule: 'csv', message: error instanceof Error ? error.message : String(error) }] };
  }
}

interface FileGiven {
  name: string;
  kind: 'pack' | TableKind;
  classId: string | null;
  source: string;
}

/** What an import would publish, and the plan to show before it. Nothing is written. */
async function planned(house: House, file: FileGiven): Promise<{ plan: PackImportPlan; pack: Pack | null }> {
  const refused = (classId: string, title: string, errors: PackError[]) => ({
    plan: { classId, title, outcome: 'refused' as const, hash: '', changes: [], errors },
    pack: null,
  });
  let reading: { pack: Pack; errors: [] } | { pack: null; errors: PackError[] };
  if (file.kind === 'pack') reading = readPack(file.source.replace(/^\ufeff/, ''));
  else {
    if (!file.classId) throw new ProblemError('invalid', 'A table of checks or faults needs the class it belongs to. Nothing was changed.');
    const base = await packOrProblem(house.db, file.classId);
    const csv = csvCells(file.source);
    reading = csv.errors.length > 0 ? { pack: null, errors: csv.errors } : applyTable(base, file.kind, csv.cells, csv.lines);
  }
  if (!reading.pack) return refused(file.classId ?? '', file.name, reading.errors);
  const { pack } = reading;
  const [known] = await house.db.select().from(machineClass).where(eq(machineClass.id, pack.id));
  const current = known ? await publishedPack(house.db, pack.id) : null;
  if (!current) {
    const before = known ? await nextRevision(house.db, pack.id) : 1;
    const [same] = await house.db
      .select()
      .from(packRevision)
      .where(eq(packRevision.hash, contentHash(pack)));
    const next = same || pack.revision >= before ? pack : { ...pack, revision: before };
    return { plan: { classId: pack.id, title: pack.title, outcome: 'new-class', hash: contentHash(next), changes: [], errors: [] }, pack: next };
  }
  const changes = packDifferences(current.pack, pack);
  if (changes.length === 0) return { plan: { classId: pack.id, title: pack.title, outcome: 'same', hash: current.hash, changes, errors: [] }, pack: null };
  const next = { ...pack, revision: await nextRevision(house.db, pack.id) };
  return { plan: { classId: pack.id, title: pack.title, outcome: 'new-revision', hash: contentHash(next), changes, errors: [] }, pack: next };
}

/** Routes of search, export and import. */
export function exchangeRoutes(router: Router, house: House): void {
  const searchable = new Map<string, LibraryRow[]>();
  bind(router, house, routes.library, async () => {
    const published = await house.db
      .select({ hash: packRevision.hash, id: machineClass.id, title: machineClass.title })
      .from(machineClass)
      .innerJoin(packRevision, eq(packRevision.hash, machineClass.publishedHash));
    for (const known of searchable.keys()) if (!published.some((each) => each.hash === known)) searchable.delete(known);
    for (const { hash } of published)
      if (!searchable.has(hash)) {
        const [row] = await house.db.select().from(packRevision).where(eq(packRevision.hash, hash));
        searchable.set(hash, libraryRows(row!.body as Pack));
      }
    return { titles: Object.fromEntries(published.map((each) => [each.id, each.title])), rows: published.flatMap((each) => searchable.get(each.hash)!) };
  });

  bind(router, house, routes.previewPack, async ({ body }) => (await planned(house, body)).plan);

  bind(router, house, routes.importPack, async ({ body, caller }) => {
    const { plan, pack } = await planned(house, body);
    if (plan.outcome === 'refused') throw packProblem(body.name, plan.errors);
    if (plan.hash !== body.hash)
      throw new ProblemError(
        'import-moved',
        `${plan.title} was changed by somebody else after you looked at what "${body.name}" would do. Nothing was imported; look again.`,
      );
    if (pack) {
      await publishPack(house.db, pack, { accountId: caller.id, note: body.note || `imported from ${body.name}` });
      await note(house.db, caller, 'class-imported', plan.classId, { revision: pack.revision, file: body.name });
    }
    return plan;
  });

  bind(router, house, routes.packSchema, async () => ({ file: JSON.stringify(packJsonSchema(), null, 2), name: 'pack.schema.json' }));
  bind(router, house, routes.classYaml, async ({ params }) => ({ file: packToYaml(await packOrProblem(house.db, params.id)), name: `${params.id}.yaml` }));
  bind(router, house, routes.classJson, async ({ params }) => ({
    file: `${JSON.stringify(await packOrProblem(house.db, params.id), null, 2)}\n`,
    name: `${params.id}.json`,
  }));
  bind(router, house, routes.checkpointsCsv, async ({ params }) => ({
    file: tableCsv(await packOrProblem(house.db, params.id), 'checkpoints'),
    name: `${params.id}-checks.csv`,
  }));
  bind(router, house, routes.faultsCsv, async ({ params }) => ({ file: tableCsv(await packOrProblem(house.db, params.id), 'faults'), name: `${params.id}-faults.csv` }));
  bind(router, house, routes.planSvg, async ({ params }) => {
    const pack = await packOrProblem(house.db, params.id);
    return { file: planSvg(pack.plan, `Plan of the ${pack.title.toLowerCase()}, one unit is one metre`, { names: true, size: 1200 }), name: `${params.id}-plan.svg` };
  });
}
