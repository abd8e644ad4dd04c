import { type PackDraft, routes } from '@rounds/contract';
import { currentPack, packDifferences, type PackError } from '@rounds/core/catalogue';
import { and, desc, eq } from 'drizzle-orm';
import type { Router } from 'express';
import { type House, note } from '../data/context';
import type { Database } from '../data/database';
import { account, machineClass, packDraft, packRevision } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { contentChanged, holdClass, nextRevision, packProblem, publishedPack, publishPack } from './packs';

const NAME = 'draft';

/**
 * The draft as it is shown. What is wrong in it was found when it was saved; a draft of an earlier version
 * is read once more.
 */
async function draftOf(house: House, classId: string, db: Database = house.db): Promise<PackDraft | null> {
  const [found] = await db
    .select({ row: packDraft, by: account.name })
    .from(packDraft)
    .leftJoin(account, eq(account.id, packDraft.accountId))
    .where(eq(packDraft.classId, classId));
  if (!found) return null;
  const { row, by } = found;
  const errors: PackError[] = row.errors ?? (await house.pool.run('readPack', row.source)).errors;
  return {
    source: row.source,
    version: row.version,
    by: by ?? 'unknown',
    at: new Date(row.savedAt).toISOString(),
    errors,
  };
}

/** The problem of a draft that another person saved in the meantime. */
function moved(draft: PackDraft | null): ProblemError {
  return new ProblemError(
    'draft-moved',
    draft
      ? `${draft.by} saved this draft at ${draft.at.slice(11, 16)} UTC. Your text was not ` +
          'saved over it; copy what you need, then open the newer draft.'
      : 'This draft was published or thrown away in the meantime. Your text is still here; ' +
          'save it as a new draft if you want it.',
  );
}

/** Routes of drafts and revisions: edit, check, publish, look back. */
export function draftRoutes(router: Router, house: House): void {
  bind(router, house, routes.classDraft, async ({ params }) => {
    await publishedPack(house.db, params.id);
    return { draft: await draftOf(house, params.id) };
  });

  bind(router, house, routes.saveDraft, async ({ params, body, caller, gone }) => {
    await publishedPack(house.db, params.id);
    const { errors } = await house.pool.run('readPack', body.source, { gone });
    const savedAt = house.now().toISOString();
    const content = { source: body.source, errors, accountId: caller.id, savedAt };
    const saved = await house.db.transaction(async (db) => {
      const rows =
        body.version === 0
          ? await db
              .insert(packDraft)
              .values({ classId: params.id, version: 1, ...content })
              .onConflictDoNothing()
              .returning({ version: packDraft.version })
          : await db
              .update(packDraft)
              .set({ version: body.version + 1, ...content })
              .where(and(eq(packDraft.classId, params.id), eq(packDraft.version, body.version)))
              .returning({ version: packDraft.version });
      if (rows.length > 0)
        await note(db, caller, 'draft-saved', params.id, {
          version: rows[0]!.version,
          errors: errors.length,
        });
      return rows.length > 0;
    });
    const draft = await draftOf(house, params.id);
    if (!saved) throw moved(draft);
    return draft!;
  });

  bind(router, house, routes.dropDraft, async ({ params, caller }) => {
    await house.db.transaction(async (db) => {
      const [gone] = await db
        .delete(packDraft)
        .where(eq(packDraft.classId, params.id))
        .returning({ version: packDraft.version });
      if (!gone) throw new ProblemError('not-found', 'There is no draft of this class.');
      await note(db, caller, 'draft-dropped', params.id, { version: gone.version });
    });
    return { done: true as const };
  });

  bind(router, house, routes.publishDraft, async ({ params, body, caller, gone }) => {
    const draft = await draftOf(house, params.id);
    if (!draft || draft.version !== body.version) throw moved(draft);
    const reading = await house.pool.run('readPack', draft.source, { gone });
    if (!reading.pack) throw packProblem(NAME, reading.errors);
    if (reading.pack.id !== params.id)
      throw packProblem(NAME, [
        {
          line: 1,
          path: 'id',
          rule: 'class-id',
          message: `the draft says it is the class "${reading.pack.id}", not "${params.id}"`,
        },
      ]);
    const drafted = reading.pack;
    return house.db.transaction(async (db) => {
      await holdClass(db, params.id);
      const taken = await db
        .delete(packDraft)
        .where(and(eq(packDraft.classId, params.id), eq(packDraft.version, body.version)))
        .returning({ version: packDraft.version });
      if (taken.length === 0) throw moved(await draftOf(house, params.id, db));
      const current = await publishedPack(db, params.id);
      if (current && packDifferences(current.pack, drafted).length === 0)
        throw new ProblemError(
          'nothing-changed',
          `This draft says the same as revision ${current.pack.revision}. Nothing was published.`,
        );
      const pack = { ...drafted, revision: await nextRevision(db, params.id) };
      const hash = await publishPack(db, pack, { accountId: caller.id, note: body.note });
      await note(db, caller, 'class-published', params.id, {
        revision: pack.revision,
        note: body.note,
        hash,
        before: current?.hash ?? null,
      });
      return { hash, revision: pack.revision };
    });
  });

  bind(router, house, routes.classRevisions, async ({ params }) => {
    const current = await publishedPack(house.db, params.id);
    const rows = await house.db
      .select({
        hash: packRevision.hash,
        revision: packRevision.revision,
        publishedAt: packRevision.publishedAt,
        note: packRevision.note,
        by: account.name,
      })
      .from(packRevision)
      .leftJoin(account, eq(account.id, packRevision.publishedBy))
      .where(eq(packRevision.classId, params.id))
      .orderBy(desc(packRevision.revision), desc(packRevision.publishedAt));
    return {
      revisions: rows.map((row) => ({
        ...row,
        by: row.by ?? 'shipped with Rounds',
        publishedAt: new Date(row.publishedAt).toISOString(),
        current: row.hash === current?.hash,
      })),
    };
  });

  bind(router, house, routes.classRevision, async ({ params }) => {
    const [row] = await house.db
      .select()
      .from(packRevision)
      .where(and(eq(packRevision.classId, params.id), eq(packRevision.hash, params.hash)));
    if (!row) throw new ProblemError('not-found', 'There is no such revision of this class.');
    return { pack: currentPack(row.body) };
  });

  bind(router, house, routes.withdrawClass, async ({ params, body, caller }) => {
    await house.db.transaction(async (db) => {
      const held = await holdClass(db, params.id);
      if (!held?.publishedHash) throw new ProblemError('not-found', 'This class has no pack in use.');
      await db.update(machineClass).set({ publishedHash: null }).where(eq(machineClass.id, params.id));
      await contentChanged(db);
      await note(db, caller, 'class-withdrawn', params.id, { reason: body.reason, hash: held.publishedHash });
    });
    return { done: true as const };
  });
}
