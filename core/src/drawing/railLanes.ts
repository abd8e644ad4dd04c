/** A line from one row of a rail to a later one, and the lane it runs in. */
export interface RailTie {
  from: number;
  to: number;
  lane: number;
}

/**
 * Lanes of a rail whose rows are 0 … size-1 and where `next` lists the later rows that a row leads to: one for each
 * row's sign, one for each line. No line runs through the sign of another row, and two lines share a lane only where
 * they come from one row or lead to one.
 */
export function railLanes(next: readonly (readonly number[])[]): { signs: number[]; ties: RailTie[] } {
  const signs = signLanes(next);
  const ties: RailTie[] = [];
  const wanted = next
    .flatMap((rows, from) => rows.map((to) => ({ from, to })))
    .sort((a, b) => a.to - a.from - (b.to - b.from) || a.from - b.from);
  for (const { from, to } of wanted) {
    let lane = Math.max(signs[from]!, signs[to]!);
    while (isBlocked(lane)) lane++;
    ties.push({ from, to, lane });

    function isBlocked(tried: number): boolean {
      for (let row = from + 1; row < to; row++) if (signs[row] === tried) return true;
      return ties.some(
        (each) =>
          each.lane === tried && each.from < to && from < each.to && each.from !== from && each.to !== to,
      );
    }
  }
  return { signs, ties };
}

/**
 * A lane for each row: its first follower goes on in the lane of the row, others fork into the next free one. A lane is
 * free again once nothing that it leads to is still to come.
 */
function signLanes(next: readonly (readonly number[])[]): number[] {
  const lanes: number[] = [];
  /** For each lane, the last row that its newest sign leads to. */
  const busy: number[] = [];
  for (const [row, following] of next.entries()) {
    const isFree = (lane: number) => (busy[lane] ?? -1) <= row;
    /** Whether the newest sign of a lane leads here first. */
    const continues = (lane: number) => {
      const newest = next[lanes.lastIndexOf(lane)]!;
      return newest[0] === row && newest.every((each) => each >= row);
    };
    const before = lanes.filter((_, each) => next[each]!.includes(row)).sort((a, b) => a - b);
    let lane = before.find((each) => isFree(each) || continues(each));
    if (lane === undefined) for (lane = 0; !isFree(lane);) lane++;
    lanes.push(lane);
    busy[lane] = Math.max(row, busy[lane] ?? 0, ...following);
  }
  return lanes;
}
