import { compose, CompositionError, contentHash, type Composition, type EffectivePack, type Pack } from '@rounds/core';
import { eq } from 'drizzle-orm';
import type { Database } from '../house/database';
import { ProblemError } from '../house/problem';
import { effectivePack, machineClass, packRevision } from '../house/schema';

/** Publishes a pack as the current revision of its class; publishing the same content again changes nothing. Returns its content hash. */
export async function publishPack(db: Database, pack: Pack): Promise<string> {
  const hash = contentHash(pack);
  await db
    .insert(machineClass)
    .values({ id: pack.id, title: pack.title, family: pack.family, publishedHash: hash })
    .onConflictDoUpdate({ target: machineClass.id, set: { title: pack.title, family: pack.family, publishedHash: hash } });
  await db.insert(packRevision).values({ hash, classId: pack.id, revision: pack.revision, body: pack }).onConflictDoNothing();
  return hash;
}

/** The published pack of a class, or null while the class is only a name. Throws the not-found problem for an unknown class. */
export async function publishedPack(db: Database, classId: string): Promise<{ pack: Pack; publishedAt: string } | null> {
  const [row] = await db.select().from(machineClass).where(eq(machineClass.id, classId));
  if (!row) throw new ProblemError('not-found', `There is no machine class "${classId}".`);
  if (!row.publishedHash) return null;
  const [revision] = await db.select().from(packRevision).where(eq(packRevision.hash, row.publishedHash));
  return revision ? { pack: revision.body as Pack, publishedAt: revision.publishedAt } : null;
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
