import { randomInt } from 'node:crypto';
import {
  ICC_FORMS,
  type RouteAnswer,
  type RouteInput,
  type calibrationRoutes as routes,
} from '@rounds/contract';
import {
  type Calibration,
  calibrateReplay,
  recordReplay,
  type ReplaySection,
  severityWords,
} from '@rounds/core/calibration';
import { rulesOn } from '@rounds/core/certification';
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { readRules } from '../certification/standings';
import { composeAndKeep, effectivePackOf, packOrProblem } from '../classes/packs';
import { type House, note, siteTimeZone, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { calibration, calibrationScores } from '../data/gradingSchema';
import { account, machineClass } from '../data/schema';
import { ProblemError } from '../http/problem';
import { pastCalibrations, standingView } from './standing';

type CalibrationRow = typeof calibration.$inferSelect;
type ScoresRow = typeof calibrationScores.$inferSelect;

const outOfTurn = (detail: string) => new ProblemError('calibration-order', detail);
const iso = (at: string | null) => at && new Date(at).toISOString();

async function calibrationOr404(db: Database, id: string, hold = false): Promise<CalibrationRow> {
  const asked = db.select().from(calibration).where(eq(calibration.id, id));
  const [row] = hold ? await asked.for('update') : await asked;
  if (!row) throw new ProblemError('not-found', 'There is no such calibration.');
  return row;
}

/** What was handed in, in the order of names. */
async function handedIn(db: Database, id: string): Promise<(ScoresRow & { name: string })[]> {
  const rows = await db
    .select({ row: calibrationScores, name: account.name })
    .from(calibrationScores)
    .innerJoin(account, eq(account.id, calibrationScores.accountId))
    .where(and(eq(calibrationScores.calibrationId, id), isNotNull(calibrationScores.handedInAt)))
    .orderBy(asc(account.name), asc(account.id));
  return rows.map(({ row, name }) => ({ ...row, name }));
}

async function ownScores(db: Database, caller: Caller, id: string): Promise<ScoresRow | null> {
  const [row] = await db
    .select()
    .from(calibrationScores)
    .where(and(eq(calibrationScores.calibrationId, id), eq(calibrationScores.accountId, caller.id)));
  return row ?? null;
}

/** How those who handed in stand to the key and to each other. */
async function calibrated(
  db: Database,
  row: CalibrationRow,
  scores: readonly (ScoresRow & { name: string })[],
): Promise<Calibration> {
  const { sheet } = await effectivePackOf(db, row.packHash);
  return calibrateReplay(
    row.round.criteria,
    scores.map((each) => ({ evaluator: each.name, scores: each.scores })),
    sheet.promptCredit,
  );
}

/** Records a round of a scripted operator and puts it to the evaluators; nobody sees its key before it is closed. */
export async function openCalibration(
  house: House,
  body: RouteInput<typeof routes.openCalibration>['body'],
  caller: Caller,
): Promise<{ id: string }> {
  await house.db.transaction(async (db) => {
    const pack = await composeAndKeep(db, await packOrProblem(db, body.classId), { variant: body.variant });
    const made = await db
      .insert(calibration)
      .values({
        id: body.id,
        title: body.title,
        accountId: caller.id,
        classId: body.classId,
        packHash: pack.hash,
        round: recordReplay(pack, { seed: randomInt(2 ** 31), length: body.length }),
        startedAt: house.now().toISOString(),
      })
      .onConflictDoNothing()
      .returning({ id: calibration.id });
    if (made.length > 0)
      await note(db, caller, 'calibration-opened', body.id, { classId: body.classId, length: body.length });
  });
  return { id: body.id };
}

const MOST_LISTED = 50;

/** Calibrations, the latest first, and where every evaluator stands today. */
export async function listCalibrations(
  house: House,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.calibrations>> {
  const { db } = house;
  const rows = await db
    .select({
      row: calibration,
      classTitle: machineClass.title,
      madeBy: account.name,
      handedIn: sql<number>`(select count(*)::int from ${calibrationScores} where ${calibrationScores.calibrationId} = ${calibration.id} and ${calibrationScores.handedInAt} is not null)`,
      mine: calibrationScores,
    })
    .from(calibration)
    .innerJoin(machineClass, eq(machineClass.id, calibration.classId))
    .innerJoin(account, eq(account.id, calibration.accountId))
    .leftJoin(
      calibrationScores,
      and(eq(calibrationScores.calibrationId, calibration.id), eq(calibrationScores.accountId, caller.id)),
    )
    .orderBy(desc(calibration.startedAt))
    .limit(MOST_LISTED);
  return {
    rows: rows.map(({ row, classTitle, madeBy, handedIn: n, mine }) => ({
      id: row.id,
      title: row.title,
      classTitle,
      madeBy,
      startedAt: iso(row.startedAt)!,
      closedAt: iso(row.closedAt),
      criteria: row.round.criteria.length,
      minutes: Math.max(1, Math.round(row.round.seconds / 60)),
      handedIn: n,
      scored: Object.keys(mine?.scores ?? {}).length,
      mineHandedIn: typeof mine?.handedInAt === 'string',
    })),
    evaluators: await evaluatorsToday(house),
  };
}

/** Everybody who evaluates, with their last calibration. */
export async function evaluatorsToday(
  house: House,
): Promise<RouteAnswer<typeof routes.calibrations>['evaluators']> {
  const { db } = house;
  const today = await siteToday(house);
  const past = await pastCalibrations(db, await siteTimeZone(house));
  const everybody = await db
    .select({ id: account.id, name: account.name, role: account.role })
    .from(account)
    .where(and(eq(account.active, true), inArray(account.role, ['trainer', 'administrator'])))
    .orderBy(asc(account.name), asc(account.id));
  const months = rulesOn((await readRules(db)).of('', ''), today).calibrationMonths;
  const last = new Map(
    everybody.map(({ id }) => [id, past.find((each) => each.accountId === id && each.on <= today)]),
  );
  const shown = new Map(
    await Promise.all(
      [...new Set([...last.values()].flatMap((each) => (each ? [each.id] : [])))].map(async (id) => {
        const row = await calibrationOr404(db, id);
        const pack = await effectivePackOf(db, row.packHash);
        const scores = await handedIn(db, id);
        return [id, { title: pack.title, scores, found: await calibrated(db, row, scores) }] as const;
      }),
    ),
  );
  return everybody
    .filter(({ id, role }) => role === 'trainer' || last.get(id) !== undefined)
    .map(({ id, name }) => {
      const own = last.get(id);
      const of = own && shown.get(own.id);
      const found = of?.found.evaluators[of.scores.findIndex((each) => each.accountId === id)];
      return {
        id,
        name,
        standing: standingView(own ? [own] : [], months, today),
        calibrationId: own?.id ?? null,
        classTitle: of?.title ?? null,
        severity: found
          ? {
              n: found.n,
              severity: found.severity,
              interval: found.interval,
              says: severityWords(found),
            }
          : null,
      };
    });
}

/** Open calibrations that wait for the caller's scores, the oldest first. */
export async function waitingFor(db: Database, caller: Caller): Promise<{ id: string; title: string }[]> {
  return db
    .select({ id: calibration.id, title: calibration.title })
    .from(calibration)
    .leftJoin(
      calibrationScores,
      and(eq(calibrationScores.calibrationId, calibration.id), eq(calibrationScores.accountId, caller.id)),
    )
    .where(and(isNull(calibration.closedAt), isNull(calibrationScores.handedInAt)))
    .orderBy(asc(calibration.startedAt));
}

const mayClose = (row: CalibrationRow, caller: Caller) =>
  row.accountId === caller.id || caller.role === 'administrator';

/** A calibration as the caller scores it: without its key, and without what anybody else gave. */
export async function viewCalibration(
  house: House,
  id: string,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.calibration>> {
  const row = await calibrationOr404(house.db, id);
  const pack = await effectivePackOf(house.db, row.packHash);
  const [maker] = await house.db.select().from(account).where(eq(account.id, row.accountId));
  const mine = await ownScores(house.db, caller, id);
  return {
    id,
    title: row.title,
    classTitle: pack.title,
    madeBy: maker!.name,
    own: mayClose(row, caller),
    startedAt: iso(row.startedAt)!,
    closedAt: iso(row.closedAt),
    seconds: row.round.seconds,
    plan: pack.plan,
    moments: row.round.moments,
    criteria: row.round.criteria.map(({ key: _key, why: _why, ...each }) => each),
    mine: mine && { scores: mine.scores, way: mine.way, handedInAt: iso(mine.handedInAt) },
    handedIn: (await handedIn(house.db, id)).map((each) => each.name),
  };
}

/** A calibration that takes scores, and what the caller gave so far, both held to the end of the transaction. */
async function held(db: Database, id: string, caller: Caller) {
  const row = await calibrationOr404(db, id, true);
  if (row.closedAt !== null) throw outOfTurn('This calibration is closed; it takes no more scores.');
  const mine = await ownScores(db, caller, id);
  if (mine && mine.handedInAt !== null)
    throw outOfTurn('You have handed in your scores; they are not changed any more.');
  return { row, mine };
}

/** Keeps what the caller gives now beside what they gave before; the last for a criterion counts. */
export async function keepScores(
  house: House,
  id: string,
  { scores, way }: RouteInput<typeof routes.scoreCalibration>['body'],
  caller: Caller,
): Promise<{ scored: number }> {
  return house.db.transaction(async (db) => {
    const { row, mine } = await held(db, id, caller);
    const known = new Set(row.round.criteria.map((each) => each.id));
    const unknown = Object.keys(scores).find((each) => !known.has(each));
    if (unknown !== undefined)
      throw new ProblemError('unknown-row', `There is no criterion "${unknown}" in this round.`);
    // What another tab of the same evaluator gave stays.
    const all = { ...mine?.scores, ...scores };
    await db
      .insert(calibrationScores)
      .values({ calibrationId: id, accountId: caller.id, scores: all, way })
      .onConflictDoUpdate({
        target: [calibrationScores.calibrationId, calibrationScores.accountId],
        set: { scores: all, way },
      });
    return { scored: Object.keys(all).length };
  });
}

/** Hands in what the caller gave, once nothing is left unscored. */
export async function handIn(house: House, id: string, caller: Caller): Promise<void> {
  await house.db.transaction(async (db) => {
    const { row, mine } = await held(db, id, caller);
    const left = row.round.criteria.filter((each) => !mine?.scores[each.id]).length;
    if (left > 0) throw outOfTurn(`${left} of ${row.round.criteria.length} criteria are not scored yet.`);
    await db
      .update(calibrationScores)
      .set({ handedInAt: house.now().toISOString() })
      .where(and(eq(calibrationScores.calibrationId, id), eq(calibrationScores.accountId, caller.id)));
    await note(db, caller, 'calibration-handed-in', id);
  });
}

/** Closes a calibration for good. */
export async function closeCalibration(house: House, id: string, caller: Caller): Promise<void> {
  await house.db.transaction(async (db) => {
    const row = await calibrationOr404(db, id, true);
    if (!mayClose(row, caller))
      throw new ProblemError('forbidden', 'Whoever put it to the evaluators closes it, or an administrator.');
    if (row.closedAt !== null) throw outOfTurn('It is closed already.');
    const people = (await handedIn(db, id)).length;
    if (people === 0) throw outOfTurn('Nobody has handed in scores yet; there is nothing to show.');
    await db.update(calibration).set({ closedAt: house.now().toISOString() }).where(eq(calibration.id, id));
    await note(db, caller, 'calibration-closed', id, { people });
  });
}

/** What a closed calibration showed, for every evaluator to see. */
export async function reportCalibration(
  house: House,
  id: string,
): Promise<RouteAnswer<typeof routes.calibrationReport>> {
  const row = await calibrationOr404(house.db, id);
  if (row.closedAt === null)
    throw outOfTurn('What it showed is seen once it is closed, so that nobody is led by another.');
  const scores = await handedIn(house.db, id);
  const pack = await effectivePackOf(house.db, row.packHash);
  const found = await calibrated(house.db, row, scores);
  const byId = new Map(row.round.criteria.map((each) => [each.id, each]));
  const { icc, iccIntervals } = found;
  return {
    id,
    title: row.title,
    classTitle: pack.title,
    startedAt: iso(row.startedAt)!,
    closedAt: iso(row.closedAt)!,
    says: found.says,
    evaluators: found.evaluators.map(({ evaluator, apart, ...each }, i) => ({
      n: each.n,
      severity: each.severity,
      interval: each.interval,
      says: severityWords({ evaluator, apart, ...each }),
      name: scores[i]!.name,
      way: scores[i]!.way,
      exact: each.exact,
      exactInterval: each.exactInterval,
      kappa: Number.isFinite(each.kappa) ? each.kappa : null,
      // The interval by its standard error may reach beyond what there is.
      kappaInterval: each.kappaInterval && {
        low: Math.max(-1, each.kappaInterval.low),
        high: Math.min(1, each.kappaInterval.high),
      },
      apart: apart.map(({ section, severity }) => ({ section: section as ReplaySection, severity })),
    })),
    criteria: found.criteria.map(({ id: criterion, n, agreed, severity }) => ({
      ...byId.get(criterion)!,
      n,
      agreed,
      severity,
      given: scores.map((each) => each.scores[criterion] ?? null),
    })),
    icc:
      icc &&
      ICC_FORMS.map((form) => ({
        form,
        value: icc[form],
        interval: iccIntervals ? iccIntervals[form] : null,
      })),
  };
}
