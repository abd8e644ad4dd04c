/** The middle of the sorted list (the upper one of two); throws nothing, undefined for an empty list. */
export const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** How long each of n runs took, in milliseconds. */
export async function times(n: number, what: () => unknown): Promise<number[]> {
  const list: number[] = [];
  for (let i = 0; i < n; i++) {
    const begun = performance.now();
    await what();
    list.push(performance.now() - begun);
  }
  return list;
}
