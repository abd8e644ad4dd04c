/**
 * A finite partial order on elements 0 … size-1. `less(a, b)` must be irreflexive and transitive.
 */
export interface WeightedOrder {
  size: number;
  less: (a: number, b: number) => boolean;
  /** Positive integers; their sum stays below 2^53. */
  weights: readonly number[];
}

/**
 * The elements of a maximum-weight antichain: of the sets without two related elements, one of greatest weight.
 * Indices, ascending. Found exactly as the complement of a minimum-weight vertex cover in the bipartite graph of
 * related pairs, by maximum flow: O(size² · phases), no search.
 *
 * Source: R. P. Dilworth, "A decomposition theorem for partially ordered sets", Annals of Mathematics 51 (1950);
 * weighted and by flow: R. H. Möhring, "Algorithmic aspects of comparability graphs", in Graphs and Order (1985).
 *
 * @example
 * // 0 before 1, and 2 free of both
 * maximumWeightAntichain({ size: 3, less: (a, b) => a === 0 && b === 1, weights: [3, 2, 1] }); // [0, 2]
 */
export function maximumWeightAntichain({ size, less, weights }: WeightedOrder): number[] {
  const above: number[][] = Array.from({ length: size }, () => []);
  for (let a = 0; a < size; a++) for (let b = 0; b < size; b++) if (a !== b && less(a, b)) above[a]!.push(b);
  const { left, right } = minimumCut(size, above, weights);
  // What neither side of the cut covers.
  return Array.from({ length: size }, (_, i) => i).filter((i) => left[i] === 1 && right[i] === 0);
}

/**
 * Maximum flow from a source over left copies (capacity `weights`), related pairs (unbounded) and right copies
 * (capacity `weights`) to a sink, by blocking flows in layers (E. A. Dinic 1970). Returns which copies the source
 * still reaches.
 */
function minimumCut(
  size: number,
  above: readonly (readonly number[])[],
  weights: readonly number[],
): { left: Uint8Array; right: Uint8Array } {
  const leftRoom = Float64Array.from(weights);
  const rightRoom = Float64Array.from(weights);
  /** Flow of each related pair, beside `above`; and per right copy, the pairs that carry some. */
  const flow = above.map((each) => new Float64Array(each.length));
  const carrying: Map<number, number>[] = Array.from({ length: size }, () => new Map());
  const place = above.map((each) => new Map(each.map((b, k) => [b, k])));

  const push = (a: number, k: number, amount: number): void => {
    const b = above[a]![k]!;
    const now = flow[a]![k]! + amount;
    flow[a]![k] = now;
    if (now > 0) carrying[b]!.set(a, k);
    else carrying[b]!.delete(a);
  };

  const leftLevel = new Int32Array(size);
  const rightLevel = new Int32Array(size);
  /** Layers from the source through pairs with room and back through pairs that carry; whether a sink is met. */
  const layer = (): boolean => {
    leftLevel.fill(-1);
    rightLevel.fill(-1);
    let front: number[] = [];
    for (let a = 0; a < size; a++)
      if (leftRoom[a]! > 0) {
        leftLevel[a] = 0;
        front.push(a);
      }
    let met = false;
    for (let level = 1; front.length > 0 && !met; level += 2) {
      const reached: number[] = [];
      for (const a of front)
        for (const b of above[a]!)
          if (rightLevel[b] === -1) {
            rightLevel[b] = level;
            reached.push(b);
            if (rightRoom[b]! > 0) met = true;
          }
      front = [];
      for (const b of reached)
        for (const a of carrying[b]!.keys())
          if (leftLevel[a] === -1) {
            leftLevel[a] = level + 1;
            front.push(a);
          }
    }
    return met;
  };

  while (layer()) {
    const nextPair = new Int32Array(size);
    const back: ([number, number][] | undefined)[] = new Array<undefined>(size);
    const backAt = new Int32Array(size);
    for (let start = 0; start < size; start++) {
      while (leftRoom[start]! > 0) {
        const path = findPath(start, nextPair, back, backAt);
        if (!path) break;
        const end = path.at(-1)!;
        let amount = Math.min(leftRoom[start]!, rightRoom[end.to]!);
        for (const step of path) if (step.undo) amount = Math.min(amount, flow[step.from]![step.pair]!);
        for (const step of path) push(step.from, step.pair, step.undo ? -amount : amount);
        leftRoom[start]! -= amount;
        rightRoom[end.to]! -= amount;
      }
    }
  }
  layer();
  return {
    left: Uint8Array.from(leftLevel, (level) => (level >= 0 ? 1 : 0)),
    right: Uint8Array.from(rightLevel, (level) => (level >= 0 ? 1 : 0)),
  };

  interface Link {
    from: number;
    pair: number;
    to: number;
    undo: boolean;
  }

  /** A way along the layers from a left copy to a right one with room; dead ends are never tried again. */
  function findPath(
    start: number,
    nextPair: Int32Array,
    back: ([number, number][] | undefined)[],
    backAt: Int32Array,
  ): Link[] | null {
    const path: Link[] = [];
    let a = start;
    for (;;) {
      const pairs = above[a]!;
      let advanced = false;
      for (; nextPair[a]! < pairs.length; nextPair[a]!++) {
        const k = nextPair[a]!;
        const b = pairs[k]!;
        if (rightLevel[b] !== leftLevel[a]! + 1) continue;
        const forward: Link = { from: a, pair: k, to: b, undo: false };
        if (rightRoom[b]! > 0) return [...path, forward];
        const behind = (back[b] ??= [...carrying[b]!.entries()]);
        while (backAt[b]! < behind.length) {
          const [c] = behind[backAt[b]!]!;
          const carried = place[c]!.get(b)!;
          if (leftLevel[c] === rightLevel[b]! + 1 && flow[c]![carried]! > 0) {
            path.push(forward, { from: c, pair: carried, to: b, undo: true });
            a = c;
            advanced = true;
            break;
          }
          backAt[b]!++;
        }
        if (advanced) break;
      }
      if (advanced) continue;
      if (path.length === 0) return null;
      // A dead end: one link back, and past it.
      const undone = path.pop()!;
      const forward = path.pop()!;
      backAt[undone.to]!++;
      a = forward.from;
    }
  }
}
