import type { EffectivePack } from '../catalogue/compose';
import type { RoundAnalysis } from './analyse';

const percent = (share: number) => `${Math.round(share * 100)} %`;
const oneDecimal = (share: number) => `${Math.round(share * 1000) / 10} %`;

function coverageWords({ coverage }: RoundAnalysis): string {
  const weighted = coverage.share === null ? '' : ` (${oneDecimal(coverage.share)} weighted)`;
  const { done, prompted, missed, total } = coverage;
  return `Coverage: ${done} done, ${prompted} prompted, ${missed} missed of ${total}${weighted}`;
}

function omissionWords({ coverage }: RoundAnalysis): string {
  const omitted = coverage.criticalOmissions.map((each) => `${each.id} ${each.part}`);
  return `Critical omissions: ${omitted.length === 0 ? 'none' : omitted.join('; ')}`;
}

function pathWords({ path }: RoundAnalysis, nameOf: (station: string) => string): string {
  const open = path.gaps.flat().map(nameOf).join(', ') || 'did not end where it began';
  const ring = path.closed ? 'ring closed' : `ring not closed (${open})`;
  const lengths = `${path.metres.toFixed(0)} m walked, shortest ${path.shortestTour.toFixed(0)} m`;
  return `Path: ${path.direction ?? 'not walked'}, ${ring}, ${lengths}`;
}

function startWords({ start }: RoundAnalysis, nameOf: (station: string) => string): string {
  if (start.station === null) return 'Start: none';
  const before =
    start.share === null
      ? ' (first round on record)'
      : `, the same in ${percent(start.share)} of ${start.earlier} earlier rounds`;
  return `Start: ${nameOf(start.station)}${before}`;
}

function paceWords({ pace }: RoundAnalysis, nameOf: (station: string) => string): string {
  if (pace.seconds === null) return 'Pace: round open';
  const whole = `Pace: ${Math.round(pace.seconds)} s against an honest floor of ${Math.round(pace.floorSeconds)} s`;
  const hurried = pace.hurriedStations.map(
    (each) =>
      `${nameOf(each.station)} (${Math.round(each.seconds)} s of ${Math.round(each.honestSeconds)} s)`,
  );
  return hurried.length === 0 ? whole : `${whole}; left too soon: ${hurried.join(', ')}`;
}

/** Nothing where no check was made that has a fault to find. */
function handsOnWords({ handsOn }: RoundAnalysis): string[] {
  if (handsOn.share === null) return [];
  const blind = handsOn.blind.map((each) => `${each.checkpoint.id} ${each.checkpoint.part} (${each.method})`);
  return [
    `Hands-on: ${handsOn.able} of ${handsOn.made} checks made by a method that can find their faults ` +
      `(${oneDecimal(handsOn.share)} weighted)${blind.length === 0 ? '' : `; not: ${blind.join('; ')}`}`,
  ];
}

function detectionWords({ detection }: RoundAnalysis): string {
  const { hits, planted, falseAlarms, sensitivity, interval } = detection;
  const parts = [`Detection: ${hits} of ${planted.length} planted faults`, `${falseAlarms} false alarms`];
  if (sensitivity) parts.push(`d' ${sensitivity.dPrime.toFixed(2)}`, `c ${sensitivity.criterion.toFixed(2)}`);
  const range = interval ? ` (hit rate interval ${percent(interval.low)} to ${percent(interval.high)})` : '';
  return parts.join(', ') + range;
}

/** What an analysed round was like, a sentence a measure, in the order of the printed record. */
export function roundWords(analysis: RoundAnalysis, pack: EffectivePack): string[] {
  const names = new Map(pack.plan.stations.map((each) => [each.id, each.name]));
  const nameOf = (station: string) => names.get(station) ?? station;
  return [
    coverageWords(analysis),
    omissionWords(analysis),
    pathWords(analysis, nameOf),
    startWords(analysis, nameOf),
    paceWords(analysis, nameOf),
    ...(pack.format === 1 ? [] : handsOnWords(analysis)),
    detectionWords(analysis),
  ];
}
