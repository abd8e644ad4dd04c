import { longDate } from '../calendar';
import type { EffectivePack } from './compose';

/** Why a fault is graded higher than its class has it, in a sentence; null where it is not. */
export function raisedWords(
  pack: Pick<EffectivePack, 'policy'>,
  fault: EffectivePack['faults'][number],
): string | null {
  if (!fault.raised) return null;
  const line = pack.policy?.find((each) => each.id === fault.raised!.by);
  return line
    ? `Raised from ${fault.raised.from} by site policy since ${longDate(line.from)}, ${line.by}: ${line.why}`
    : `Raised from ${fault.raised.from} by site policy`;
}
