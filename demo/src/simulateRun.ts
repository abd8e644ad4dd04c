import type { EffectivePack } from '@rounds/core/catalogue';
import { bodiesOfTrace, type EvaluationEvent, type SequencePart } from '@rounds/core/evaluation';
import { allowedOrder, keptTimes, rulesOf, session, type Trace } from '@rounds/core/procedure';

/** Who starts or stops a machine: how sure they are, 0 to 1, and what chance decides the rest. */
export interface Starter {
  sure: number;
  random: () => number;
}

/** A start or stop as somebody does it: mostly in order, less so the less sure they are. */
export function simulateRun(
  pack: EffectivePack,
  procedures: readonly string[],
  { sure, random }: Starter,
): Trace {
  const own = session(pack, procedures);
  const slip = (chance: number) => random() < chance * (1 - sure);
  const sequence = allowedOrder(own, random).filter((each) => !slip(each.critical ? 0.1 : 0.35));
  if (slip(0.9) && sequence.length > 3) {
    const from = Math.floor(random() * (sequence.length - 2));
    const [moved] = sequence.splice(from, 1);
    sequence.splice(from + 2, 0, moved!);
  }
  const waits = sequence.filter((each) => each.timing?.means === 'dwell');
  const hurry = waits.length > 0 && slip(1.1) ? waits[Math.floor(random() * waits.length)]! : null;
  const kept = keptTimes(own, sequence, { gap: 3 + 5 * random(), hurry });
  const rules = rulesOf(pack, procedures);
  const events = kept.events.map((each) => ({
    ...each,
    ...(slip(0.35) ? { mark: 'prompted' as const } : {}),
    ...(slip(0.08) ? { mark: 'wrong' as const } : {}),
  }));
  const broken =
    rules.length > 0 && slip(0.3)
      ? [{ rule: rules[Math.floor(random() * rules.length)]!.id, at: kept.events.at(-1)?.at ?? 0 }]
      : [];
  return { ...kept, events, broken };
}

/** A run as the events of an evaluation, from the moment it began. Answers them with when it was over. */
export function runEvents(
  trace: Trace,
  procedures: readonly string[],
  part: SequencePart | null,
  startedAt: number,
  newId: (at: string) => string,
): { events: EvaluationEvent[]; over: number } {
  const bodies = bodiesOfTrace(trace, procedures, part, () => newId(new Date(startedAt).toISOString()));
  return {
    events: bodies.map(({ id, at, body }) => ({
      id,
      at: new Date(startedAt + Math.round(at * 1000)).toISOString(),
      body,
    })),
    over: startedAt + Math.round((bodies.at(-1)?.at ?? 0) * 1000),
  };
}
