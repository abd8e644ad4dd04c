import { localDate } from '@rounds/core/calendar';
import { eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { evaluatorOn } from '../calibration/standing';
import { effectivePackOf } from '../classes/packs';
import { type House, siteTimeZone } from '../data/context';
import type { Database } from '../data/database';
import { account, certificate, person } from '../data/schema';
import { seesKey } from './access';
import { type EvaluationRow, eventsOf } from './stream';
import { summaryRows } from './summaries';

/** Who holds an evaluation for writing, and since when; null for nobody. */
export async function holderOf(
  db: Database,
  row: EvaluationRow,
): Promise<{ name: string; device: string; since: string } | null> {
  if (!row.holderId || !row.holderDevice || !row.heldSince) return null;
  const [who] = await db.select().from(account).where(eq(account.id, row.holderId));
  return {
    name: who?.name ?? 'unknown',
    device: row.holderDevice,
    since: new Date(row.heldSince).toISOString(),
  };
}

/** Whether whoever decided an evaluation, or else prepared it, was calibrated on its day. */
export async function evaluatorOf(house: House, row: EvaluationRow) {
  const zone = await siteTimeZone(house);
  const [who] = await house.db.select({ site: person.site }).from(person).where(eq(person.id, row.personId));
  const on = localDate(new Date(row.createdAt).toISOString(), zone);
  return evaluatorOn(house.db, zone, row.decidedBy ?? row.trainerId, on, {
    site: who!.site,
    classId: row.classId,
  });
}

/** An evaluation as it is opened by a caller, with its events where they may see them. */
export async function opened(house: House, caller: Caller, row: EvaluationRow) {
  const open = seesKey(caller, row);
  const [summary] = await summaryRows(house, caller, { id: row.id });
  const [card] = await house.db.select().from(certificate).where(eq(certificate.evaluationId, row.id));
  const events = open ? await eventsOf(house.db, row.id) : [];
  return {
    summary: summary!,
    pack: await effectivePackOf(house.db, row.packHash),
    unitId: row.unitId,
    conditions: open ? row.conditions : '',
    earlierStarts: row.earlierStarts,
    events: events.map((each) => ({
      ...each,
      by: each.by!,
      account: each.account!,
      receivedAt: each.receivedAt!,
    })),
    keyHidden: !open,
    holder: await holderOf(house.db, row),
    certificate: card ? { token: card.token } : null,
    evaluator: await evaluatorOf(house, row),
  };
}

/** What an append answers with. */
export async function noted(house: House, caller: Caller, row: EvaluationRow, ids: readonly string[]) {
  const [summary] = await summaryRows(house, caller, { id: row.id });
  const [card] = await house.db
    .select({ token: certificate.token })
    .from(certificate)
    .where(eq(certificate.evaluationId, row.id));
  return { accepted: [...ids], summary: summary!, certificate: card ? { token: card.token } : null };
}
