import {
  type Checkpoint,
  type EffectivePack,
  type Fault,
  type Grade,
  type Method,
  severity,
} from '../catalogue';
import {
  type DetectionCounts,
  type Interval,
  type Sensitivity,
  sensitivityLogLinear,
  wilsonInterval,
} from '../statistics';
import { handsOn, type HandsOn } from './handsOn';
import { stationDistance, walkingLine, type WalkingLine } from './walkingLine';

/**
 * One check as observed: done of the operator's own accord, done after a prompt, or missed. `at` =
 * milliseconds since the round began.
 */
export interface ObservedCheck {
  checkpoint: string;
  result: 'done' | 'prompted' | 'missed';
  method?: Method | undefined;
  at: number;
  /** Nothing was tapped for it: the round was recorded by exception. */
  presumed?: boolean;
}

/**
 * Something the operator called out. `fault` null when it is none of the pack's; `real` when it is truly
 * there though nobody planted it.
 */
export interface Report {
  checkpoint: string;
  fault: string | null;
  grade: Grade;
  prompted: boolean;
  real: boolean;
  at: number;
}

/** What happened on one walk about the machine, in the order of time. */
export interface RoundRecord {
  arrivals: readonly { station: string; at: number }[];
  checks: readonly ObservedCheck[];
  reports: readonly Report[];
  /** Stations at which the trainer said that all was done; recording by exception only. */
  stationsDone?: readonly { station: string; at: number }[];
  /** Milliseconds from start to end, null while the round is open. */
  duration: number | null;
}

export interface Share {
  /** Weighted credit, 0 to 1; null when there is nothing to cover. */
  share: number | null;
  done: number;
  prompted: number;
  missed: number;
  total: number;
}

export interface PlantedResult {
  fault: Fault;
  found: 'found' | 'prompted' | 'missed';
  grade: Grade | null;
  key: Grade;
  /** A planted stop that was missed, or called sound or watch. */
  criticalMiss: boolean;
}

export interface RoundAnalysis {
  coverage: Share & {
    bySystem: Record<string, Share>;
    byStation: Record<string, Share>;
    omitted: Checkpoint[];
    criticalOmissions: Checkpoint[];
    promptedCheckpoints: Checkpoint[];
  };
  path: {
    /** Ring stations in the order reached, without immediate repeats. */
    sequence: string[];
    direction: 'clockwise' | 'anticlockwise' | null;
    /** Runs of ring stations never reached, in clockwise order. */
    gaps: string[][];
    closed: boolean;
    /** Share of the metres walked against the main direction. */
    backtracking: number;
    metres: number;
    shortestTour: number;
  };
  start: {
    station: string | null;
    /** Share of earlier rounds with this start; null on the first round. */ share: number | null;
    earlier: number;
  };
  pace: {
    seconds: number | null;
    floorSeconds: number;
    plausible: boolean | null;
    /** Checks tapped sooner than they can be made, worst first. */
    hurried: { checkpoint: string; seconds: number; honestSeconds: number }[];
    /** Recorded by exception: stations left sooner than their checks can be made, worst first. */
    hurriedStations: { station: string; seconds: number; honestSeconds: number }[];
  };
  handsOn: HandsOn;
  detection: DetectionCounts & {
    hitRate: number | null;
    interval: Interval | null;
    sensitivity: Sensitivity | null;
    falseAlarmReports: Report[];
    planted: PlantedResult[];
  };
}

/** Walking speed of an unhurried adult, m/s (common practice). */
export const WALKING_SPEED = 1.2;
/** A checkpoint of at least this weight left out is a critical omission. */
const CRITICAL_WEIGHT = 5;

/** Least honest time of a check, with its repetitions. */
export function honestSeconds(checkpoint: Checkpoint): number {
  return (
    checkpoint.honestSeconds *
    (checkpoint.each && typeof checkpoint.each.count === 'number' ? checkpoint.each.count : 1)
  );
}

/**
 * Analyses a round: coverage, path round the outline, start, pace and detection, each with its evidence.
 * `planted` are the ids of the faults planted for it (lookalikes included), `earlierStarts` the first
 * stations of the operator's earlier rounds in the class.
 */
export function analyseRound(
  pack: EffectivePack,
  round: RoundRecord,
  planted: readonly string[],
  earlierStarts: readonly string[],
  promptCredit = pack.sheet.promptCredit,
  line: WalkingLine = walkingLine(pack.plan),
): RoundAnalysis {
  return {
    coverage: coverage(pack, round.checks, promptCredit),
    path: path(pack, round, line),
    start: start(round, line, earlierStarts),
    pace: pace(pack, round, line),
    handsOn: handsOn(pack, round.checks),
    detection: detection(pack, round, planted),
  };
}

/** The last word on each checkpoint: a later tap replaces an earlier one. */
function latestChecks(checks: readonly ObservedCheck[]): Map<string, ObservedCheck> {
  return new Map(checks.map((each) => [each.checkpoint, each]));
}

/** Weighted coverage of some checkpoints. */
export function coverageShare(
  checkpoints: readonly Checkpoint[],
  checks: readonly ObservedCheck[],
  promptCredit: number,
): Share {
  const latest = latestChecks(checks);
  const result: Share = { share: null, done: 0, prompted: 0, missed: 0, total: checkpoints.length };
  let credit = 0;
  let weight = 0;
  for (const each of checkpoints) {
    const outcome = latest.get(each.id)?.result ?? 'missed';
    result[outcome] += 1;
    weight += each.weight;
    credit += each.weight * (outcome === 'done' ? 1 : outcome === 'prompted' ? promptCredit : 0);
  }
  if (weight > 0) result.share = credit / weight;
  return result;
}

function coverage(
  pack: EffectivePack,
  checks: readonly ObservedCheck[],
  promptCredit: number,
): RoundAnalysis['coverage'] {
  const latest = latestChecks(checks);
  const group = (key: (each: Checkpoint) => string) => {
    const groups: Record<string, Checkpoint[]> = {};
    for (const each of pack.checkpoints) (groups[key(each)] ??= []).push(each);
    return Object.fromEntries(
      Object.entries(groups).map(([name, list]) => [name, coverageShare(list, checks, promptCredit)]),
    );
  };
  const omitted = pack.checkpoints.filter((each) => (latest.get(each.id)?.result ?? 'missed') === 'missed');
  return {
    ...coverageShare(pack.checkpoints, checks, promptCredit),
    bySystem: group((each) => each.system),
    byStation: group((each) => each.station),
    omitted,
    criticalOmissions: omitted.filter((each) => each.weight >= CRITICAL_WEIGHT),
    promptedCheckpoints: pack.checkpoints.filter((each) => latest.get(each.id)?.result === 'prompted'),
  };
}

function path(pack: EffectivePack, round: RoundRecord, line: WalkingLine): RoundAnalysis['path'] {
  const occupied = new Set(pack.checkpoints.flatMap((each) => [each.station, ...(each.alsoAt ?? [])]));
  const ring = line.ring.filter((each) => occupied.has(each.id)).map((each) => each.id);
  const sequence: string[] = [];
  for (const { station } of round.arrivals)
    if (ring.includes(station) && sequence.at(-1) !== station) sequence.push(station);

  let clockwise = 0;
  let anticlockwise = 0;
  for (let i = 1; i < sequence.length; i++) {
    const metres = stationDistance(line, sequence[i - 1]!, sequence[i]!) ?? 0;
    const forward = (ring.indexOf(sequence[i]!) - ring.indexOf(sequence[i - 1]!) + ring.length) % ring.length;
    if (forward <= ring.length / 2) clockwise += metres;
    else anticlockwise += metres;
  }
  const metres = clockwise + anticlockwise;
  const tour = ring.reduce(
    (sum, id, i) => sum + (stationDistance(line, id, ring[(i + 1) % ring.length]!) ?? 0),
    0,
  );

  const reached = new Set(sequence);
  const gaps: string[][] = [];
  if (reached.size > 0) {
    const offset = ring.findIndex((id) => reached.has(id));
    const turned = [...ring.slice(offset), ...ring.slice(0, offset)];
    let run: string[] = [];
    for (const id of turned) {
      if (reached.has(id)) {
        if (run.length > 0) gaps.push(run);
        run = [];
      } else run.push(id);
    }
    if (run.length > 0) gaps.push(run);
  } else if (ring.length > 0) gaps.push(ring);

  const first = sequence[0];
  const last = sequence.at(-1);
  const apart = first && last ? Math.abs(ring.indexOf(first) - ring.indexOf(last)) : null;
  return {
    sequence,
    direction: metres === 0 ? null : clockwise >= anticlockwise ? 'clockwise' : 'anticlockwise',
    gaps,
    closed: gaps.length === 0 && apart !== null && (apart <= 1 || apart === ring.length - 1),
    backtracking: metres === 0 ? 0 : Math.min(clockwise, anticlockwise) / metres,
    metres,
    shortestTour: tour,
  };
}

function start(
  round: RoundRecord,
  line: WalkingLine,
  earlierStarts: readonly string[],
): RoundAnalysis['start'] {
  const ring = new Set(line.ring.map((each) => each.id));
  const station = round.arrivals.find((each) => ring.has(each.station))?.station ?? null;
  return {
    station,
    share:
      station === null || earlierStarts.length === 0
        ? null
        : earlierStarts.filter((each) => each === station).length / earlierStarts.length,
    earlier: earlierStarts.length,
  };
}

function pace(pack: EffectivePack, round: RoundRecord, line: WalkingLine): RoundAnalysis['pace'] {
  const byId = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const claimed = [...latestChecks(round.checks).values()].filter(
    (each) => each.result !== 'missed' && byId.has(each.checkpoint),
  );
  let walked = 0;
  for (let i = 1; i < round.arrivals.length; i++)
    walked += stationDistance(line, round.arrivals[i - 1]!.station, round.arrivals[i]!.station) ?? 0;
  const floorSeconds =
    claimed.reduce((sum, each) => sum + honestSeconds(byId.get(each.checkpoint)!), 0) +
    walked / WALKING_SPEED;

  const moments = [...round.arrivals.map((each) => each.at), ...round.checks.map((each) => each.at)].sort(
    (a, b) => a - b,
  );
  const byException = claimed.some((each) => each.presumed);
  const hurried = (byException ? [] : claimed)
    .map((each) => {
      const before = moments.findLast((at) => at < each.at) ?? 0;
      return {
        checkpoint: each.checkpoint,
        seconds: (each.at - before) / 1000,
        honestSeconds: honestSeconds(byId.get(each.checkpoint)!),
      };
    })
    .filter((each) => each.seconds < each.honestSeconds)
    .sort((a, b) => a.seconds / a.honestSeconds - b.seconds / b.honestSeconds);
  const seconds = round.duration === null ? null : round.duration / 1000;
  return {
    seconds,
    floorSeconds,
    plausible: seconds === null || claimed.length === 0 ? null : seconds >= floorSeconds,
    hurried,
    hurriedStations: byException ? hurriedStations(byId, round, claimed) : [],
  };
}

/**
 * Stations that were left sooner than the checks claimed there can be made. A check of several stations
 * counts for the round as a whole and for none of them.
 */
function hurriedStations(
  byId: ReadonlyMap<string, Checkpoint>,
  round: RoundRecord,
  claimed: readonly ObservedCheck[],
): RoundAnalysis['pace']['hurriedStations'] {
  const honest = new Map<string, number>();
  for (const { checkpoint } of claimed) {
    const check = byId.get(checkpoint)!;
    if (!check.alsoAt?.length)
      honest.set(check.station, (honest.get(check.station) ?? 0) + honestSeconds(check));
  }
  const spent = new Map<string, number>();
  round.arrivals.forEach(({ station, at }, i) => {
    const until = round.arrivals[i + 1]?.at ?? round.duration ?? at;
    spent.set(station, (spent.get(station) ?? 0) + (until - at) / 1000);
  });
  return [...honest]
    .map(([station, floor]) => ({ station, seconds: spent.get(station) ?? 0, honestSeconds: floor }))
    .filter((each) => spent.has(each.station) && each.seconds < each.honestSeconds)
    .sort((a, b) => a.seconds / a.honestSeconds - b.seconds / b.honestSeconds);
}

/**
 * Which reports speak of which planted fault. A report that names a fault counts for that one alone; a report
 * of "something else" at a check counts for one fault planted there that nobody named, the unprompted reports
 * first and the gravest fault first.
 */
function reportsByFault(targets: readonly Fault[], reports: readonly Report[]): Map<string, Report[]> {
  const byFault = new Map(
    targets.map((fault) => [fault.id, reports.filter((each) => each.fault === fault.id)]),
  );
  const open = targets
    .filter((fault) => byFault.get(fault.id)!.length === 0)
    .sort((a, b) => severity(b.grade) - severity(a.grade));
  const unnamed = reports
    .filter((each) => each.fault === null && !each.real)
    .sort((a, b) => Number(a.prompted) - Number(b.prompted));
  for (const report of unnamed) {
    const at = open.findIndex((fault) => fault.checkpoint === report.checkpoint);
    if (at >= 0) byFault.set(open.splice(at, 1)[0]!.id, [report]);
  }
  return byFault;
}

function detection(
  pack: EffectivePack,
  round: RoundRecord,
  plantedIds: readonly string[],
): RoundAnalysis['detection'] {
  const faults = plantedIds.flatMap((id) => pack.faults.find((each) => each.id === id) ?? []);
  const targets = faults.filter((each) => each.grade !== 'sound');
  const reportsOf = reportsByFault(targets, round.reports);
  const matched = new Set<Report>([...reportsOf.values()].flat());
  const planted = targets.map((fault): PlantedResult => {
    const reports = reportsOf.get(fault.id) ?? [];
    const report = reports.findLast((each) => !each.prompted) ?? reports.at(-1);
    const found = !report ? 'missed' : report.prompted ? 'prompted' : 'found';
    const grade = report?.grade ?? null;
    return {
      fault,
      found,
      grade,
      key: fault.grade,
      criticalMiss:
        fault.grade === 'stop' &&
        (found !== 'found' || (grade !== null && severity(grade) <= severity('watch'))),
    };
  });
  const falseAlarmReports = round.reports.filter(
    (each) => !matched.has(each) && !each.real && !each.prompted && each.grade !== 'sound',
  );
  const signalAt = new Set(targets.map((each) => each.checkpoint));
  const alarmedAt = new Set(falseAlarmReports.map((each) => each.checkpoint));
  const looked = [...latestChecks(round.checks).values()]
    .filter((each) => each.result !== 'missed' && !signalAt.has(each.checkpoint))
    .map((each) => each.checkpoint);
  const noise = new Set([...looked, ...[...alarmedAt].filter((id) => !signalAt.has(id))]);
  const hits = planted.filter((each) => each.found === 'found').length;
  const falseAlarms = [...alarmedAt].filter((id) => noise.has(id)).length;
  const counts = {
    hits,
    misses: planted.length - hits,
    falseAlarms,
    correctRejections: noise.size - falseAlarms,
  };
  const enough = planted.length > 0 && noise.size > 0;
  return {
    ...counts,
    hitRate: planted.length === 0 ? null : hits / planted.length,
    interval: planted.length === 0 ? null : wilsonInterval(hits, planted.length),
    sensitivity: enough ? sensitivityLogLinear(counts) : null,
    falseAlarmReports,
    planted,
  };
}
