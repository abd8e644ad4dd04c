import { type OrderStep, Precedence } from './order';

/** What brute force finds, for tests. */
interface ByHand {
  /** Weight of due steps left out. */
  skipped: number;
  /** Weight of events explained as steps that need not be done. */
  free: number;
}

/**
 * The least-cost explanation by brute force: every pick of a member for each group, every order of the steps that
 * the result allows, with every set of optional steps, matched as the longest common subsequence.
 */
export function byHand(steps: readonly OrderStep[], tokens: readonly string[]): ByHand {
  const index = new Map(steps.map((each, i) => [each.id, i]));
  const clauses = steps.flatMap((step, owner) =>
    step.after.map((each) => ({
      owner,
      members: (typeof each === 'string' ? [each] : each.anyOf).flatMap((id) => index.get(id) ?? []),
    })),
  );
  let best: ByHand = { skipped: Infinity, free: 0 };
  const pick = (at: number, order: Precedence, picked: { owner: number; member: number }[]): void => {
    if (at < clauses.length) {
      const { owner, members } = clauses[at]!;
      if (members.length === 0) return pick(at + 1, order, picked);
      for (const member of members) {
        const next = order.copy();
        if (next.add(member, owner))
          pick(at + 1, next, members.length > 1 ? [...picked, { owner, member }] : picked);
      }
      return;
    }
    const due = steps.map((each) => !each.optional);
    for (let again = true; again;) {
      again = false;
      for (const { owner, member } of picked) if (due[owner] && !due[member]) due[member] = again = true;
    }
    // Sets of (step, event) pairs that an allowed order holds, by trying each step for each event in turn.
    const walk = (e: number, done: number[], gained: number, free: number): void => {
      if (e === tokens.length) {
        const total = steps.reduce((sum, { weight }, s) => sum + (due[s] ? weight : 0), 0);
        const skipped = total - gained;
        if (skipped < best.skipped || (skipped === best.skipped && free > best.free))
          best = { skipped, free };
        return;
      }
      walk(e + 1, done, gained, free);
      steps.forEach((step, s) => {
        if (step.token !== tokens[e] || done.includes(s) || done.some((each) => order.has(s, each))) return;
        const { weight } = step;
        walk(e + 1, [...done, s], gained + (due[s] ? weight : 0), free + (step.optional ? weight : 0));
      });
    };
    walk(0, [], 0, 0);
  };
  pick(0, new Precedence(steps.length), []);
  return best;
}
