import { maySee, scopeOf, withinScope, type Caller } from '../accounts/access';
import { routes } from '@rounds/contract';
import { STANDING_STATUSES, standingAt } from '@rounds/core/certification';
import { appraise, foldEvaluation, type EvaluationEvent } from '@rounds/core/evaluation';
import { and, asc, count, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { proveAccount } from '../accounts/proof';
import { standingOf, standingsToday } from '../certification/standings';
import { composeAndKeep, effectivePackOf, publishedPack } from '../classes/packs';
import { siteChoices } from '../classes/schools';
import { note, type House } from '../data/context';
import type { Database } from '../data/database';
import { account, certificate, evaluation, machineClass, person, standingRow, unit } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { evaluationOr404, personName, refuseOwn, seesKey } from './access';
import { cardSubject, reportSubject } from './papers';
import { appendToEvaluation, appendWithin, dayOf, eventsOf, type EvaluationRow } from './stream';
import { plantedRows, summaryPage, summaryRows } from './summaries';

async function holderOf(
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

async function opened(house: House, caller: Caller, row: EvaluationRow) {
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
  };
}

/** What an append answers with. */
async function noted(house: House, caller: Caller, row: EvaluationRow, ids: readonly string[]) {
  const [summary] = await summaryRows(house, caller, { id: row.id });
  const [card] = await house.db
    .select({ token: certificate.token })
    .from(certificate)
    .where(eq(certificate.evaluationId, row.id));
  return { accepted: [...ids], summary: summary!, certificate: card ? { token: card.token } : null };
}

/** Statuses that somebody must do something about, the gravest first. */
const ATTENTION = ['suspended', 'lapsed', 'in-grace', 'due'] as const;
const LISTED_ATTENTION = 100;

const sameName = (one: string, other: string) =>
  one.normalize('NFKC').trim().toLowerCase() === other.normalize('NFKC').trim().toLowerCase();

/** Routes of evaluations, their papers, verification, and the morning overview. */
export function assessRoutes(router: Router, house: House): void {
  bind(router, house, routes.today, async ({ caller }) => {
    const today = await standingsToday(house);
    const planted = await plantedRows(house, caller);
    const scope = scopeOf(caller);
    const own = and(withinScope(scope), eq(person.active, true));
    const counted = await house.db
      .select({ status: standingRow.status, n: count() })
      .from(standingRow)
      .innerJoin(person, eq(person.id, standingRow.personId))
      .where(own)
      .groupBy(standingRow.status);
    const counts = Object.fromEntries(
      STANDING_STATUSES.flatMap((status) =>
        counted.filter((each) => each.status === status).map((each) => [status, each.n]),
      ),
    );
    const gravity = sql`array_position(array['suspended','lapsed','in-grace','due'], ${standingRow.status})`;
    const rows = await house.db
      .select({
        who: person,
        classId: standingRow.classId,
        classTitle: machineClass.title,
        body: standingRow.body,
      })
      .from(standingRow)
      .innerJoin(person, eq(person.id, standingRow.personId))
      .innerJoin(machineClass, eq(machineClass.id, standingRow.classId))
      .where(and(own, inArray(standingRow.status, [...ATTENTION])))
      .orderBy(gravity, asc(standingRow.until), person.familyName, person.givenName, standingRow.classId)
      .limit(LISTED_ATTENTION);
    return {
      today,
      attention: rows.map(({ who, classId, classTitle, body }) => ({
        personId: who.id,
        personName: `${who.givenName} ${who.familyName}`,
        team: who.team,
        classId,
        classTitle,
        standing: standingAt(body, today),
      })),
      attentionTotal: ATTENTION.reduce((sum, status) => sum + (counts[status] ?? 0), 0),
      counts,
      open: await summaryRows(house, caller, { scope, open: true }),
      planted,
      recent: await summaryRows(house, caller, { scope, open: false, limit: 8 }),
    };
  });

  bind(router, house, routes.evaluations, ({ query: { open, ...query }, caller }) =>
    summaryPage(house, caller, {
      scope: scopeOf(caller),
      ...(open ? { open: open === 'yes' } : {}),
      ...query,
    }),
  );

  bind(router, house, routes.createEvaluation, async ({ body, caller }) => {
    const [existing] = await house.db.select().from(evaluation).where(eq(evaluation.id, body.id));
    if (existing) return opened(house, caller, ownOrTaken(existing, caller, body));
    refuseOwn(caller, body);
    const [who] = await house.db.select().from(person).where(eq(person.id, body.personId));
    if (!who) throw new ProblemError('not-found', 'There is no such person.');
    const [machine] = await house.db
      .select()
      .from(unit)
      .where(and(eq(unit.id, body.unitId), eq(unit.classId, body.classId)));
    if (!machine) throw new ProblemError('not-found', 'There is no such machine in this class.');
    const published = await publishedPack(house.db, body.classId);
    if (!published)
      throw new ProblemError(
        'composition',
        'This class has no published content yet, so it cannot be assessed here.',
      );
    const row = await house.db.transaction(async (db) => {
      const pack = await composeAndKeep(db, published.pack, {
        variant: body.variant,
        features: body.features,
        choices: await siteChoices(db, published.pack, machine.site),
      });
      const starts = await db
        .select({ first: evaluation.firstStation })
        .from(evaluation)
        .where(
          and(
            eq(evaluation.personId, body.personId),
            eq(evaluation.classId, body.classId),
            isNotNull(evaluation.firstStation),
          ),
        )
        .orderBy(desc(evaluation.createdAt))
        .limit(50);
      const now = house.now().toISOString();
      const [made] = await db
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
          heldSince: now,
          phase: 'prepared',
          stillPlanted: [],
          createdAt: now,
        })
        .onConflictDoNothing()
        .returning();
      if (made) {
        await note(db, caller, 'evaluation-prepared', made.id, {
          personId: made.personId,
          classId: made.classId,
        });
        return made;
      }
      const [first] = await db.select().from(evaluation).where(eq(evaluation.id, body.id));
      return ownOrTaken(first!, caller, body);
    });
    return opened(house, caller, row);
  });

  bind(router, house, routes.evaluation, async ({ params, caller }) =>
    opened(house, caller, await evaluationOr404(house, caller, params.id)),
  );

  bind(router, house, routes.holdEvaluation, async ({ params, body, caller }) => {
    refuseOwn(caller, await evaluationOr404(house, caller, params.id));
    const now = house.now().toISOString();
    const day = await dayOf(house);
    return house.db.transaction(async (db) => {
      const [row] = await db.select().from(evaluation).where(eq(evaluation.id, params.id)).for('update');
      const mine =
        row!.holderDevice === null || (row!.holderDevice === body.device && row!.holderId === caller.id);
      if (!mine && !body.takeOver) return { held: false, holder: (await holderOf(db, row!))! };
      if (!mine && row!.phase !== 'closed')
        await appendWithin(db, house, day, caller, row!, 'server', [
          { id: uuidv7(), at: now, body: { kind: 'taken-over', reason: body.takeOver! } },
        ]);
      await db
        .update(evaluation)
        .set({ holderId: caller.id, holderDevice: body.device, heldSince: now })
        .where(eq(evaluation.id, row!.id));
      return { held: true, holder: { name: caller.name, device: body.device, since: now } };
    });
  });

  bind(router, house, routes.appendEvents, async ({ params, body, caller }) => {
    if (body.as !== undefined && body.as !== caller.id)
      throw new ProblemError(
        'wrong-account',
        'These taps belong to another account than the one signed in. They are kept on the ' +
          'device until their owner signs in.',
      );
    const row = await evaluationOr404(house, caller, params.id);
    refuseOwn(caller, row);
    await appendToEvaluation(house, caller, row, { device: body.device }, body.events);
    return noted(
      house,
      caller,
      row,
      body.events.map((each) => each.id),
    );
  });

  bind(router, house, routes.signByName, async ({ params, body, caller, request }) => {
    const row = await evaluationOr404(house, caller, params.id);
    refuseOwn(caller, row);
    const signer = await proveAccount(house, request, body.login, body.password, `sign as ${body.role}`);
    const wrong = (why: string) => new ProblemError('wrong-signer', `${why} Nothing was signed.`);
    const expected = body.role === 'trainer' ? caller.name : await personName(house.db, row.personId);
    if (body.role === 'trainer' && signer.id !== caller.id)
      throw wrong(`${caller.name} is signed in and signs as the trainer.`);
    if (body.role === 'operator' && signer.personId !== row.personId)
      throw wrong(`${expected} was evaluated and signs with their own account.`);
    if (!sameName(body.name, expected)) throw wrong(`The full name here is "${expected}".`);
    const event: EvaluationEvent = {
      id: body.id,
      at: house.now().toISOString(),
      body: { kind: 'signed-by-name', role: body.role, name: expected },
    };
    // The operator's account signs, on a device that the trainer holds.
    await appendToEvaluation(
      house,
      body.role === 'trainer' ? caller : callerOfAccount(signer),
      row,
      'server',
      [event],
    );
    return noted(house, caller, row, [body.id]);
  });

  bind(router, house, routes.agree, async ({ params, body, caller, request }) => {
    const row = await evaluationOr404(house, caller, params.id);
    refuseOwn(caller, row);
    const second = callerOfAccount(
      await proveAccount(house, request, body.login, body.password, 'agree to an outcome'),
    );
    const wrong = (why: string) => new ProblemError('wrong-signer', `${why} Nothing was recorded.`);
    if (second.role !== 'trainer' && second.role !== 'administrator')
      throw wrong(`${second.name} is no trainer; another trainer or an administrator agrees.`);
    if (second.personId === row.personId)
      throw wrong('The person evaluated cannot agree to their own outcome.');
    if (second.id === caller.id)
      throw wrong('The agreement is that of a second account; you decide yourself.');
    const event: EvaluationEvent = {
      id: body.id,
      at: house.now().toISOString(),
      body: { kind: 'agreed', outcome: body.outcome, words: body.words },
    };
    await appendToEvaluation(house, second, row, 'server', [event]);
    return noted(house, caller, row, [body.id]);
  });

  bind(router, house, routes.appraisal, async ({ params, caller }) => {
    const row = await evaluationOr404(house, caller, params.id);
    if (!seesKey(caller, row)) throw undecided();
    const result = appraise(
      await effectivePackOf(house.db, row.packHash),
      foldEvaluation(await eventsOf(house.db, row.id)),
      row.earlierStarts,
    );
    return { score: result.score, outcome: result.outcome, reasons: result.reasons };
  });

  bind(router, house, routes.report, async ({ params, caller, gone }) => {
    const row = await evaluationOr404(house, caller, params.id);
    if (!seesKey(caller, row)) throw undecided();
    const file = await house.pool.run('report', await reportSubject(house, row), { gone });
    await note(house.db, caller, 'report-printed', row.id);
    return { file, name: `evaluation-${row.id.slice(-8)}.pdf` };
  });

  bind(router, house, routes.card, async ({ params, caller, request, gone }) => {
    const [row] = await house.db
      .select({ c: certificate, team: person.team })
      .from(certificate)
      .innerJoin(person, eq(person.id, certificate.personId))
      .where(eq(certificate.token, params.token));
    if (!row || !maySee(caller, { id: row.c.personId, team: row.team }))
      throw new ProblemError('not-found', 'There is no such card, or you may not see it.');
    const base = house.publicUrl ?? `${request.protocol}://${request.get('host') ?? 'localhost'}`;
    const file = await house.pool.run('card', await cardSubject(house, row.c, base), { gone });
    await note(house.db, caller, 'card-printed', row.c.personId, { classId: row.c.classId });
    return { file, name: `card-${row.c.token.slice(0, 6)}.pdf` };
  });

  bind(router, house, routes.verify, async ({ params }) => {
    const on = await standingsToday(house);
    const [card] = await house.db.select().from(certificate).where(eq(certificate.token, params.token));
    if (!card) return { known: false, valid: false, on };
    const [who] = await house.db
      .select({ active: person.active })
      .from(person)
      .where(eq(person.id, card.personId));
    const held = await standingOf(house.db, card.personId, card.classId, on);
    return { known: true, valid: Boolean(who?.active) && held?.mayOperate === 'yes', on };
  });
}

function undecided(): ProblemError {
  return new ProblemError(
    'not-decided',
    'This evaluation is not decided yet. What was found is shown once it is.',
  );
}

/**
 * An evaluation that is there already when it is prepared: this very one, sent again, or somebody else's of
 * the same number.
 */
function ownOrTaken(
  existing: EvaluationRow,
  caller: Caller,
  asked: { personId: string; unitId: string },
): EvaluationRow {
  if (
    existing.trainerId === caller.id &&
    existing.personId === asked.personId &&
    existing.unitId === asked.unitId
  )
    return existing;
  throw new ProblemError('evaluation-exists', 'An evaluation of this number exists already.');
}

function callerOfAccount(row: typeof account.$inferSelect): Caller {
  const { id, name, login, team, personId, active } = row;
  return { id, name, login, role: row.role as Caller['role'], team, personId, active };
}
