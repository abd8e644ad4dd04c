import { randomInt } from 'node:crypto';
import type { CommandOutcome, CommandView, commandRoutes as routes, RouteInput } from '@rounds/contract';
import {
  type Call,
  callPlaces,
  callsAt,
  commandResult,
  type CommandResult,
  commandStandard,
  type Controls,
  controlsOf,
  dealCalls,
  dealPauses,
  fullRounds,
  isAnsweredByNothing,
  isReadyBy,
  shortRounds,
} from '@rounds/core/commands';
import { deskPackOf, isInClockOrder } from '@rounds/core/machine';
import { and, asc, eq, isNotNull, lte } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { effectivePackOf, packOrProblem } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import { person } from '../data/schema';
import { commandSet } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { composedFor, learnerOf, maySeePractised, namedLearner } from './learner';

type Row = typeof commandSet.$inferSelect;
type Ended = RouteInput<typeof routes.endCommands>['body'];

const missing = () => new ProblemError('not-found', 'There is no such set of commands, or it is not yours.');
const refused = (why: string) => new ProblemError('command-set', why);
const instantOf = (text: string) => new Date(text).toISOString();

async function ownSet(house: House, caller: Caller, id: string): Promise<Row> {
  const [row] = await house.db.select().from(commandSet).where(eq(commandSet.id, id));
  if (!row || row.accountId !== caller.id) throw missing();
  return row;
}

async function view(house: House, row: Row): Promise<CommandView> {
  const effective = await effectivePackOf(house.db, row.packHash);
  return {
    id: row.id,
    classId: row.classId,
    classTitle: effective.title,
    calledAt: row.calledAt,
    person: await namedLearner(house.db, row.personId),
    startedAt: instantOf(row.startedAt),
    ended: row.endedAt !== null,
    pack: deskPackOf(effective),
    deal: row.deal,
    standard: commandStandard(effective),
  };
}

/** The calls of a set, from the place asked for or the one with the most. Throws where there are none. */
function callsFor(
  controls: Controls | null,
  { calledAt, place }: RouteInput<typeof routes.startCommands>['body'],
): { place: string; calls: Call[] } {
  const places = controls ? callPlaces(controls) : [];
  const from = place === null ? places[0] : places.find((each) => each.place === place);
  if (!controls || !from) throw refused('This class has no commands that can be called there.');
  const calls =
    calledAt === 'desk' ? from.calls.filter((each) => !isAnsweredByNothing(controls, each)) : from.calls;
  if (calls.length < 2) throw refused('There are too few commands to call there.');
  return { place: from.place, calls };
}

/** Deals a set of commands, or answers with the same one that was dealt before. */
export async function startCommands(
  house: House,
  body: RouteInput<typeof routes.startCommands>['body'],
  caller: Caller,
): Promise<CommandView> {
  const [existing] = await house.db
    .select({ id: commandSet.id })
    .from(commandSet)
    .where(eq(commandSet.id, body.id));
  if (!existing) {
    if (body.calledAt === 'machine' && caller.role === 'operator')
      throw new ProblemError('forbidden', 'On a machine a trainer calls, and taps what was answered.');
    const who = await learnerOf(house, caller, body.personId);
    const pack = await packOrProblem(house.db, body.classId);
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      const effective = await composedFor(db, pack, body.variant, who, today);
      const { place, calls } = callsFor(controlsOf(effective), body);
      const seed = randomInt(2 ** 31);
      const dealt = dealCalls(calls, body.full ? fullRounds(calls) : shortRounds(calls), seed);
      const made = await db
        .insert(commandSet)
        .values({
          id: body.id,
          personId: who?.id ?? null,
          accountId: caller.id,
          classId: pack.id,
          packHash: effective.hash,
          calledAt: body.calledAt,
          deal: { place, calls: dealt, pauses: dealPauses(dealt.length, seed) },
          startedAt: house.now().toISOString(),
        })
        .onConflictDoNothing()
        .returning({ id: commandSet.id });
      if (made.length > 0)
        await note(db, caller, 'commands-started', body.id, {
          personId: who?.id ?? null,
          classId: pack.id,
          calledAt: body.calledAt,
        });
    });
  }
  return openCommands(house, caller, body.id);
}

/** A set of the caller as it was dealt. */
export async function openCommands(house: House, caller: Caller, id: string): Promise<CommandView> {
  return view(house, await ownSet(house, caller, id));
}

async function judged(house: House, row: Row, body: Ended): Promise<CommandResult> {
  if (body.calledAt !== row.calledAt) throw refused('This set is answered in another way. Nothing was kept.');
  const effective = await effectivePackOf(house.db, row.packHash);
  const [pack, standard] = [deskPackOf(effective), commandStandard(effective)];
  if (body.calledAt === 'desk') {
    if (!isInClockOrder(body.log, body.ticks))
      throw refused('The acts are not in the order of the clock. Nothing was kept.');
    return house.pool.run('judgeCommands', {
      pack,
      deal: row.deal,
      standard,
      log: body.log,
      ticks: body.ticks,
    });
  }
  if (
    body.answers.length > row.deal.calls.length ||
    body.answers.some((each, i) => each.call !== row.deal.calls[i])
  )
    throw refused('The answers are not those to the commands that were dealt. Nothing was kept.');
  return commandResult(callsAt(controlsOf(pack)!, row.deal.place), body.answers, standard);
}

/** Ends a set: it joins the learner's record. Ended again, it is answered as it is. */
export async function endCommands(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.endCommands>, 'params' | 'body'>,
  caller: Caller,
): Promise<CommandOutcome> {
  const before = await ownSet(house, caller, params.id);
  if (before.endedAt === null) {
    const result = await judged(house, before, body);
    await house.db.transaction(async (db) => {
      const [row] = await db.select().from(commandSet).where(eq(commandSet.id, params.id)).for('update');
      if (row!.endedAt !== null) return;
      await db
        .update(commandSet)
        .set({
          log: body.calledAt === 'desk' ? body.log : null,
          result,
          endedAt: house.now().toISOString(),
        })
        .where(eq(commandSet.id, params.id));
      await note(db, caller, 'commands-ended', params.id, {
        personId: row!.personId,
        classId: row!.classId,
        counts: result.counts,
      });
    });
  }
  return commandOutcome(house, caller, params.id);
}

/** Sets of a person in a class that have ended, oldest first, with what they came to. */
async function endedSets(house: House, personId: string, classId: string, until?: string) {
  const rows = await house.db
    .select()
    .from(commandSet)
    .where(
      and(
        eq(commandSet.personId, personId),
        eq(commandSet.classId, classId),
        isNotNull(commandSet.endedAt),
        until === undefined ? undefined : lte(commandSet.endedAt, until),
      ),
    )
    .orderBy(asc(commandSet.endedAt));
  return rows.map((each) => ({ ...each, result: each.result!, endedAt: instantOf(each.endedAt!) }));
}

/** What a set came to, for its learner and whoever may see them. Throws where it has not ended. */
export async function commandOutcome(house: House, caller: Caller, id: string): Promise<CommandOutcome> {
  const [found] = await house.db
    .select({ row: commandSet, team: person.team })
    .from(commandSet)
    .leftJoin(person, eq(person.id, commandSet.personId))
    .where(eq(commandSet.id, id));
  const row = found?.row;
  if (!row || !maySeePractised(caller, row, found.team)) throw missing();
  if (row.endedAt === null || row.result === null)
    throw new ProblemError('not-complete', 'This set has not ended, so it says nothing yet.');
  const { pack: _pack, ...seen } = await view(house, row);
  const controls = controlsOf(deskPackOf(await effectivePackOf(house.db, row.packHash)))!;
  const sets = row.personId ? await endedSets(house, row.personId, row.classId, row.endedAt) : [];
  return {
    ...seen,
    endedAt: instantOf(row.endedAt),
    says: Object.fromEntries(controls.calls.map((each) => [each.id, each.say])),
    placeName: controls.machine.desk.places.find((each) => each.id === row.deal.place)!.name,
    result: row.result,
    sets: sets.map(({ id: set, endedAt, calledAt, result }) => ({
      id: set,
      endedAt,
      calledAt,
      calls: result.answers.length,
      wrong: result.counts.wrong,
      late: result.counts.late + result.counts.missed,
      median: result.median,
      meets: result.unmet.length === 0,
    })),
    ready: isReadyBy(sets.map((each) => each.result)),
  };
}

/** What a person's sets of commands of a class come to. */
export async function commandFigures(house: House, personId: string, classId: string) {
  const sets = await endedSets(house, personId, classId);
  const last = sets.at(-1);
  return {
    commandSets: sets.length,
    lastCommands: last
      ? {
          id: last.id,
          endedAt: last.endedAt,
          calls: last.result.answers.length,
          right: last.result.counts.right,
          median: last.result.median,
        }
      : null,
    commandsReady: isReadyBy(sets.map((each) => each.result)),
  };
}

/** Classes whose commands a person has answered. */
export async function classesCommanded(house: House, personId: string): Promise<string[]> {
  const rows = await house.db
    .selectDistinct({ classId: commandSet.classId })
    .from(commandSet)
    .where(and(eq(commandSet.personId, personId), isNotNull(commandSet.endedAt)));
  return rows.map((each) => each.classId);
}
