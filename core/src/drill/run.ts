import { z } from 'zod';
import {
  type Checkpoint,
  conditionIn,
  type EffectivePack,
  type Fault,
  GRADES,
  type Grade,
  METHODS,
  type Method,
  shownEvidence,
} from '../catalogue';
import type { Evidence } from '../drawing/evidence';
import { honestSeconds, stationDistance, WALKING_SPEED, walkingLine, walkingOrder } from '../round';
import {
  bringAbout,
  conditionGroups,
  leavePlace,
  machineAtStart,
  type MachineState,
  unmetConditions,
} from './conditions';
import type { Deal } from './deal';

const id = z.string().min(1).max(64);

/** What a learner does in a drill. */
export const drillActSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('go'), station: id }),
  z.strictObject({ kind: z.literal('bring'), condition: id }),
  z.strictObject({ kind: z.literal('try'), checkpoint: id, method: z.enum(METHODS) }),
  z.strictObject({ kind: z.literal('call'), checkpoint: id, grade: z.enum(GRADES) }),
  z.strictObject({ kind: z.literal('end') }),
]);
export type DrillAct = z.infer<typeof drillActSchema>;

/** More acts than anybody needs for the parts of a drill. */
export const MOST_ACTS = 1000;

/** A method used on a part: whether the reading counts, and what the part showed. */
export interface Reading {
  checkpoint: string;
  method: Method;
  counts: boolean;
  /** Why it does not count, in words. */
  unmet: string[];
  /** What the method shows; null where the reading does not count. */
  shows: string | null;
  /** The same drawn, where a drawing can carry it. */
  drawing: Evidence | null;
  /** Drill seconds at which it was made. */
  at: number;
}

/** A drill as far as it has gone. Times are seconds of the drill, in which every check lasts as long as it must. */
export interface DrillState {
  machine: MachineState;
  station: string | null;
  arrivals: { station: string; at: number }[];
  readings: Reading[];
  /** The last word on each part. */
  calls: Map<string, { grade: Grade; at: number }>;
  seconds: number;
  /** Seconds in which a machine cooled or warmed; they are no part of the pace. */
  waited: number;
  ended: boolean;
}

/** What the machine answers to an act. */
export type DrillAnswer =
  | { kind: 'moved' }
  | { kind: 'brought'; seconds: number; refused: string | null }
  | { kind: 'reading'; reading: Reading }
  | { kind: 'called' }
  | { kind: 'ended' };

/** Thrown for an act that the drill does not allow: elsewhere, of another part, by another method, or after the end. */
export class DrillActError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'DrillActError';
  }
}

/** Seconds to climb on, reach under or go to the control (common practice). */
const SPUR_SECONDS = 5;

export function startOfDrill(pack: EffectivePack): DrillState {
  return {
    machine: machineAtStart(pack),
    station: null,
    arrivals: [],
    readings: [],
    calls: new Map(),
    seconds: 0,
    waited: 0,
    ended: false,
  };
}

/** The check of a dealt part. */
export function dealtCheck(pack: EffectivePack, deal: Deal, checkpoint: string): Checkpoint {
  const dealt = deal.cases.some((each) => each.checkpoint === checkpoint);
  const check = dealt && pack.checkpoints.find((each) => each.id === checkpoint);
  if (!check) throw new DrillActError('That part is not in this drill.');
  return check;
}

/** The fault of a dealt part; null where it is sound. */
export function dealtFault(pack: EffectivePack, deal: Deal, checkpoint: string): Fault | null {
  const fault = deal.cases.find((each) => each.checkpoint === checkpoint)?.fault;
  return fault ? (pack.faults.find((each) => each.id === fault) ?? null) : null;
}

/** What a method shows of a part with a fault, or of the sound part: exactly what that sense can tell. */
export function shownBy(check: Checkpoint, fault: Fault | null, method: Method): string {
  const cues = fault?.cues.filter((each) => each.method === method).map((each) => each.shows) ?? [];
  return cues.length > 0 ? cues.join(' ') : (check.appears[method] ?? 'Nothing out of the way.');
}

function secondsTo(pack: EffectivePack, from: string | null, to: string): number {
  if (from === null || from === to) return 0;
  const metres = stationDistance(walkingLine(pack.plan), from, to);
  return metres === null ? SPUR_SECONDS : metres / WALKING_SPEED;
}

/** A station of a drill with its dealt parts. */
export interface DrillStation {
  id: string;
  name: string;
  /** Its place in the walk: 3, or 3a for what hangs from the third. */
  order: string;
  onLine: boolean;
  parts: Checkpoint[];
}

/** Stations of a deal, worked out once for it; neither a pack nor a deal is ever changed in place. */
const stationsOf = new WeakMap<Deal, { pack: EffectivePack; stations: DrillStation[] }>();

/** Stations with a dealt part, or on the walking line, in walking order. */
export function drillStations(pack: EffectivePack, deal: Deal): DrillStation[] {
  let known = stationsOf.get(deal);
  if (known?.pack !== pack) stationsOf.set(deal, (known = { pack, stations: findStations(pack, deal) }));
  return known.stations;
}

function findStations(pack: EffectivePack, deal: Deal): DrillStation[] {
  const dealt = new Set(deal.cases.map((each) => each.checkpoint));
  const order = new Map(walkingOrder(pack).map((each) => [each.station.id, each.order]));
  const line = walkingLine(pack.plan).ring;
  return [
    ...line.flatMap((station) => [
      station,
      ...pack.plan.stations.filter((each) => each.spurFrom === station.id),
    ]),
    ...pack.plan.stations.filter((each) => !each.spurFrom && !line.some((one) => one.id === each.id)),
  ]
    .map((station) => ({
      id: station.id,
      name: station.name,
      order: order.get(station.id) ?? '',
      onLine: line.some((each) => each.id === station.id),
      parts: pack.checkpoints.filter((each) => each.station === station.id && dealt.has(each.id)),
    }))
    .filter((each) => each.parts.length > 0 || (each.onLine && deal.form !== 'station'));
}

/**
 * Does one act: the state after it, and what the machine answers. Pure; throws DrillActError for what cannot be done.
 */
export function doAct(
  pack: EffectivePack,
  deal: Deal,
  state: DrillState,
  act: DrillAct,
): { state: DrillState; answer: DrillAnswer } {
  if (state.ended) throw new DrillActError('This drill has ended.');
  switch (act.kind) {
    case 'go': {
      if (!drillStations(pack, deal).some((each) => each.id === act.station))
        throw new DrillActError('There is no such station in this drill.');
      const seconds = state.seconds + secondsTo(pack, state.station, act.station);
      return {
        state: {
          ...state,
          machine: state.station === act.station ? state.machine : leavePlace(state.machine),
          station: act.station,
          arrivals: [...state.arrivals, { station: act.station, at: seconds }],
          seconds,
        },
        answer: { kind: 'moved' },
      };
    }
    case 'bring': {
      const offered = conditionGroups(pack).some(({ conditions }) =>
        conditions.some((each) => each.id === act.condition),
      );
      if (!offered) throw new DrillActError('There is no such condition in this class.');
      const { state: machine, seconds, refused } = bringAbout(pack, state.machine, act.condition);
      return {
        state: { ...state, machine, waited: state.waited + seconds },
        answer: { kind: 'brought', seconds, refused: refused ?? null },
      };
    }
    case 'try': {
      const check = dealtCheck(pack, deal, act.checkpoint);
      if (state.station !== check.station) throw new DrillActError('Go to the station of the part first.');
      if (!check.methods.includes(act.method)) throw new DrillActError('That part is not checked that way.');
      const unmet = unmetConditions(check, state.machine);
      const counts = unmet.length === 0;
      const seconds = state.seconds + honestSeconds(check);
      const fault = counts ? dealtFault(pack, deal, check.id) : null;
      const reading: Reading = {
        checkpoint: check.id,
        method: act.method,
        counts,
        unmet: unmet.map((each) => conditionIn(pack, each)),
        shows: counts ? shownBy(check, fault, act.method) : null,
        drawing: counts ? shownEvidence(pack, check, fault, act.method) : null,
        at: seconds,
      };
      return {
        state: { ...state, readings: [...state.readings, reading], seconds },
        answer: { kind: 'reading', reading },
      };
    }
    case 'call': {
      const check = dealtCheck(pack, deal, act.checkpoint);
      const calls = new Map(state.calls).set(check.id, { grade: act.grade, at: state.seconds });
      return { state: { ...state, calls }, answer: { kind: 'called' } };
    }
    case 'end':
      return { state: { ...state, ended: true }, answer: { kind: 'ended' } };
  }
}

/** Does every act in order. Throws DrillActError at the first that cannot be done. */
export function doActs(pack: EffectivePack, deal: Deal, acts: readonly DrillAct[]): DrillState {
  return acts.reduce((state, act) => doAct(pack, deal, state, act).state, startOfDrill(pack));
}
