import { GRADES, type EffectivePack, type Fault, type Grade } from '../catalogue';
import { seededRandom } from '../statistics';

/**
 * Proposes a balanced set of plantable faults: grades in turn (stop, mend, watch, then a lookalike), stations
 * and systems not repeated while others are left, and faults planted lately for the same people avoided.
 * Replayable by its seed.
 */
export function proposePlants(
  pack: EffectivePack,
  count: number,
  seed: number,
  avoid: readonly string[] = [],
): Fault[] {
  const random = seededRandom(seed);
  const stationOf = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const pool = pack.faults
    .filter((each) => each.plant)
    .map((fault) => ({ fault, order: random() + (avoid.includes(fault.id) ? 1 : 0) }));
  const wanted: Grade[] = ['stop', 'mend', 'watch', 'stop', 'sound'];
  const chosen: Fault[] = [];
  while (chosen.length < count && chosen.length < pool.length) {
    const grade = wanted[chosen.length % wanted.length]!;
    const cost = (entry: (typeof pool)[number]) => {
      const checkpoint = stationOf.get(entry.fault.checkpoint)!;
      const sameStation = chosen.filter(
        (each) => stationOf.get(each.checkpoint)!.station === checkpoint.station,
      ).length;
      const sameSystem = chosen.filter(
        (each) => stationOf.get(each.checkpoint)!.system === checkpoint.system,
      ).length;
      const sameCheckpoint = chosen.some((each) => each.checkpoint === entry.fault.checkpoint) ? 1000 : 0;
      return (
        sameCheckpoint +
        sameStation * 10 +
        sameSystem * 5 +
        Math.abs(GRADES.indexOf(entry.fault.grade) - GRADES.indexOf(grade)) * 20 +
        entry.order * 8
      );
    };
    const best = pool.filter((each) => !chosen.includes(each.fault)).sort((a, b) => cost(a) - cost(b))[0]!;
    chosen.push(best.fault);
  }
  return chosen;
}
