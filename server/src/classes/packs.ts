import { compose, CompositionError, contentHash, type Composition, type EffectivePack, type Pack, type PackError } from '@rounds/core';
import { eq, max } from 'drizzle-orm';
import type { Database } from '../house/database';
import { ProblemError } from '../house/problem';
import { effectivePack, machineClass, packRevision } from '../house/schema';

/** Publishes a pack as the current revision of its class; publishing the same content again changes nothing. Returns its content hash. */
export async function publishPack(db: Database, pack: Pack, by: { accountId: string | null; note: string } = { accountId: null, note: '' }): Promise<string> {
  const hash = contentHash(pack);
  await db
    .insert(machineClass)
    .values({ id: pack.id, title: pack.title, family: pack.family, publishedHash: hash })
    .onConflictDoUpdate({ target: machineClass.id, set: { title: pack.title, family: pack.family, publishedHash: hash } });
  await db.insert(packRevision).values({ hash, classId: pack.id, revision: pack.revision, body: pack, publishedBy: by.accountId, note: by.note }).onConflictDoNothing();
  return hash;
}

/** The published pack of a class, or null while the class is only a name. Throws the not-found problem for an unknown class. */
export async function publishedPack(db: Database, classId: string): Promise<{ pack: Pack; hash: string; publishedAt: string } | null> {
  const [row] = await db.select().from(machineClass).where(eq(machineClass.id, classId));
  if (!row) throw new ProblemError('not-found', `There is no machine class "${classId}".`);
  if (!row.publishedHash) return null;
  const [revision] = await db.select().from(packRevision).where(eq(packRevision.hash, row.publishedHash));
  return revision ? { pack: revision.body as Pack, hash: revision.hash, publishedAt: revision.publishedAt } : null;
}

/** The published pack of a class, or the not-found problem where it has none. */
export async function packOrProblem(db: Database, classId: string): Promise<Pack> {
  const published = await publishedPack(db, classId);
  if (!published) throw new ProblemError('not-found', 'This class has no checks, faults or score sheet in this installation yet.');
  return published.pack;
}

/** The number the next revision of a class takes. */
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

const kept = new Map<string, EffectivePack>();

/** A composed pack by its hash. Content under a hash never changes, so a few are kept in memory. */
export async function effectivePackOf(db: Database, hash: string): Promise<EffectivePack> {
  const known = kept.get(hash);
  if (known) return known;
  const [row] = await db.select().from(effectivePack).where(eq(effectivePack.hash, hash));
  if (!row) throw new ProblemError('not-found', 'The class content this evaluation was made with is missing.');
  const pack = row.body as EffectivePack;
  if (kept.size >= 24) kept.delete(kept.keys().next().value!);
  kept.set(hash, pack);
  return pack;
}
