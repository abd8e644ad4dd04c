import {
  compose,
  type Composition,
  CompositionError,
  contentHash,
  currentComposition,
  currentPack,
  type EffectivePack,
  type Pack,
  type PackError,
} from '@rounds/core/catalogue';
import { asc, eq, max, sql } from 'drizzle-orm';
import { readSetting } from '../data/context';
import type { Database } from '../data/database';
import { effectivePack, machineClass, packRevision, setting } from '../data/schema';
import { ProblemError } from '../http/problem';

const CONTENT = 'content-version';

/** Counts a change of what the classes say, in the transaction that makes it. */
export async function contentChanged(db: Database): Promise<void> {
  const next = sql`to_jsonb((${setting.value} #>> '{}')::bigint + 1)`;
  await db
    .insert(setting)
    .values({ key: CONTENT, value: 1 })
    .onConflictDoUpdate({ target: setting.key, set: { value: next } });
}

/** The number of changes of what the classes say. */
export async function contentVersion(db: Database): Promise<string> {
  return String(await readSetting(db, CONTENT, 0));
}

/**
 * Holds a class against others who would publish, withdraw or choose in it, to the end of the transaction.
 * Answers null where there is none.
 */
export async function holdClass(
  db: Database,
  classId: string,
): Promise<typeof machineClass.$inferSelect | null> {
  const [row] = await db.select().from(machineClass).where(eq(machineClass.id, classId)).for('update');
  return row ?? null;
}

/**
 * Publishes a pack as the current revision of its class, in the given transaction; publishing the same
 * content again changes nothing. Returns its content hash.
 */
export async function publishPack(
  db: Database,
  pack: Pack,
  by: { accountId: string | null; note: string } = { accountId: null, note: '' },
): Promise<string> {
  const hash = contentHash(pack);
  await db
    .insert(machineClass)
    .values({ id: pack.id, title: pack.title, family: pack.family, publishedHash: hash })
    .onConflictDoUpdate({
      target: machineClass.id,
      set: { title: pack.title, family: pack.family, publishedHash: hash },
    });
  await db
    .insert(packRevision)
    .values({
      hash,
      classId: pack.id,
      revision: pack.revision,
      body: pack,
      publishedBy: by.accountId,
      note: by.note,
    })
    .onConflictDoNothing({ target: packRevision.hash });
  await contentChanged(db);
  return hash;
}

/**
 * The published pack of a class, or null while the class is only a name. Throws the not-found problem for
 * an unknown class.
 */
export async function publishedPack(
  db: Database,
  classId: string,
): Promise<{ pack: Pack; hash: string; publishedAt: string } | null> {
  const [row] = await db.select().from(machineClass).where(eq(machineClass.id, classId));
  if (!row) throw new ProblemError('not-found', `There is no machine class "${classId}".`);
  return row.publishedHash ? revisionOf(db, row.publishedHash) : null;
}

interface Revision {
  pack: Pack;
  hash: string;
  publishedAt: string;
}

/**
 * Content under a hash never changes, so what was read is kept in memory, the least lately used going
 * first.
 */
class Kept<T> {
  private readonly entries = new Map<string, T>();
  constructor(private readonly most: number) {}
  async of(key: string, read: () => Promise<T | null>): Promise<T | null> {
    const known = this.entries.get(key);
    const value = known ?? (await read());
    if (value === null) return null;
    this.entries.delete(key);
    this.entries.set(key, value);
    if (this.entries.size > this.most) this.entries.delete(this.entries.keys().next().value!);
    return value;
  }
}

const revisions = new Kept<Revision>(40);
const composed = new Kept<EffectivePack>(24);

function revisionOf(db: Database, hash: string): Promise<Revision | null> {
  return revisions.of(hash, async () => {
    const [row] = await db.select().from(packRevision).where(eq(packRevision.hash, hash));
    return row ? { pack: currentPack(row.body), hash, publishedAt: row.publishedAt } : null;
  });
}

/** Every revision of a class that was published, oldest first. */
export async function publishedRevisions(
  db: Database,
  classId: string,
): Promise<(Revision & { revision: number })[]> {
  const rows = await db
    .select({ hash: packRevision.hash, revision: packRevision.revision })
    .from(packRevision)
    .where(eq(packRevision.classId, classId))
    .orderBy(asc(packRevision.revision));
  const read = await Promise.all(
    rows.map(async ({ hash, revision }) => ({ ...(await revisionOf(db, hash))!, revision })),
  );
  return read;
}

/** The published pack of a class, or the not-found problem where it has none. */
export async function packOrProblem(db: Database, classId: string): Promise<Pack> {
  const published = await publishedPack(db, classId);
  if (!published)
    throw new ProblemError(
      'not-found',
      'This class has no checks, faults or score sheet in this installation yet.',
    );
  return published.pack;
}

/** The number the next revision of a class takes; hold the class while it is given. */
export async function nextRevision(db: Database, classId: string): Promise<number> {
  const [row] = await db
    .select({ latest: max(packRevision.revision) })
    .from(packRevision)
    .where(eq(packRevision.classId, classId));
  return (row?.latest ?? 0) + 1;
}

/** Composes and keeps the result by its hash. Throws the composition problem with each issue. */
export async function composeAndKeep(db: Database, pack: Pack, request: Composition): Promise<EffectivePack> {
  const effective = composeOrProblem(pack, request);
  const [known] = await db
    .select({ hash: effectivePack.hash })
    .from(effectivePack)
    .where(eq(effectivePack.hash, effective.hash));
  if (!known)
    await db.insert(effectivePack).values({ hash: effective.hash, body: effective }).onConflictDoNothing();
  return effective;
}

export function composeOrProblem(pack: Pack, request: Composition): EffectivePack {
  try {
    return compose(pack, request);
  } catch (error) {
    if (!(error instanceof CompositionError)) throw error;
    throw new ProblemError(
      'composition',
      `${error.message}. Nothing was saved.`,
      error.issues.map((issue) => ({ path: issue.path.join('/'), message: issue.message })),
    );
  }
}

/** The problem of a pack or table that has errors: the first ones in words, all of them by file and line. */
export function packProblem(file: string, errors: readonly PackError[]): ProblemError {
  const first = errors.slice(0, 3).map((each) => `${file}, line ${each.line}: ${each.message}`);
  const rest = errors.length > 3 ? ` and ${errors.length - 3} more` : '';
  return new ProblemError(
    'pack-broken',
    `Nothing was changed. ${first.join('; ')}${rest}.`,
    errors.map((each) => ({ path: `${file}:${each.line}`, message: `${each.rule}: ${each.message}` })),
  );
}

/** A composed pack by its hash. */
export async function effectivePackOf(db: Database, hash: string): Promise<EffectivePack> {
  const pack = await composed.of(hash, async () => {
    const [row] = await db.select().from(effectivePack).where(eq(effectivePack.hash, hash));
    return row ? currentComposition(row.body) : null;
  });
  if (!pack) throw new ProblemError('not-found', 'The class content that this was made with is missing.');
  return pack;
}
