import { routes } from '@rounds/contract';
import { appraise, foldEvaluation, standing } from '@rounds/core';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { composeAndKeep, effectivePackOf, publishedPack } from '../classes/packs';
import { siteChoices } from '../classes/schools';
import { eventsByPerson, maySee, standingsOf } from '../certification/standings';
import { bind } from '../house/binder';
import { note, rulesOn, siteToday, type Caller, type House } from '../house/context';
import { ProblemError } from '../house/problem';
import { account, certificate, evaluation, evaluationEventRow, machineClass, person, unit } from '../house/schema';
import { appendEvents, eventsOf, type EvaluationRow } from './append';
import { cardPdf, reportPdf } from './papers';
import { summaryRows } from './summaries';

async function evaluationOr404(house: House, caller: Caller, id: string): Promise<EvaluationRow> {
  const [found] = await house.db
    .select({ e: evaluation, team: person.team })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .where(eq(evaluation.id, id));
  if (!found || !maySee(caller, { id: found.e.personId, team: found.team })) throw new ProblemError('not-found', 'There is no such evaluation, or you may not see it.');
  return found.e;
}

async function holderOf(house: House, row: EvaluationRow): Promise<{ name: string; device: string; since: string } | null> {
  if (!row.holderId || !row.holderDevice || !row.heldSince) return null;
  const [who] = await house.db.select().from(account).where(eq(account.id, row.holderId));
  return { name: who?.name ?? 'unknown', device: row.holderDevice, since: new Date(row.heldSince).toISOString() };
}

async function opened(house: House, row: EvaluationRow) {
  const [summary] = await summaryRows(house, { id: row.id });
  const names = new Map((await house.db.select({ id: account.id, name: account.name }).from(account)).map((each) => [each.id, each.name]));
  const [card] = await house.db.select().from(certificate).where(eq(certificate.evaluationId, row.id));
  return {
    summary: summary!,
    pack: await effectivePackOf(house.db, row.packHash),
    unitId: row.unitId,
    conditions: row.conditions,
    earlierStarts: row.earlierStarts,
    events: (await eventsOf(house.db, row.id)).map(({ accountId, ...each }) => ({ ...each, by: names.get(accountId) ?? 'unknown' })),
    holder: await holderOf(house, row),
    certificate: card ? { token: card.token } : null,
  };
}

/** Routes of evaluations, their papers, verification, and the morning overview. */
export function assessRoutes(router: Router, house: House): void {
  bind(router, house, routes.today, async ({ caller }) => {
    const today = await siteToday(house);
    const { rules } = await rulesOn(house.db, today);
    const people = (await house.db.select().from(person).where(eq(person.active, true))).filter((each) => maySee(caller, each));
    const standings = await standingsOf(house.db, people, rules, today);
    const titles = new Map((await summaryTitles(house)).map((each) => [each.id, each.title]));
    const counts: Record<string, number> = {};
    const attention = people.flatMap((each) =>
      (standings.get(each.id) ?? []).flatMap(({ classId, standing: held }) => {
        counts[held.status] = (counts[held.status] ?? 0) + 1;
        return ['due', 'in-grace', 'lapsed', 'suspended'].includes(held.status)
          ? [
              {
                personId: each.id,
                personName: `${each.givenName} ${each.familyName}`,
                team: each.team,
                classId,
                classTitle: titles.get(classId) ?? classId,
                standing: held,
              },
            ]
          : [];
      }),
    );
    const order = ['suspended', 'lapsed', 'in-grace', 'due'];
    attention.sort((a, b) => order.indexOf(a.standing.status) - order.indexOf(b.standing.status) || (a.standing.daysLeft ?? 0) - (b.standing.daysLeft ?? 0));
    const scope = caller.role === 'operator' ? { personId: caller.personId ?? uuidv7() } : caller.role === 'supervisor' ? { team: caller.team ?? '' } : {};
    const planted = caller.role === 'operator' ? [] : await summaryRows(house, { planted: true });
    if (caller.role === 'workshop') return { today, attention: [], counts: {}, open: [], planted, recent: [] };
    return {
      today,
      attention,
      counts,
      open: await summaryRows(house, { ...scope, open: true }),
      planted,
      recent: await summaryRows(house, { ...scope, open: false, limit: 8 }),
    };
  });

  bind(router, house, routes.evaluations, async ({ query, caller }) => {
    const scope = caller.role === 'operator' ? { personId: caller.personId ?? uuidv7() } : caller.role === 'supervisor' ? { team: caller.team ?? '' } : {};
    const rows = await summaryRows(house, {
      ...scope,
      ...(query.open ? { open: query.open === 'yes' } : {}),
      ...(query.cursor ? { before: query.cursor } : {}),
      limit: query.limit + 1,
    });
    const page = rows.slice(0, query.limit);
    return { rows: page, next: rows.length > query.limit ? page.at(-1)!.createdAt : null };
  });

  bind(router, house, routes.createEvaluation, async ({ body, caller }) => {
    const [existing] = await house.db.select().from(evaluation).where(eq(evaluation.id, body.id));
    if (existing) {
      if (existing.trainerId === caller.id) return opened(house, existing);
      throw new ProblemError('evaluation-exists', 'An evaluation of this number exists already.');
    }
    const [who] = await house.db.select().from(person).where(eq(person.id, body.personId));
    if (!who) throw new ProblemError('not-found', 'There is no such person.');
    const [machine] = await house.db
      .select()
      .from(unit)
      .where(and(eq(unit.id, body.unitId), eq(unit.classId, body.classId)));
    if (!machine) throw new ProblemError('not-found', 'There is no such machine in this class.');
    const published = await publishedPack(house.db, body.classId);
    if (!published) throw new ProblemError('composition', 'This class has no published content yet, so it cannot be assessed here.');
    const pack = await composeAndKeep(house.db, published.pack, {
      variant: body.variant,
      features: body.features,
      choices: await siteChoices(house.db, published.pack, machine.site),
    });
    const starts = await house.db
      .select({ first: evaluation.firstStation })
      .from(evaluation)
      .where(and(eq(evaluation.personId, body.personId), eq(evaluation.classId, body.classId), isNotNull(evaluation.firstStation)))
      .orderBy(desc(evaluation.createdAt))
      .limit(50);
    const [row] = await house.db
      .insert(evaluation)
      .values({
        id: body.id,
        personId: body.personId,
        classId: body.classId,
        unitId: body.unitId,
        packHash: pack.hash,
        trainerId: caller.id,
        conditions: body.conditions,
        earlierStarts: starts.map((each) => each.first!),
        holderId: caller.id,
        holderDevice: body.device,
        heldSince: house.now().toISOString(),
        phase: 'prepared',
        stillPlanted: [],
        createdAt: house.now().toISOString(),
      })
      .returning();
    await note(house.db, caller, 'evaluation-prepared', row!.id);
    return opened(house, row!);
  });

  bind(router, house, routes.evaluation, async ({ params, caller }) => opened(house, await evaluationOr404(house, caller, params.id)));

  bind(router, house, routes.holdEvaluation, async ({ params, body, caller }) => {
    const row = await evaluationOr404(house, caller, params.id);
    const mine = row.holderDevice === null || (row.holderDevice === body.device && row.holderId === caller.id);
    if (!mine && !body.takeOver) return { held: false, holder: (await holderOf(house, row))! };
    const since = house.now().toISOString();
    await house.db.transaction(async (tx) => {
      await tx.update(evaluation).set({ holderId: caller.id, holderDevice: body.device, heldSince: since }).where(eq(evaluation.id, row.id));
      if (!mine && row.phase !== 'closed' && row.phase !== 'signing')
        await tx
          .insert(evaluationEventRow)
          .values({ id: uuidv7(), evaluationId: row.id, at: since, accountId: caller.id, body: { kind: 'taken-over', reason: body.takeOver! } });
      if (!mine) await note(tx, caller, 'evaluation-taken-over', row.id, { reason: body.takeOver });
    });
    return { held: true, holder: { name: caller.name, device: body.device, since } };
  });

  bind(router, house, routes.appendEvents, async ({ params, body, caller }) => {
    const row = await evaluationOr404(house, caller, params.id);
    const { accepted, token } = await appendEvents(house, caller, row, body.device, body.events);
    const [summary] = await summaryRows(house, { id: row.id });
    return { accepted, summary: summary!, certificate: token ? { token } : null };
  });

  bind(router, house, routes.appraisal, async ({ params, caller }) => {
    const row = await evaluationOr404(house, caller, params.id);
    const result = appraise(await effectivePackOf(house.db, row.packHash), foldEvaluation(await eventsOf(house.db, row.id)), row.earlierStarts);
    return { score: result.score, outcome: result.outcome, reasons: result.reasons };
  });

  bind(router, house, routes.report, async ({ params, caller }) => {
    const row = await evaluationOr404(house, caller, params.id);
    return { file: await reportPdf(house, row), name: `evaluation-${row.id.slice(-8)}.pdf` };
  });

  bind(router, house, routes.card, async ({ params, caller, request }) => {
    const [row] = await house.db
      .select({ c: certificate, team: person.team })
      .from(certificate)
      .innerJoin(person, eq(person.id, certificate.personId))
      .where(eq(certificate.token, params.token));
    if (!row || !maySee(caller, { id: row.c.personId, team: row.team })) throw new ProblemError('not-found', 'There is no such card, or you may not see it.');
    const base = house.publicUrl ?? `${request.protocol}://${request.get('host') ?? 'localhost'}`;
    return { file: await cardPdf(house, row.c, base), name: `card-${row.c.token.slice(0, 6)}.pdf` };
  });

  bind(router, house, routes.verify, async ({ params }) => {
    const on = await siteToday(house);
    const [card] = await house.db.select().from(certificate).where(eq(certificate.token, params.token));
    if (!card) return { known: false, valid: false, on };
    const [who] = await house.db.select().from(person).where(eq(person.id, card.personId));
    const { rules } = await rulesOn(house.db, on);
    const events = (await eventsByPerson(house.db, [card.personId])).get(card.personId)?.get(card.classId) ?? [];
    return { known: true, valid: Boolean(who?.active) && standing(events, rules, on, who?.born ?? null).mayOperate === 'yes', on };
  });
}

async function summaryTitles(house: House): Promise<{ id: string; title: string }[]> {
  return house.db.select({ id: machineClass.id, title: machineClass.title }).from(machineClass);
}
