import type { EffectivePack } from '../catalogue/compose';
import type { Checkpoint } from '../catalogue/schema';
import { type RoundAnalysis, type RoundRecord, walkingLine } from '../round';

/** What the ring shows at a station: how many of its checks are looked at, and how many faults were named. */
export interface StationMark {
  done: number;
  total: number;
  faults: number;
  state: 'untouched' | 'begun' | 'complete';
}

/** Checks that belong to a station. */
export function checksAt(pack: EffectivePack, station: string): Checkpoint[] {
  return pack.checkpoints.filter((each) => each.station === station);
}

/** Checks of other stations that can also be looked at from here. */
export function checksAlsoAt(pack: EffectivePack, station: string): Checkpoint[] {
  return pack.checkpoints.filter((each) => each.alsoAt?.includes(station));
}

/** Stations with something to look at, in the order of the plan. */
export function stationsInUse(pack: EffectivePack): string[] {
  return pack.plan.stations
    .map((each) => each.id)
    .filter((id) => checksAt(pack, id).length + checksAlsoAt(pack, id).length > 0);
}

function stateOf(done: number, total: number, reached: boolean): StationMark['state'] {
  if (total === 0) return reached ? 'complete' : 'untouched';
  if (done === total) return 'complete';
  return done > 0 ? 'begun' : 'untouched';
}

/**
 * The mark of every station in use. A station with nothing of its own is complete once it was reached; one
 * with checks when the last of them was looked at, however it went.
 */
export function stationMarks(pack: EffectivePack, round: RoundRecord): Record<string, StationMark> {
  const looked = new Set(round.checks.map((each) => each.checkpoint));
  const reached = new Set(round.arrivals.map((each) => each.station));
  const marks = stationsInUse(pack).map((id) => {
    const checks = new Set(checksAt(pack, id).map((each) => each.id));
    const done = [...checks].filter((each) => looked.has(each)).length;
    const faults = round.reports.filter((each) => checks.has(each.checkpoint)).length;
    return [id, { done, total: checks.size, faults, state: stateOf(done, checks.size, reached.has(id)) }];
  });
  return Object.fromEntries(marks) as Record<string, StationMark>;
}

/**
 * The station that comes next: along the ring in the direction walked, then what lies off it, passing over
 * stations that are complete. Null when none is left; the first of the plan before anything was walked.
 */
export function nextStation(pack: EffectivePack, round: RoundRecord, current: string | null): string | null {
  const marks = stationMarks(pack, round);
  const open = (id: string) => id !== current && marks[id] !== undefined && marks[id].state !== 'complete';
  const ring = walkingLine(pack.plan)
    .ring.map((each) => each.id)
    .filter((id) => marks[id] !== undefined);
  const walked = round.arrivals.map((each) => each.station).filter((id) => ring.includes(id));
  const at = ring.indexOf(walked.at(-1) ?? '');
  const before = ring.indexOf(walked.at(-2) ?? '');
  const forward = (at - before + ring.length) % ring.length;
  const step = before >= 0 && forward > ring.length / 2 ? -1 : 1;
  const along = ring.map((_, i) => ring[(at + step * (i + 1) + ring.length * 2) % ring.length]!);
  const off = stationsInUse(pack).filter((id) => !ring.includes(id));
  return [...along, ...off].find(open) ?? null;
}

/** How a station came out of a round that has ended: a gap was never reached. */
export interface WalkedMark {
  done: number;
  total: number;
  state: StationMark['state'] | 'gap';
}

/** Marks after the round, of every station in use; prompted checks count as looked at, missed ones do not. */
export function walkedMarks(
  pack: EffectivePack,
  { coverage, path }: Pick<RoundAnalysis, 'coverage' | 'path'>,
): Record<string, WalkedMark> {
  const gaps = new Set(path.gaps.flat());
  const marks = stationsInUse(pack).map((id): [string, WalkedMark] => {
    const share = coverage.byStation[id];
    const total = share?.total ?? 0;
    const done = share ? share.done + share.prompted : 0;
    if (gaps.has(id)) return [id, { done, total, state: 'gap' }];
    return [id, { done, total, state: stateOf(done, total, path.sequence.includes(id)) }];
  });
  return Object.fromEntries(marks);
}
