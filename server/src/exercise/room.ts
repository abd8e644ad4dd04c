import type { ExercisePhone, ExerciseView } from '@rounds/contract';
import { benchItem, benchKey, findingView } from '@rounds/core/bench';
import type { EffectivePack } from '@rounds/core/catalogue';
import { type RoomFinding, spreadOf } from '@rounds/core/exercise';
import { type PracticeReview, worstOfEach } from '@rounds/core/practice';
import { asc, eq } from 'drizzle-orm';
import { effectivePackOf } from '../classes/packs';
import type { Database } from '../data/database';
import { type exercise, exerciseAnswer, exerciseCards, exercisePlace } from '../data/gradingSchema';
import { person } from '../data/schema';
import { keyView } from '../practice/keyView';

export type ExerciseRow = typeof exercise.$inferSelect;
export type PlaceRow = typeof exercisePlace.$inferSelect;

/** An exercise with everybody in it and all they said. */
export interface Room {
  row: ExerciseRow;
  pack: EffectivePack;
  places: (PlaceRow & { personName: string | null })[];
  answers: (typeof exerciseAnswer.$inferSelect)[];
  cards: Map<number, number[]>;
}

export async function readRoom(db: Database, row: ExerciseRow): Promise<Room> {
  const places = await db
    .select({ place: exercisePlace, given: person.givenName, family: person.familyName })
    .from(exercisePlace)
    .leftJoin(person, eq(person.id, exercisePlace.personId))
    .where(eq(exercisePlace.exerciseId, row.id))
    .orderBy(asc(exercisePlace.joinedAt), asc(exercisePlace.id));
  const answers = await db.select().from(exerciseAnswer).where(eq(exerciseAnswer.exerciseId, row.id));
  const cards = await db.select().from(exerciseCards).where(eq(exerciseCards.exerciseId, row.id));
  return {
    row,
    pack: await effectivePackOf(db, row.packHash),
    places: places.map(({ place, given, family }) => ({
      ...place,
      personName: given === null ? null : `${given} ${family}`,
    })),
    answers,
    cards: new Map(cards.map((each) => [each.n, each.counts])),
  };
}

/** How everybody graded a finding. */
export function roomFinding({ row, pack, answers, cards }: Room, n: number): RoomFinding {
  return {
    key: benchKey(pack, row.cases[n]!).grade,
    answers: answers.filter((each) => each.n === n).map(({ placeId, grade }) => ({ who: placeId, grade })),
    cards: cards.get(n) ?? null,
  };
}

export const isRevealed = ({ revealed }: ExerciseRow, n: number): boolean => revealed.includes(n);

/** A room as its trainer has it. What somebody said is not in it before it is revealed. */
export function trainerView(room: Room): ExerciseView {
  const { row, pack, places, answers, cards } = room;
  const { n } = row;
  const revealed = n !== null && isRevealed(row, n);
  const said = new Map(answers.filter((each) => each.n === n).map((each) => [each.placeId, each.grade]));
  return {
    id: row.id,
    title: row.title,
    classTitle: pack.title,
    code: row.code,
    of: row.cases.length,
    n,
    revealed,
    ended: row.endedAt !== null,
    finding: n === null ? null : findingView(pack, row.cases[n]!, 'all'),
    key: revealed ? keyView(benchKey(pack, row.cases[n]!)) : null,
    spread: revealed ? spreadOf(roomFinding(room, n)) : null,
    cards: n === null ? null : (cards.get(n) ?? null),
    participants: places.map((each) => ({
      id: each.id,
      name: each.name,
      guest: each.guest,
      person: each.personId ? { id: each.personId, name: each.personName ?? '' } : null,
      answered: said.has(each.id),
      grade: revealed ? (said.get(each.id) ?? null) : null,
    })),
  };
}

/** A room as one of its phones sees it: the finding, and what its own person said of it. */
export function phoneView(
  { row, pack, answers }: Pick<Room, 'row' | 'pack' | 'answers'>,
  place: PlaceRow,
): ExercisePhone {
  const { n } = row;
  const ended = row.endedAt !== null;
  return {
    id: row.id,
    title: row.title,
    state: ended ? 'ended' : n === null ? 'waiting' : isRevealed(row, n) ? 'closed' : 'open',
    of: row.cases.length,
    n,
    finding: n === null || ended ? null : findingView(pack, row.cases[n]!, 'all'),
    mine: answers.find((each) => each.placeId === place.id && each.n === n)?.grade ?? null,
    result: ended ? { right: place.right, of: place.graded } : null,
  };
}

/** What somebody graded of the findings that were revealed, and whether as the key has it. */
const gradedBy = ({ row, pack, answers }: Room, placeId: string) =>
  answers
    .filter((each) => each.placeId === placeId && isRevealed(row, each.n))
    .map(({ n, grade }) => ({
      item: benchItem(row.cases[n]!),
      right: benchKey(pack, row.cases[n]!).grade === grade,
    }));

/** How many of somebody's grades are as the key has them, of the findings that were revealed. */
export function resultOf(room: Room, placeId: string): { right: number; of: number } {
  const own = gradedBy(room, placeId);
  return { right: own.filter((each) => each.right).length, of: own.length };
}

/** What somebody's grades say about the memory of their items. */
export const reviewsOfPlace = (room: Room, placeId: string, at: string): PracticeReview[] =>
  worstOfEach(
    gradedBy(room, placeId).map(({ item, right }) => ({ item, at, outcome: right ? 'right' : 'wrong' })),
  );
