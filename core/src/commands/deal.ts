import { seededRandom, shuffled } from '../statistics';
import type { Call } from './calls';

/** The fewest calls of a set, so that a time of one's own is worth a median. */
const LEAST_CALLS = 24;

/** A piece of a set whose calls follow one another at once. */
type Piece = readonly Call[];

/** Calls that follow from one another as opposites, however many, each group once. */
function families(calls: readonly Call[]): { members: Call[]; links: Map<Call, Call[]> }[] {
  const known = new Map(calls.map((each) => [each.id, each]));
  const links = new Map<Call, Call[]>(calls.map((each) => [each, []]));
  const link = (a: Call, b: Call) => {
    if (a !== b && !links.get(a)!.includes(b)) links.get(a)!.push(b);
  };
  for (const call of calls) {
    const other = call.opposite === null ? undefined : known.get(call.opposite);
    if (!other) continue;
    link(call, other);
    link(other, call);
  }
  const seen = new Set<Call>();
  return calls.flatMap((first) => {
    if (seen.has(first) || links.get(first)!.length === 0) return [];
    const members = [first];
    seen.add(first);
    for (const each of members)
      for (const other of links.get(each)!)
        if (!seen.has(other)) {
          seen.add(other);
          members.push(other);
        }
    return [{ members, links }];
  });
}

/**
 * The calls of a family in an order in which each follows each of its opposites at once, both ways round, and once.
 * Every pair is walked there and back, so that such a walk always exists and ends where it began (L. Euler, 1736);
 * found as C. Hierholzer does (1873).
 */
function thereAndBack(
  members: readonly Call[],
  links: ReadonlyMap<Call, readonly Call[]>,
  start: Call,
): Call[] {
  const left = new Map(members.map((each) => [each, [...links.get(each)!]]));
  const [stack, walk] = [[start], [] as Call[]];
  while (stack.length > 0) {
    const next = left.get(stack.at(-1)!)!.pop();
    if (next) stack.push(next);
    else walk.unshift(stack.pop()!);
  }
  return walk;
}

/** For every family the walk through all its pairs, from the call of the control that is called least otherwise. */
function walks(calls: readonly Call[]): Piece[] {
  const weight = new Map<string, number>();
  const all = families(calls);
  for (const { members, links } of all)
    for (const each of members)
      weight.set(each.control, (weight.get(each.control) ?? 0) + links.get(each)!.length);
  return all.map(({ members, links }) => {
    const start = [...members].sort((a, b) => weight.get(a.control)! - weight.get(b.control)!)[0]!;
    return thereAndBack(members, links, start);
  });
}

const controlsIn = (calls: readonly Call[]) => [...new Set(calls.map((each) => each.control))];

/** How often a control must be called so that every pair of opposites can be called, in both orders. */
export function fullRounds(calls: readonly Call[]): number {
  const times = new Map<string, number>();
  const walked = walks(calls).flat();
  for (const each of walked) times.set(each.control, (times.get(each.control) ?? 0) + 1);
  const alone = new Map<string, number>();
  for (const each of calls)
    if (!walked.includes(each)) alone.set(each.control, (alone.get(each.control) ?? 0) + 1);
  return Math.max(
    shortRounds(calls),
    ...controlsIn(calls).map((control) => (times.get(control) ?? 0) + (alone.get(control) ?? 0)),
  );
}

/** How often a control is called in a short set: twice at least, so that both ways of a lever can come up. */
export const shortRounds = (calls: readonly Call[]): number =>
  Math.max(2, Math.ceil(LEAST_CALLS / Math.max(1, controlsIn(calls).length)));

/** The ordered pairs of opposites among calls. */
export const reversalsOf = (calls: readonly Call[]): [string, string][] =>
  families(calls).flatMap(({ members, links }) =>
    members.flatMap((a) => links.get(a)!.map((b): [string, string] => [a.id, b.id])),
  );

/** What a set is put together from: walks, or as many of their pairs as fit in, and single calls for the rest. */
function piecesWithin(calls: readonly Call[], rounds: number, random: () => number): Piece[] {
  const room = new Map(controlsIn(calls).map((control) => [control, rounds]));
  const fits = (piece: Piece) =>
    controlsIn(piece).every(
      (control) => piece.filter((each) => each.control === control).length <= room.get(control)!,
    );
  const take = (piece: Piece) => {
    for (const each of piece) room.set(each.control, room.get(each.control)! - 1);
    return piece;
  };
  const pieces: Piece[] = [];
  const called = new Map(calls.map((each) => [each, 0]));
  const add = (piece: Piece) => {
    pieces.push(take(piece));
    for (const each of piece) called.set(each, called.get(each)! + 1);
  };
  const full = rounds >= fullRounds(calls);
  for (const walk of shuffled(walks(calls), random)) {
    if (full) add(walk);
    else
      for (const pair of shuffled(
        walk.slice(1).map((call, i) => [walk[i]!, call]),
        random,
      ))
        if (fits(pair)) add(pair);
  }
  // What is left of every control's share: its calls that came up least.
  for (const control of controlsIn(calls))
    while (room.get(control)! > 0) {
      const own = shuffled(
        calls.filter((each) => each.control === control),
        random,
      ).sort((a, b) => called.get(a)! - called.get(b)!);
      add([own[0]!]);
    }
  return pieces;
}

/** Pieces one after the other so that no call follows itself; null where this order came to a dead end. */
function lined(pieces: readonly Piece[], random: () => number): Call[] | null {
  const left = shuffled(pieces, random);
  const line: Call[] = [];
  while (left.length > 0) {
    const starting = new Map<Call, number>();
    for (const [first] of left) starting.set(first!, (starting.get(first!) ?? 0) + 1);
    // What makes up half of what is left must come now, or it follows itself in the end.
    const pressing = [...starting].find(([, times]) => times * 2 > left.length)?.[0];
    const able = (piece: Piece) => piece[0] !== line.at(-1) && (!pressing || piece[0] === pressing);
    const at = left.findIndex(able);
    const next = at >= 0 ? at : left.findIndex((piece) => piece[0] !== line.at(-1));
    if (next < 0) return null;
    line.push(...left.splice(next, 1)[0]!);
  }
  return line;
}

/** How often another order is tried. */
const TRIES = 500;

/**
 * A set of calls in random order, the same for the same seed: every control is called equally often, no call follows
 * itself, and with `rounds` of `fullRounds` or more every call follows each of its opposites at once.
 *
 * @param rounds - how often each control is called
 * @returns ids of calls
 * @throws RangeError for fewer than two calls, and where no order without a repeat was found
 */
export function dealCalls(calls: readonly Call[], rounds: number, seed: number): string[] {
  if (calls.length < 2) throw new RangeError('a set needs two calls or more');
  const random = seededRandom(seed);
  for (let tries = 0; tries < TRIES; tries++) {
    const line = lined(piecesWithin(calls, rounds, random), random);
    if (line) return line.map((each) => each.id);
  }
  throw new RangeError('these calls cannot be called equally often without a repeat');
}
