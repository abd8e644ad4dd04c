import {
  type Checkpoint,
  type EffectivePack,
  type Fault,
  type Grade,
  GRADES,
  type Method,
} from '../catalogue';
import { walkingOrder } from '../round';
import { drawWeighted, levelShares, seededRandom } from '../statistics';

/** The forms of a walk-round drill. */
export const DRILL_FORMS = ['round', 'weak', 'station', 'one-wrong'] as const;
export type DrillForm = (typeof DRILL_FORMS)[number];

/** How many parts a form deals at most. */
export const DRILL_PARTS: Readonly<Record<DrillForm, number>> = {
  round: 20,
  weak: 8,
  station: 20,
  'one-wrong': 8,
};

/** A part of the dealt machine: sound (null) or with one fault or lookalike. */
export interface DealtCase {
  checkpoint: string;
  fault: string | null;
}

/** A virtual machine as it was dealt, in walking order. Whoever holds it knows every fault. */
export interface Deal {
  form: DrillForm;
  seed: number;
  station: string | null;
  cases: DealtCase[];
}

export interface DealRequest {
  form: DrillForm;
  seed: number;
  /** For the form of one station. */
  station?: string | null;
  /**
   * How much more often than others a case comes up, by its item (see `caseItem`); 1 where nothing is said. The same
   * weights and the same seed deal the same machine.
   */
  weights?: ReadonlyMap<string, number>;
  /** Items that are not dealt. */
  without?: ReadonlySet<string>;
}

/** The item of practice that a case is: the check, with the fault it has or none. */
export function caseItem({ checkpoint, fault }: DealtCase): string {
  return `${checkpoint}/${fault ?? 'sound'}`;
}

/** The methods that show a fault at its check in this fit-out. */
export function revealingMethods(checkpoint: Checkpoint, fault: Fault): Method[] {
  return checkpoint.methods.filter((method) => fault.cues.some((cue) => cue.method === method));
}

interface Candidate extends DealtCase {
  grade: Grade;
  weight: number;
}

/** Every case a class can deal: each fault and lookalike that some method shows, and each part sound. */
export function possibleCases(pack: EffectivePack): (DealtCase & { grade: Grade })[] {
  const byId = new Map(pack.checkpoints.map((each) => [each.id, each]));
  return [
    ...pack.faults
      .filter((each) => revealingMethods(byId.get(each.checkpoint)!, each).length > 0)
      .map((each) => ({ checkpoint: each.checkpoint, fault: each.id, grade: each.grade })),
    ...pack.checkpoints.map((each) => ({ checkpoint: each.id, fault: null, grade: 'sound' as const })),
  ];
}

/**
 * How many cases of each grade: as level as the class allows, so that whoever always says the same is right by chance
 * alone. Of a grade with few faults at most half are dealt at a time (the odd one by seed): they would be known by heart.
 */
function quotas(
  pools: ReadonlyMap<Grade, Candidate[]>,
  parts: number,
  random: () => number,
): Map<Grade, number> {
  const room = new Map(
    GRADES.map((grade) => {
      const checks = new Set(pools.get(grade)!.map((each) => each.checkpoint)).size;
      const half = grade === 'sound' ? checks : Math.floor(checks / 2 + random());
      return [grade, half] as const;
    }),
  );
  return levelShares(room, parts, random);
}

/**
 * Deals a virtual machine: at every chosen part one case, level over the grades, mixed by weight and seed, in walking
 * order. Pure: the same pack, request and weights deal the same machine anywhere.
 * Throws RangeError for a station without checks.
 */
export function dealDrill(pack: EffectivePack, request: DealRequest): Deal {
  const { form, seed, station = null, weights, without } = request;
  const random = seededRandom(seed);
  const order = walkingOrder(pack)
    .flatMap(({ station: at, checks }) => checks.filter((each) => each.station === at.id))
    .filter((each) => form !== 'station' || each.station === station);
  if (order.length === 0) throw new RangeError(`no check to drill at station "${station}"`);
  const place = new Map(order.map((each, i) => [each.id, i]));
  const open: Candidate[] = possibleCases(pack)
    .filter((each) => place.has(each.checkpoint) && !without?.has(caseItem(each)))
    .map((each) => ({ ...each, weight: weights?.get(caseItem(each)) ?? 1 }));
  const parts = Math.min(DRILL_PARTS[form], order.length);
  const pools = new Map(GRADES.map((grade) => [grade, open.filter((each) => each.grade === grade)]));
  const quota = form === 'one-wrong' ? oneWrong(pools, parts, random) : quotas(pools, parts, random);
  const dealt: Candidate[] = [];
  const free = (candidates: readonly Candidate[]) =>
    candidates.filter((each) => !dealt.some((other) => other.checkpoint === each.checkpoint));
  // The rarest first, or their checks would be taken. A sound part goes to whatever check is left.
  const byRarity = [...GRADES].sort(
    (a, b) => Number(a === 'sound') - Number(b === 'sound') || pools.get(a)!.length - pools.get(b)!.length,
  );
  for (const grade of byRarity) {
    const lookalikes = grade === 'sound' ? pools.get(grade)!.filter((each) => each.fault !== null) : [];
    for (let n = 0; n < quota.get(grade)!; n++) {
      // Every other sound part looks faulty, as far as the class has such.
      const wanted = grade === 'sound' && n % 2 === 1 ? free(lookalikes) : [];
      const candidates =
        wanted.length > 0 ? wanted : free(pools.get(grade)!.filter((each) => !lookalikes.includes(each)));
      if (candidates.length > 0) dealt.push(drawWeighted(candidates, random));
    }
  }
  return {
    form,
    seed,
    station,
    cases: dealt
      .sort((a, b) => place.get(a.checkpoint)! - place.get(b.checkpoint)!)
      .map(({ checkpoint, fault }) => ({ checkpoint, fault })),
  };
}

/** All sound but one. */
function oneWrong(
  pools: ReadonlyMap<Grade, Candidate[]>,
  parts: number,
  random: () => number,
): Map<Grade, number> {
  const bad = GRADES.filter((grade) => grade !== 'sound' && pools.get(grade)!.length > 0);
  const wrong = bad[Math.floor(random() * bad.length)];
  return new Map(
    GRADES.map((grade) => [grade, grade === 'sound' ? parts - (wrong ? 1 : 0) : grade === wrong ? 1 : 0]),
  );
}
