import { type EffectivePack, type Grade, GRADES } from '../catalogue';
import type { UnitSystem } from '../measuring';
import { drawWeighted, levelShares, seededRandom, shuffled } from '../statistics';
import { benchCandidates, type BenchCase, type BenchForm, type Candidate } from './cases';

export interface BenchRequest {
  form: BenchForm;
  seed: number;
  /** How many findings; fewer where the class has not so many parts. */
  size: number;
  system: UnitSystem;
  /** How much more often than others an item comes up; 1 where nothing is said. */
  weights?: ReadonlyMap<string, number>;
  /** Items that are not dealt. */
  without?: ReadonlySet<string>;
}

/** The findings of a bench in their order. */
export interface BenchDeal {
  form: BenchForm;
  seed: number;
  system: UnitSystem;
  cases: BenchCase[];
}

/** How often a finding comes with a use that bears on it, beside one that comes without. */
const WITH_USE = 0.3;

/** The chance of one candidate among those of its item and grade: an item is drawn as often however many readings it has. */
function weigh(candidates: readonly Candidate[], weights: BenchRequest['weights']) {
  const alike = new Map<string, number>();
  const key = (each: Candidate) => `${each.item} ${each.grade} ${each.uses.length}`;
  for (const each of candidates) alike.set(key(each), (alike.get(key(each)) ?? 0) + 1);
  return candidates.map((each) => ({
    ...each,
    weight: ((weights?.get(each.item) ?? 1) * (each.uses.length > 0 ? WITH_USE : 1)) / alike.get(key(each))!,
  }));
}

/**
 * Deals findings of a class to be graded: level over the grades as far as the class has such, a part at most once (and
 * a gauge, unless only readings are dealt), mixed by weight and seed. Pure: the same pack, request and weights deal the
 * same bench anywhere. Throws RangeError for a class that has nothing to put in the form.
 */
export function dealBench(
  pack: EffectivePack,
  { form, seed, size, system, weights, without }: BenchRequest,
): BenchDeal {
  const random = seededRandom(seed);
  const open = weigh(
    benchCandidates(pack, form, system).filter((each) => !without?.has(each.item)),
    weights,
  );
  if (open.length === 0) throw new RangeError(`${pack.title} has nothing to grade in this form`);
  const pools = new Map(GRADES.map((grade) => [grade, open.filter((each) => each.grade === grade)]));
  // Of one gauge several readings are worked out, each of another grade.
  const place = (each: Candidate) =>
    each.reading
      ? `${each.checkpoint} ${each.reading.quantity} ${form === 'measured' ? each.grade : ''}`
      : each.checkpoint;
  const room = new Map<Grade, number>(
    GRADES.map((grade) => [grade, new Set(pools.get(grade)!.map(place)).size]),
  );
  const quota = levelShares(room, size, random);
  const dealt: Candidate[] = [];
  const free = (candidates: readonly (Candidate & { weight: number })[]) =>
    candidates.filter((each) => !dealt.some((other) => place(other) === place(each)));
  // The rarest first, or their parts would be taken.
  const byRarity = [...GRADES].sort((a, b) => room.get(a)! - room.get(b)!);
  for (const grade of byRarity) {
    const lookalikes = grade === 'sound' ? pools.get(grade)!.filter((each) => each.fault !== null) : [];
    for (let n = 0; n < quota.get(grade)!; n++) {
      // Every other sound part looks faulty, as far as the class has such.
      const wanted = grade === 'sound' && n % 2 === 1 ? free(lookalikes) : [];
      const candidates = wanted.length > 0 ? wanted : free(pools.get(grade)!);
      if (candidates.length > 0) dealt.push(drawWeighted(candidates, random));
    }
  }
  return { form, seed, system, cases: shuffled(dealt, random).map(bare) };
}

const bare = ({ checkpoint, fault, reading, uses, methods }: BenchCase): BenchCase => ({
  checkpoint,
  fault,
  reading,
  uses,
  methods,
});
