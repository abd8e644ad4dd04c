import type { EffectivePack, Fault } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';

/** The part and station where a fault is planted: "Hoist rope (Hook block)". */
export function placeOf(pack: EffectivePack, fault: Fault): string {
  const checkpoint = pack.checkpoints.find((each) => each.id === fault.checkpoint);
  const station = pack.plan.stations.find((each) => each.id === checkpoint?.station);
  return `${checkpoint?.part ?? fault.checkpoint} (${station?.name ?? ''})`;
}

/** A fault as it is offered in a list. */
export function faultChoice(pack: EffectivePack, fault: Fault) {
  return {
    value: fault.id,
    label: `${GRADE_WORDS[fault.grade]}: ${fault.title}`,
    more: placeOf(pack, fault),
    grade: fault.grade,
  };
}
