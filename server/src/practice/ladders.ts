import type { PersonLadder, routes, RouteInput } from '@rounds/contract';
import { longDate } from '@rounds/core/calendar';
import type { Rung } from '@rounds/core/catalogue';
import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { standingsOf } from '../certification/standings';
import { publishedPack } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { account, machineClass, person } from '../data/schema';
import { rungSignOff } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { personOr404 } from '../people/roster';
import { personPractice } from './personPractice';

type Asked = RouteInput<typeof routes.personLadders>;
type Practised = Awaited<ReturnType<typeof personPractice>>['classes'][number];
type Row = typeof rungSignOff.$inferSelect & { by: string };

/** Sign-offs of a person that stand, oldest first. */
async function standing(db: Database, personId: string): Promise<Row[]> {
  const rows = await db
    .select({ row: rungSignOff, by: account.name })
    .from(rungSignOff)
    .innerJoin(account, eq(account.id, rungSignOff.accountId))
    .where(eq(rungSignOff.personId, personId))
    .orderBy(asc(rungSignOff.seq));
  const back = new Set(rows.map((each) => each.row.takesBack));
  return rows.flatMap(({ row, by }) => (row.takesBack === null && !back.has(row.id) ? [{ ...row, by }] : []));
}

const signed = ({ id, on, by, note: says }: Row) => ({ id, on, by, note: says });

/** What somebody practised by themselves that speaks for a rung, in a sentence, and whether it is enough there. */
function shownBy(rung: Rung, practised: Practised | undefined): { shown: string | null; met: boolean } {
  const nothing = { shown: null, met: false };
  if (!practised || !rung.shownBy) return nothing;
  if (rung.shownBy === 'round') {
    if (!practised.last) return nothing;
    const times = practised.metOn.length;
    return {
      shown: `Walk-round drills: ${Math.round(practised.last.score)} of 100 last, standard met on ${times === 1 ? 'one day' : `${times} days`}`,
      met: practised.parts.some((each) => each.part === 'round' && each.met),
    };
  }
  if (rung.shownBy === 'commands') {
    const last = practised.lastCommands;
    return last
      ? {
          shown: `Commands: ${last.right} of ${last.calls} right last`,
          met: practised.commandsReady,
        }
      : nothing;
  }
  const last = practised.lastDesk;
  return last
    ? {
        shown: `At the desk: ${Math.round(last.score)} of 100 last${last.critical > 0 ? ', with a critical flaw' : ''}`,
        met: last.score === 100 && last.critical === 0,
      }
    : nothing;
}

async function ladderOf(
  house: House,
  classId: string,
  rows: readonly Row[],
  practised: Practised | undefined,
): Promise<PersonLadder | null> {
  const published = await publishedPack(house.db, classId);
  if (!published) return null;
  const { title, teaching } = published.pack;
  const own = rows.filter((each) => each.classId === classId);
  const known = new Set(teaching.ladder.map((each) => each.id));
  return {
    classId,
    classTitle: title,
    rungs: teaching.ladder.map((rung) => {
      const row = own.findLast((each) => each.rung === rung.id);
      return {
        id: rung.id,
        says: rung.says,
        criterion: rung.criterion ?? null,
        signed: row ? signed(row) : null,
        ...shownBy(rung, practised),
      };
    }),
    gone: own.filter((each) => !known.has(each.rung)).map((each) => ({ ...signed(each), says: each.says })),
  };
}

/** How far a person has come on the ladders of the classes they stand in, practise or were signed off in. */
export async function personLadders(
  house: House,
  { params, query }: Pick<Asked, 'params' | 'query'>,
  caller: Caller,
) {
  const who = await personOr404(house, caller, params.id);
  const rows = await standing(house.db, who.id);
  const practice = await personPractice(house, caller, who.id);
  const standings = (await standingsOf(house.db, [who], await siteToday(house))).get(who.id) ?? [];
  const ids = new Set([
    ...(query.classId ? [query.classId] : []),
    ...rows.map((each) => each.classId),
    ...standings.map((each) => each.classId),
    ...practice.classes.map((each) => each.classId),
  ]);
  const found = await Promise.all(
    [...ids].map((id) =>
      ladderOf(
        house,
        id,
        rows,
        practice.classes.find((each) => each.classId === id),
      ),
    ),
  );
  const classes = await house.db
    .select({ id: machineClass.id, title: machineClass.title })
    .from(machineClass)
    .where(isNotNull(machineClass.publishedHash))
    .orderBy(asc(machineClass.title));
  return { ladders: found.filter((each) => each !== null), classes };
}

/** Signs somebody off on a rung. Sent again under the same number it is answered as it is. */
export async function signRung(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.signRung>, 'params' | 'body'>,
  caller: Caller,
) {
  const who = await personOr404(house, caller, params.id);
  if (caller.personId === who.id)
    throw new ProblemError('own-record', 'This would be about yourself. Another trainer signs it.');
  const today = await siteToday(house);
  if (body.on > today)
    throw new ProblemError(
      'date-in-future',
      `${longDate(body.on)} lies in the future; only what was shown is signed.`,
    );
  const published = await publishedPack(house.db, body.classId);
  const rung = published?.pack.teaching.ladder.find((each) => each.id === body.rung);
  if (!published || !rung) throw new ProblemError('unknown-row', 'This class has no such rung.');
  await house.db.transaction(async (db) => {
    // One at a time for one person, so that two trainers do not both sign the same rung.
    await db.select().from(person).where(eq(person.id, who.id)).for('update');
    const rows = await standing(db, who.id);
    if (rows.some((each) => each.id === body.id)) return;
    if (rows.some((each) => each.classId === body.classId && each.rung === body.rung))
      throw new ProblemError('signed-already', 'Somebody signed this rung already.');
    const made = await db
      .insert(rungSignOff)
      .values({
        id: body.id,
        personId: who.id,
        classId: body.classId,
        rung: rung.id,
        says: rung.says,
        on: body.on,
        note: body.note,
        accountId: caller.id,
        at: house.now().toISOString(),
      })
      .onConflictDoNothing()
      .returning({ id: rungSignOff.id });
    if (made.length > 0)
      await note(db, caller, 'rung-signed', body.id, {
        personId: who.id,
        classId: body.classId,
        rung: rung.id,
      });
  });
  return personLadders(house, { params, query: { classId: body.classId } }, caller);
}

/** Takes a sign-off back; the sign-off and its taking back both stay on record. */
export async function takeRungBack(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.takeRungBack>, 'params' | 'body'>,
  caller: Caller,
) {
  const who = await personOr404(house, caller, params.id);
  if (caller.personId === who.id)
    throw new ProblemError('own-record', 'This would be about yourself. Another trainer takes it back.');
  const classId = await house.db.transaction(async (db) => {
    const [row] = await db
      .select()
      .from(rungSignOff)
      .where(and(eq(rungSignOff.id, params.signOff), eq(rungSignOff.personId, who.id)));
    if (!row || row.takesBack !== null)
      throw new ProblemError('not-found', 'There is no such sign-off of this person.');
    await db.select().from(person).where(eq(person.id, who.id)).for('update');
    const stands = (await standing(db, who.id)).some((each) => each.id === row.id);
    if (!stands) return row.classId;
    const [back] = await db
      .insert(rungSignOff)
      .values({
        id: uuidv7(),
        personId: who.id,
        classId: row.classId,
        rung: row.rung,
        says: row.says,
        on: await siteToday(house),
        note: body.why,
        takesBack: row.id,
        accountId: caller.id,
        at: house.now().toISOString(),
      })
      .returning({ id: rungSignOff.id });
    await note(db, caller, 'rung-taken-back', back!.id, {
      personId: who.id,
      classId: row.classId,
      rung: row.rung,
      why: body.why,
    });
    return row.classId;
  });
  return personLadders(house, { params, query: { classId } }, caller);
}
