import type { EffectivePack } from '../catalogue';
import { honestSeconds } from '../round';
import { conditionGroups, conditionsHolding } from './conditions';
import type { Deal } from './deal';
import { drillStations, type DrillState } from './run';

/** A drill as its learner sees it: parts by name, what holds, and what was shown so far. It tells no fault. */
export function drillPicture(pack: EffectivePack, deal: Deal, state: DrillState) {
  return {
    classId: pack.id,
    classTitle: pack.title,
    variant: pack.fitOut['variant']!,
    form: deal.form,
    plan: pack.plan,
    stations: drillStations(pack, deal).map(({ parts, ...station }) => ({
      ...station,
      parts: parts.map((each) => ({
        id: each.id,
        part: each.part,
        methods: each.methods,
        seconds: honestSeconds(each),
      })),
    })),
    conditions: conditionGroups(pack),
    progress: drillProgress(state),
  };
}

/** How far a drill has come, as plain values. */
export function drillProgress(state: DrillState) {
  return {
    station: state.station,
    holding: conditionsHolding(state.machine),
    arrivals: state.arrivals.map((each) => each.station),
    readings: state.readings,
    calls: [...state.calls].map(([checkpoint, { grade }]) => ({ checkpoint, grade })),
    seconds: state.seconds,
    waited: state.waited,
    ended: state.ended,
  };
}
