import { maximumWeightAntichain } from './antichain';
import type { Precedence, StepOrder } from './order';

/** How a trace of tokens is explained by an order of steps. */
export interface Explanation {
  /** For each step, the index of the event that is it, or null. */
  eventOf: (number | null)[];
  /** For each event, the index of the step that it is, or null. */
  stepOf: (number | null)[];
  /** Steps that are due: all but the optional ones, and an optional one that another waits for in a group. */
  due: boolean[];
  /** The order that was kept, with the picked member of each group. */
  kept: Precedence;
  /** Weight of the due steps that no event is. */
  skippedWeight: number;
}

interface ExplainOptions {
  /** Steps whose last event counts rather than the first: those that may be tried again. */
  lastCounts?: ReadonlySet<string>;
}

/**
 * The least-cost explanation of a trace: each step is at most one event, each event at most one step, and where step
 * a must come before step b and both were done, a's event comes first. Of all such explanations one that leaves out
 * the least weight of due steps; then one that explains most of the optional steps; then the first event of each
 * step (the last one of those in `lastCounts`).
 *
 * Where every prerequisite is fixed this is one maximum-weight antichain of (step, event) pairs, hence polynomial. A
 * group ("one of these") is met by the member that makes the whole cheapest: members are tried only where the optimum
 * without the group breaks it. Which members are cheapest is a hitting-set problem in general, so the cost grows with
 * the number of groups that a trace breaks, not with its length.
 *
 * Steps that share a token and are free of each other are taken in their written order.
 *
 * @example
 * const order = new StepOrder([
 *   { id: 'belt', token: 'belt', weight: 1, optional: false, after: [] },
 *   { id: 'engine', token: 'engine', weight: 3, optional: false, after: ['belt'] },
 * ]);
 * explain(order, ['engine', 'belt']).eventOf; // [null, 0]: the belt came too late
 */
export function explain(
  order: StepOrder,
  tokens: readonly string[],
  { lastCounts = new Set() }: ExplainOptions = {},
): Explanation {
  const { steps, groups } = order;
  const pairs = possiblePairs(order, tokens);
  const scale = steps.length * (tokens.length + 1) + 1;

  interface Choice {
    precedence: Precedence;
    due: boolean[];
    /** Groups that have no member yet. */
    open: number[];
  }
  interface Solved {
    chosen: [number, number][];
    value: number;
  }

  function solve({ precedence, due }: Choice): Solved {
    const full = tieShared(order, precedence);
    const gain = ([s, e]: [number, number]): number => {
      const { weight, optional, id } = steps[s]!;
      const early = lastCounts.has(id) ? e : tokens.length - e;
      return gainOf(weight, optional, due[s]!) * scale + early;
    };
    const chosen = maximumWeightAntichain({
      size: pairs.length,
      less: (a, b) => {
        const [s, e] = pairs[a]!;
        const [t, f] = pairs[b]!;
        return s === t ? f < e : full.has(s, t) && f <= e;
      },
      weights: pairs.map(gain),
    }).map((i) => pairs[i]!);
    const penalty = steps.reduce(
      (sum, { weight, optional }, s) => sum + (optional && due[s] ? weight * DUE : 0),
      0,
    );
    const value = chosen.reduce((sum, [s]) => {
      const { weight, optional } = steps[s]!;
      return sum + gainOf(weight, optional, due[s]!);
    }, -penalty);
    return { chosen, value };
  }

  /** The pick with one more member, and what then must be done; null where that runs in a circle. */
  function withMember(choice: Choice, group: number, member: number): Choice | null {
    const precedence = choice.precedence.copy();
    if (!precedence.add(member, groups[group]!.owner)) return null;
    return { precedence, due: [...choice.due], open: choice.open.filter((each) => each !== group) };
  }
  /** What is due once every group has its member: owners that are due make their members due. */
  function dueWith(members: ReadonlyMap<number, number>): boolean[] {
    const due = steps.map((each) => !each.optional);
    for (let changed = true; changed;) {
      changed = false;
      for (const [group, member] of members)
        if (due[groups[group]!.owner] && !due[member]) due[member] = changed = true;
    }
    return due;
  }

  let best: { solved: Solved; choice: Choice } | null = null;
  const keep = (solved: Solved, choice: Choice): void => {
    if (!best || solved.value > best.solved.value) best = { solved, choice };
  };
  const visit = (choice: Choice, members: ReadonlyMap<number, number>): void => {
    const relaxed = solve({ ...choice, due: dueWith(members) });
    if (best && relaxed.value <= best.solved.value) return;
    const done = completed(choice, members, relaxed);
    if (done) {
      const solved = solve(done);
      keep(solved, done);
      if (solved.value >= relaxed.value) return;
    }
    const group = choice.open.find((each) => broken(each, relaxed)) ?? choice.open[0];
    if (group === undefined) return;
    for (const member of groups[group]!.members) {
      const further = withMember(choice, group, member);
      if (further) visit(further, new Map([...members, [group, member]]));
    }
  };
  /** Whether an explanation has a group's owner before all of its members that were done. */
  function broken(group: number, { chosen }: Solved): boolean {
    const at = new Map(chosen);
    const owner = at.get(groups[group]!.owner);
    return owner !== undefined && !groups[group]!.members.some((each) => (at.get(each) ?? Infinity) < owner);
  }
  /** Picks for the groups still open, by what was done first; null where no member can be picked. */
  function completed(
    choice: Choice,
    members: ReadonlyMap<number, number>,
    { chosen }: Solved,
  ): Choice | null {
    const at = new Map(chosen);
    const all = new Map(members);
    let now = choice;
    for (const group of choice.open) {
      const ranked = [...groups[group]!.members].sort(
        (a, b) =>
          (at.get(a) ?? Infinity) - (at.get(b) ?? Infinity) ||
          Number(steps[a]!.optional) - Number(steps[b]!.optional) ||
          steps[a]!.weight - steps[b]!.weight,
      );
      let further: Choice | null = null;
      for (const member of ranked) {
        further = withMember(now, group, member);
        if (further) {
          all.set(group, member);
          break;
        }
      }
      if (!further) return null;
      now = further;
    }
    return { ...now, due: dueWith(all) };
  }

  visit({ precedence: order.base, due: dueWith(new Map()), open: groups.map((_, i) => i) }, new Map());
  if (!best) throw new RangeError('no choice among the groups leaves an order that can be kept');
  const { solved, choice } = best as { solved: Solved; choice: Choice };
  const eventOf: (number | null)[] = steps.map(() => null);
  const stepOf: (number | null)[] = tokens.map(() => null);
  for (const [s, e] of solved.chosen) {
    eventOf[s] = e;
    stepOf[e] = s;
  }
  return {
    eventOf,
    stepOf,
    due: choice.due,
    kept: choice.precedence,
    skippedWeight: steps.reduce(
      (sum, { weight }, s) => sum + (choice.due[s] && eventOf[s] === null ? weight : 0),
      0,
    ),
  };
}

/** How much more a due step is worth than one that may be left out: more than there are steps in a procedure. */
const DUE = 1000;
/** What it is worth that an event is a step. */
function gainOf(weight: number, optional: boolean, due: boolean): number {
  return weight * ((due ? DUE : 0) + (optional ? 1 : 0));
}

function possiblePairs({ steps }: StepOrder, tokens: readonly string[]): [number, number][] {
  const events = new Map<string, number[]>();
  tokens.forEach((token, e) => events.set(token, [...(events.get(token) ?? []), e]));
  return steps.flatMap((step, s) => (events.get(step.token) ?? []).map((e): [number, number] => [s, e]));
}

/** The order with steps that share a token put in line, so that no event is two of them. */
function tieShared({ steps }: StepOrder, precedence: Precedence): Precedence {
  const shared = new Map<string, number[]>();
  for (const s of precedence.topological())
    shared.set(steps[s]!.token, [...(shared.get(steps[s]!.token) ?? []), s]);
  const several = [...shared.values()].filter((each) => each.length > 1);
  if (several.length === 0) return precedence;
  const tied = precedence.copy();
  for (const each of several) for (let i = 1; i < each.length; i++) tied.add(each[i - 1]!, each[i]!);
  return tied;
}
