/**
 * Shares a number among groups as evenly as their room allows. Whom the remainder goes to is left to `random`, or some
 * group would always have one more. Answers less than `total` in all where there is no more room.
 *
 * @example levelShares(new Map([['a', 9], ['b', 1]]), 4, () => 0).get('a') // 3
 */
export function levelShares<K>(
  room: ReadonlyMap<K, number>,
  total: number,
  random: () => number,
): Map<K, number> {
  const turn = [...room.keys()].map((key) => ({ key, at: random() })).sort((a, b) => a.at - b.at);
  const shares = new Map<K, number>([...room.keys()].map((key) => [key, 0]));
  for (let left = total; left > 0; left--) {
    const open = turn.filter(({ key }) => shares.get(key)! < room.get(key)!);
    if (open.length === 0) break;
    const least = open.reduce((a, b) => (shares.get(b.key)! < shares.get(a.key)! ? b : a)).key;
    shares.set(least, shares.get(least)! + 1);
  }
  return shares;
}

/**
 * One of the candidates, the heavier the likelier. Throws RangeError where there is none.
 *
 * @example drawWeighted([{ weight: 1 }, { weight: 3 }], () => 0.5).weight // 3
 */
export function drawWeighted<T extends { weight: number }>(
  candidates: readonly T[],
  random: () => number,
): T {
  if (candidates.length === 0) throw new RangeError('there is nothing to draw from');
  let left = random() * candidates.reduce((sum, each) => sum + each.weight, 0);
  return candidates.find((each) => (left -= each.weight) < 0) ?? candidates.at(-1)!;
}
