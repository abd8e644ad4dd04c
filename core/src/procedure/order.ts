/** A step as the order sees it. `after` names steps that come before; of an anyOf group, one of them. */
export interface OrderStep {
  id: string;
  /** The name of its act in a trace; several steps may share one. */
  token: string;
  /** What leaving it out costs; a positive integer. */
  weight: number;
  /** It need not be done. */
  optional: boolean;
  after: readonly (string | { anyOf: readonly string[] })[];
}

/** A group of which one member must come before its owner. Indices of steps. */
interface Group {
  owner: number;
  members: number[];
}

/**
 * The steps of one or several procedures, and which of them must come before which. What `after` names outside of
 * `steps` asks for nothing.
 */
export class StepOrder {
  readonly index: ReadonlyMap<string, number>;
  readonly groups: readonly Group[];
  /** Which steps come before which, groups of several members left out. */
  readonly base: Precedence;

  /** Throws RangeError for an order that runs in a circle, naming a step of it. */
  constructor(readonly steps: readonly OrderStep[]) {
    this.index = new Map(steps.map((each, i) => [each.id, i]));
    const groups: Group[] = [];
    const edges: [number, number][] = [];
    steps.forEach((step, owner) => {
      for (const each of step.after) {
        const named = typeof each === 'string' ? [each] : each.anyOf;
        const members = named.flatMap((id) => this.index.get(id) ?? []);
        if (members.length === 1) edges.push([members[0]!, owner]);
        else if (members.length > 1) groups.push({ owner, members });
      }
    });
    const base = new Precedence(steps.length);
    for (const [a, b] of edges)
      if (!base.add(a, b)) throw new RangeError(`the order runs in a circle at step "${steps[b]!.id}"`);
    // A group that is met by what must be done before anyhow says nothing.
    this.groups = groups.filter(
      ({ owner, members }) => !members.some((each) => base.has(each, owner) && !steps[each]!.optional),
    );
    this.base = base;
  }

  /** Whether step a comes before step b whatever member of each group is picked. */
  before(a: string, b: string): boolean {
    const [i, j] = [this.index.get(a), this.index.get(b)];
    return i !== undefined && j !== undefined && this.base.has(i, j);
  }
}

/** A strict partial order on 0 … size-1, kept transitively closed. */
export class Precedence {
  private readonly rows: Uint8Array[];

  constructor(readonly size: number) {
    this.rows = Array.from({ length: size }, () => new Uint8Array(size));
  }

  has(a: number, b: number): boolean {
    return this.rows[a]![b] === 1;
  }

  /** Says that a comes before b; false, and nothing changed, where that would run in a circle. */
  add(a: number, b: number): boolean {
    if (a === b || this.has(b, a)) return false;
    if (this.has(a, b)) return true;
    const before = [a];
    const after = [b];
    for (let i = 0; i < this.size; i++) {
      if (this.has(i, a)) before.push(i);
      if (this.has(b, i)) after.push(i);
    }
    for (const i of before) for (const j of after) this.rows[i]![j] = 1;
    return true;
  }

  copy(): Precedence {
    const copy = new Precedence(this.size);
    this.rows.forEach((row, i) => copy.rows[i]!.set(row));
    return copy;
  }

  /** An order of all elements that keeps every "before"; of those that are free, the one written first. */
  topological(): number[] {
    const waits = this.rows.map((_, i) => this.rows.reduce((sum, row) => sum + row[i]!, 0));
    return waits
      .map((count, i) => [count, i] as const)
      .sort((x, y) => x[0] - y[0] || x[1] - y[1])
      .map(([, i]) => i);
  }
}

/**
 * The circle that would close if `earlier` had to come before `later`: step ids from `later` round to `later` again;
 * null where none would. Members of groups count, since each may be the one picked.
 *
 * @example loopWith([{ id: 'a', after: [] }, { id: 'b', after: ['a'] }], 'b', 'a') // ['a', 'b', 'a']
 */
export function loopWith(
  steps: readonly Pick<OrderStep, 'id' | 'after'>[],
  earlier: string,
  later: string,
): string[] | null {
  if (earlier === later) return [later, later];
  const waiting = (id: string) =>
    steps.filter((each) => each.after.some((a) => (typeof a === 'string' ? a === id : a.anyOf.includes(id))));
  const ways: string[][] = [[later]];
  const seen = new Set([later]);
  for (let way = ways.shift(); way; way = ways.shift())
    for (const { id } of waiting(way.at(-1)!)) {
      if (id === earlier) return [...way, earlier, later];
      if (seen.has(id)) continue;
      seen.add(id);
      ways.push([...way, id]);
    }
  return null;
}
