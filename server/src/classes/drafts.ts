import { routes, type PackDraft } from '@rounds/contract';
import { packDifferences, readPack, type Pack } from '@rounds/core';
import { and, desc, eq } from 'drizzle-orm';
import type { Router } from 'express';
import { bind } from '../house/binder';
import { note, type House } from '../house/context';
import type { Database } from '../house/database';
import { ProblemError } from '../house/problem';
import { account, machineClass, packDraft, packRevision } from '../house/schema';
import { nextRevision, packProblem, publishedPack, publishPack } from './packs';

const NAME = 'draft';

async function draftOf(db: Database, classId: string): Promise<PackDraft | null> {
  const [found] = await db
    .select({ row: packDraft, by: account.name })
    .from(packDraft)
    .leftJoin(account, eq(account.id, packDraft.accountId))
    .where(eq(packDraft.classId, classId));
  if (!found) return null;
  const { row, by } = found;
  return { source: row.source, version: row.version, by: by ?? 'unknown', at: new Date(row.savedAt).toISOString(), errors: readPack(row.source).errors };
}

/** The problem of a draft that another person saved in the meantime. */
function moved(draft: PackDraft | null): ProblemError {
  return new ProblemError(
    'draft-moved',
    draft
      ? `${draft.by} saved this draft at ${draft.at.slice(11, 16)} UTC. Your text was not saved over it; copy what you need, then open the newer draft.`
      : 'This draft was published or thrown away in the meantime. Your text is still here; save it as a new draft if you want it.',
  );
}

/** Routes of drafts and revisions: edit, check, publish, look back. */
export function draftRoutes(router: Router, house: House): void {
  bind(router, house, routes.classDraft, async ({ params }) => {
    await publishedPack(house.db, params.id);
    return { draft: await draftOf(house.db, params.id) };
  });

  bind(router, house, routes.saveDraft, async ({ params, body, caller }) => {
    await publishedPack(house.db, params.id);
    const savedAt = house.now().toISOString();
    const saved =
      body.version === 0
        ? await house.db
            .insert(packDraft)
            .values({ classId: params.id, source: body.source, version: 1, accountId: caller.id, savedAt })
            .onConflictDoNothing()
            .returning()
        : await house.db
            .update(packDraft)
            .set({ source: body.source, version: body.version + 1, accountId: caller.id, savedAt })
            .where(and(eq(packDraft.classId, params.id), eq(packDraft.version, body.version)))
            .returning();
    const draft = await draftOf(house.db, params.id);
    if (saved.length === 0) throw moved(draft);
    return draft!;
  });

  bind(router, house, routes.dropDraft, async ({ params, caller }) => {
    const gone = await house.db.delete(packDraft).where(eq(packDraft.classId, params.id)).returning();
    if (gone.length === 0) throw new ProblemError('not-found', 'There is no draft of this class.');
    await note(house.db, caller, 'draft-dropped', params.id);
    return { done: true as const };
  });

  bind(router, house, routes.publishDraft, async ({ params, body, caller }) => {
    const draft = await draftOf(house.db, params.id);
    if (!draft || draft.version !== body.version) throw moved(draft);
    const reading = readPack(draft.source);
    if (!reading.pack) throw packProblem(NAME, reading.errors);
    if (reading.pack.id !== params.id)
      throw packProblem(NAME, [{ line: 1, path: 'id', rule: 'class-id', message: `the draft says it is the class "${reading.pack.id}", not "${params.id}"` }]);
    const current = await publishedPack(house.db, params.id);
    if (current && packDifferences(current.pack, reading.pack).length === 0)
      throw new ProblemError('nothing-changed', `This draft says the same as revision ${current.pack.revision}. Nothing was published.`);
    const pack = { ...reading.pack, revision: await nextRevision(house.db, params.id) };
    const hash = await house.db.transaction(async (tx) => {
      const published = await publishPack(tx, pack, { accountId: caller.id, note: body.note });
      await tx.delete(packDraft).where(eq(packDraft.classId, params.id));
      return published;
    });
    await note(house.db, caller, 'class-published', params.id, { revision: pack.revision, note: body.note });
    return { hash, revision: pack.revision };
  });

  bind(router, house, routes.classRevisions, async ({ params }) => {
    const current = await publishedPack(house.db, params.id);
    const rows = await house.db
      .select({ hash: packRevision.hash, revision: packRevision.revision, publishedAt: packRevision.publishedAt, note: packRevision.note, by: account.name })
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
    return { pack: row.body as Pack };
  });

  bind(router, house, routes.withdrawClass, async ({ params, body, caller }) => {
    if (!(await publishedPack(house.db, params.id))) throw new ProblemError('not-found', 'This class has no pack in use.');
    await house.db.update(machineClass).set({ publishedHash: null }).where(eq(machineClass.id, params.id));
    await note(house.db, caller, 'class-withdrawn', params.id, { reason: body.reason });
    return { done: true as const };
  });
}
