import type { Checkpoint, EffectivePack } from '../catalogue';
import { namedMethod, needsLiveMachine, type ObservedCheck, type RoundRecord } from '../round';
import type { EvaluationRecord } from './record';

/**
 * The round as it is judged: what was tapped, a check for each fault that was called out (who found it has
 * looked), and, recorded by exception, the checks that were presumed. Content of the earlier format is judged
 * by its taps alone.
 */
export function observedRound(pack: EffectivePack, record: EvaluationRecord): RoundRecord {
  if (pack.format === 1) return record.round;
  const tapped = new Set(record.round.checks.map((each) => each.checkpoint));
  const called = checksOfReports(pack, record).filter((each) => !tapped.has(each.checkpoint));
  for (const each of called) tapped.add(each.checkpoint);
  const presumed = presumedChecks(pack, record, tapped);
  return { ...record.round, checks: [...record.round.checks, ...called, ...presumed] };
}

/** A check for each check at which a fault was called out, made in the way that shows that fault. */
function checksOfReports(pack: EffectivePack, { round }: EvaluationRecord): ObservedCheck[] {
  const byCheck = new Map<string, ObservedCheck>();
  for (const report of round.reports) {
    const checkpoint = pack.checkpoints.find((each) => each.id === report.checkpoint);
    if (!checkpoint || byCheck.get(report.checkpoint)?.result === 'done') continue;
    const cues = pack.faults.find((each) => each.id === report.fault)?.cues ?? [];
    byCheck.set(report.checkpoint, {
      checkpoint: report.checkpoint,
      result: report.prompted ? 'prompted' : 'done',
      method: cues.find((cue) => checkpoint.methods.includes(cue.method))?.method,
      at: report.at,
    });
  }
  return [...byCheck.values()];
}

/** When each station was left, first time and again, and when it was said that all was done there. */
function departures({ round, endedAt }: EvaluationRecord) {
  const left = new Map<string, number[]>();
  const closed = new Map<string, number>();
  const leave = (station: string, at: number) => left.set(station, [...(left.get(station) ?? []), at]);
  round.arrivals.forEach(({ station }, i) => {
    const next = round.arrivals[i + 1];
    if (next && next.station !== station) leave(station, next.at);
    else if (!next && endedAt !== null && round.duration !== null) leave(station, round.duration);
  });
  for (const { station, at } of round.stationsDone) closed.set(station, closed.get(station) ?? at);
  return { left, closed };
}

/**
 * The checks of a round recorded by exception that nothing was tapped for: made by the method the sheet
 * names once the operator has left every station of the check. A check that needs the machine alive is made
 * when the trainer says that all was done at its station, or when that is left a second time.
 */
function presumedChecks(
  pack: EffectivePack,
  record: EvaluationRecord,
  tapped: ReadonlySet<string>,
): ObservedCheck[] {
  if (record.recording !== 'by-exception') return [];
  const { left, closed } = departures(record);
  const doneAt = (checkpoint: Checkpoint, station: string): number | null => {
    const times = left.get(station) ?? [];
    const again = station === checkpoint.station && needsLiveMachine(checkpoint);
    const gone = again ? times[1] : times[0];
    const said = closed.get(station);
    if (gone === undefined && said === undefined) return null;
    return Math.min(gone ?? Infinity, said ?? Infinity);
  };
  return pack.checkpoints.flatMap((checkpoint): ObservedCheck[] => {
    if (tapped.has(checkpoint.id)) return [];
    const stations = [checkpoint.station, ...(checkpoint.alsoAt ?? [])];
    const times = stations.map((station) => doneAt(checkpoint, station));
    if (times.some((each) => each === null)) return [];
    return [
      {
        checkpoint: checkpoint.id,
        result: 'done',
        method: namedMethod(pack, checkpoint),
        at: Math.max(...(times as number[])),
        presumed: true,
      },
    ];
  });
}
