import { type EffectivePack, type Grade, type Method, type Station } from '../catalogue';
import { walkingLine } from '../round';
import { waysTo } from './conditions';
import { type Deal, revealingMethods } from './deal';
import {
  dealtCheck,
  dealtFault,
  doAct,
  type DrillAct,
  drillStations,
  type DrillState,
  startOfDrill,
} from './run';

/** How a scripted learner works. */
export interface Learner {
  /** The methods used on a part, of those that the check allows. */
  methods: (allowed: readonly Method[]) => readonly Method[];
  /** What is called; `seen` is the grade of what the methods showed, sound where they showed nothing wrong. */
  call: (seen: Grade) => Grade;
}

/** Uses every method, and grades what is seen as the key does. */
export const PERFECT: Learner = { methods: (allowed) => allowed, call: (seen) => seen };
/** Only looks. */
export const LOOK_ONLY: Learner = {
  methods: (allowed) => allowed.filter((each) => each === 'look'),
  call: (seen) => seen,
};
/** Ticks everything off as sound without a check. */
export const TICKER: Learner = { methods: () => [], call: () => 'sound' };
/** Checks everything and always says the same. */
export const always = (grade: Grade): Learner => ({ methods: (allowed) => allowed, call: () => grade });

/**
 * The acts of a scripted learner, for tests and for made-up data: round the ring once and back to the first station,
 * every condition brought about before a check. It sees the deal only through what the methods show.
 */
export function scriptedDrill(pack: EffectivePack, deal: Deal, learner: Learner): DrillAct[] {
  const acts: DrillAct[] = [];
  let state: DrillState = startOfDrill(pack);
  const take = (act: DrillAct) => {
    acts.push(act);
    state = doAct(pack, deal, state, act).state;
  };
  for (const station of drillStations(pack, deal)) {
    take({ kind: 'go', station: station.id });
    for (const { id } of station.parts) {
      const check = dealtCheck(pack, deal, id);
      const fault = dealtFault(pack, deal, id);
      const methods = learner.methods(check.methods);
      if (methods.length > 0)
        for (const condition of waysTo(pack, check, state.machine)) take({ kind: 'bring', condition });
      for (const method of methods) take({ kind: 'try', checkpoint: id, method });
      const shown = fault && revealingMethods(check, fault).some((each) => methods.includes(each));
      take({ kind: 'call', checkpoint: id, grade: learner.call(shown ? fault.grade : 'sound') });
    }
  }
  const first: Station | undefined = walkingLine(pack.plan).ring[0];
  if (first && drillStations(pack, deal).some((each) => each.id === first.id))
    take({ kind: 'go', station: first.id });
  take({ kind: 'end' });
  return acts;
}
