import { type BenchAnswer, type BenchDeal, type BenchForm, benchKey, dealBench } from '@rounds/core/bench';
import { addDays, type PlainDate } from '@rounds/core/calendar';
import { compose, type EffectivePack, GRADES, type PolicyRaise, severity } from '@rounds/core/catalogue';
import { rightActs, rightBound } from '@rounds/core/grading';
import type { History } from './evaluations';

/** A bench as somebody answered it. */
export interface DemoBench {
  id: string;
  personId: string;
  by: string;
  classId: string;
  composition: { variant: string };
  kind: BenchForm;
  deal: BenchDeal;
  answers: BenchAnswer[];
  startedAt: string;
  endedAt: string;
}

/** The answer of somebody who grades one too low, seldom too high, when unsure. */
function answerOf(
  pack: EffectivePack,
  dealt: BenchDeal['cases'][number],
  sure: number,
  random: () => number,
): BenchAnswer {
  const key = benchKey(pack, dealt);
  const right = random() < sure;
  const step = random() < 0.75 ? -1 : 1;
  const grade = right ? key.grade : GRADES[Math.min(3, Math.max(0, severity(key.grade) + step))]!;
  const acts = rightActs(key);
  const act =
    grade === key.grade
      ? acts[Math.floor(random() * acts.length)]!
      : ({ sound: 'go-on', watch: 'go-on', mend: 'order-repair', stop: 'stop-and-tag' } as const)[grade];
  const timed = act === 'top-up' || act === 'order-repair';
  return { grade, act, by: timed ? (rightBound(key) ?? 'shift') : null };
}

/** Benches: Isla's on the forklift, better each time, and one on the reach truck. */
export function benches({ packs, people, today, random, newId }: History): DemoBench[] {
  const isla = people.find((each) => each.givenName === 'Isla');
  if (!isla) return [];
  const work = (classId: string, daysAgo: number, sure: number, kind: BenchForm): DemoBench[] => {
    const pack = packs.find((each) => each.id === classId);
    if (!pack) return [];
    const composition = { variant: pack.variants[0]!.id };
    const effective = compose(pack, composition);
    const deal = dealBench(effective, {
      form: kind,
      seed: Math.floor(random() * 2 ** 31),
      size: 12,
      system: 'si',
    });
    const startedAt = `${addDays(today, -daysAgo)}T18:05:00.000Z`;
    return [
      {
        id: newId(startedAt),
        personId: isla.id,
        by: 'isla',
        classId,
        composition,
        kind,
        deal,
        answers: deal.cases.map((each) => answerOf(effective, each, sure, random)),
        startedAt,
        endedAt: new Date(Date.parse(startedAt) + 420_000).toISOString(),
      },
    ];
  };
  return [
    ...work('counterbalance-forklift', 20, 0.45, 'all'),
    ...work('counterbalance-forklift', 11, 0.6, 'all'),
    ...work('counterbalance-forklift', 3, 0.8, 'all'),
    ...work('reach-truck', 9, 0.6, 'measured'),
  ];
}

/** A line of the policy, as it is seeded. */
export interface DemoPolicy extends Omit<PolicyRaise, 'by'> {
  site: string | null;
  by: string;
  madeAt: string;
}

/** What the trust's quarry grades higher, since a slip on a step. */
export function policyLines({ today, newId }: Pick<History, 'today' | 'newId'>): DemoPolicy[] {
  const from: PlainDate = addDays(today, -62);
  const madeAt = `${from}T07:40:00.000Z`;
  return [
    {
      id: newId(madeAt),
      site: 'Breakwater Quarry',
      scope: { of: 'kind', kind: 'step-greasy' },
      atLeast: 'stop',
      from,
      why: 'Two slips from iced steps last winter: nobody climbs until it is clean',
      by: 'hilda',
      madeAt,
    },
  ];
}
