import { type Checkpoint, type EffectivePack, type Fault, LIVE_CONDITIONS, type Method } from '../catalogue';
import type { ObservedCheck } from './analyse';

/** Share of the checks made by a method that can find one of their faults. */
export interface HandsOn {
  /** Weighted, 0 to 1; null where no check was made that has a fault to find. */
  share: number | null;
  /** Checks made that have a fault to find. */
  made: number;
  /** Of those, the ones made by a method that could have found one. */
  able: number;
  /** Checks made by a method that finds none of their faults, heaviest first. */
  blind: { checkpoint: Checkpoint; method: Method }[];
}

function faultsByCheck(faults: readonly Fault[]): Map<string, Fault[]> {
  const found = new Map<string, Fault[]>();
  for (const fault of faults)
    if (fault.grade !== 'sound') found.set(fault.checkpoint, [...(found.get(fault.checkpoint) ?? []), fault]);
  return found;
}

/** The methods a check allows that can reveal at least one of these faults; all it allows where it has none. */
function ableMethods(checkpoint: Checkpoint, faults: readonly Fault[]): Method[] {
  const shown = new Set(faults.flatMap((fault) => fault.cues.map((cue) => cue.method)));
  return faults.length === 0 ? checkpoint.methods : checkpoint.methods.filter((each) => shown.has(each));
}

/** The methods of a check that can find one of its faults; all that it allows where it has none. */
export function ableMethodsOf(pack: Pick<EffectivePack, 'faults'>, checkpoint: Checkpoint): Method[] {
  return ableMethods(
    checkpoint,
    pack.faults.filter((each) => each.checkpoint === checkpoint.id && each.grade !== 'sound'),
  );
}

/**
 * The method a check is taken to be made by when nothing else was tapped: the first it names that can find
 * one of its faults.
 */
export function namedMethod(pack: Pick<EffectivePack, 'faults'>, checkpoint: Checkpoint): Method {
  return ableMethodsOf(pack, checkpoint)[0] ?? checkpoint.methods[0]!;
}

/** Whether a check can be made only with the machine alive, so that walking past does not make it. */
export function needsLiveMachine(checkpoint: Checkpoint): boolean {
  return checkpoint.when.some((each) => LIVE_CONDITIONS.includes(each));
}

/**
 * The share of the checks made, by weight, whose method could reveal at least one of the check's faults: a
 * look where touch is needed earns nothing. A check made in a way that was not tapped counts as made by the
 * method it names. Checks without a fault in this fit-out are left out.
 */
export function handsOn(pack: EffectivePack, checks: readonly ObservedCheck[]): HandsOn {
  const faults = faultsByCheck(pack.faults);
  const byId = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const latest = new Map(checks.map((each) => [each.checkpoint, each]));
  const result: HandsOn = { share: null, made: 0, able: 0, blind: [] };
  let weight = 0;
  let earned = 0;
  for (const { checkpoint: id, result: how, method } of latest.values()) {
    const checkpoint = byId.get(id);
    const own = faults.get(id);
    if (!checkpoint || !own || how === 'missed') continue;
    const able = method === undefined || ableMethods(checkpoint, own).includes(method);
    result.made += 1;
    weight += checkpoint.weight;
    if (able) {
      result.able += 1;
      earned += checkpoint.weight;
    } else result.blind.push({ checkpoint, method });
  }
  if (weight > 0) result.share = earned / weight;
  result.blind.sort((a, b) => b.checkpoint.weight - a.checkpoint.weight);
  return result;
}
