import { addDays, addMonths } from '@rounds/core/calendar';
import { recordReplay, REPLAY_SCORES, type ReplayedRound, type ReplayScore } from '@rounds/core/calibration';
import { compose } from '@rounds/core/catalogue';
import type { History } from './evaluations';
import { TRAINERS } from './names';

/** A replayed round as it is seeded, with what each trainer gave. */
export interface DemoCalibration {
  id: string;
  title: string;
  by: string;
  classId: string;
  composition: { variant: string };
  round: ReplayedRound;
  startedAt: string;
  closedAt: string | null;
  scores: {
    by: string;
    scores: Record<string, ReplayScore>;
    way: 'in-time' | 'stepped';
    handedInAt: string;
  }[];
}

/** How often each gives another score than the key, and how often that one is milder. */
const HABITS: Readonly<Record<string, { strays: number; milder: number }>> = {
  hilda: { strays: 0.12, milder: 0.5 },
  ronan: { strays: 0.18, milder: 0.6 },
  signe: { strays: 0.2, milder: 0.5 },
  bashir: { strays: 0.3, milder: 0.15 },
  maeve: { strays: 0.42, milder: 0.95 },
};

function scoresOf(round: ReplayedRound, by: string, random: () => number): Record<string, ReplayScore> {
  const { strays, milder } = HABITS[by]!;
  return Object.fromEntries(
    round.criteria.map(({ id, key }) => {
      if (random() > strays) return [id, key];
      const step = random() < milder ? -1 : 1;
      const at = Math.min(2, Math.max(0, REPLAY_SCORES.indexOf(key) + step));
      return [id, REPLAY_SCORES[at]!];
    }),
  );
}

/** A calibration of last year, one of this spring and one that is open. */
export function calibrations({ packs, today, random, newId }: History): DemoCalibration[] {
  const made = (
    classId: string,
    title: string,
    monthsAgo: number,
    by: string,
    scored: readonly string[],
    open = false,
  ): DemoCalibration[] => {
    const pack = packs.find((each) => each.id === classId);
    if (!pack) return [];
    const composition = { variant: pack.variants[0]!.id };
    const round = recordReplay(compose(pack, composition), {
      seed: Math.floor(random() * 2 ** 31),
      length: 'short',
    });
    const day = open ? addDays(today, -4) : addMonths(today, -monthsAgo);
    return [
      {
        id: newId(`${day}T08:30:00.000Z`),
        title,
        by,
        classId,
        composition,
        round,
        startedAt: `${day}T08:30:00.000Z`,
        closedAt: open ? null : `${addDays(day, 9)}T15:00:00.000Z`,
        scores: scored.map((who, i) => ({
          by: who,
          scores: scoresOf(round, who, random),
          way: i % 2 === 0 ? 'in-time' : 'stepped',
          handedInAt: `${addDays(day, 1 + (i % 3))}T1${i}:20:00.000Z`,
        })),
      },
    ];
  };
  const everybody = TRAINERS.map(([, login]) => login);
  return [
    ...made('counterbalance-forklift', 'Forklift, the year before', 15, 'hilda', everybody.slice(0, 4)),
    ...made(
      'counterbalance-forklift',
      'Forklift, all of us',
      4,
      'hilda',
      everybody.filter((each) => each !== 'bashir' && each !== 'maeve'),
    ),
    ...made('wheel-loader', 'Wheel loader', 2, 'signe', ['hilda', 'ronan', 'signe', 'maeve']),
    ...made('reach-truck', 'Reach truck at the quay', 0, 'signe', ['signe', 'maeve'], true),
  ];
}
