import { type BenchCase, benchCandidates, benchItem, benchKey, dealBench } from '@rounds/core/bench';
import { addDays } from '@rounds/core/calendar';
import { compose, type EffectivePack, type Grade, GRADES, severity } from '@rounds/core/catalogue';
import type { History } from './evaluations';
import { TEAMS } from './names';

/** A class exercise that was held: who was in the room and what each graded. */
export interface DemoExercise {
  id: string;
  title: string;
  by: string;
  classId: string;
  composition: { variant: string };
  cases: BenchCase[];
  startedAt: string;
  endedAt: string;
  places: { id: string; personId: string; name: string; grades: Grade[] }[];
}

const FINDINGS = 18;

/** What somebody grades who knows so much, 0 to 1; whoever is unsure grades too low more often than too high. */
function graded(key: Grade, sure: number, random: () => number): Grade {
  if (random() < sure) return key;
  const step = random() < 0.72 ? -1 : 1;
  return GRADES[Math.min(3, Math.max(0, severity(key) + step))]!;
}

/**
 * The finding that good people fail: it says watch where everybody who knows the trade would have it mended. The better
 * somebody is, the surer they call it higher than the key.
 */
function disputed(key: Grade, sure: number, random: () => number): Grade {
  return random() < (sure > 0.62 ? 0.95 : 0.2) ? GRADES[Math.min(3, severity(key) + 1)]! : key;
}

/** Watch findings of a class, in the order of the class. */
const watched = (pack: EffectivePack): BenchCase[] =>
  benchCandidates(pack, 'words', 'si').filter(
    (each) => each.fault !== null && each.uses.length === 0 && benchKey(pack, each).grade === 'watch',
  );

/** Two rooms of forklift drivers who graded the same findings, one of which has a doubtful key. */
export function exercises({ packs, people, today, random, newId }: History): DemoExercise[] {
  const pack = packs.find((each) => each.id === 'counterbalance-forklift');
  if (!pack) return [];
  const composition = { variant: pack.variants[0]!.id };
  const effective = compose(pack, composition);
  const [doubtful] = watched(effective);
  const dealt = dealBench(effective, { form: 'words', seed: 41, size: FINDINGS, system: 'si' }).cases;
  const bare = ({ checkpoint, fault, reading, uses, methods }: BenchCase): BenchCase => ({
    checkpoint,
    fault,
    reading,
    uses,
    methods,
  });
  const cases = doubtful
    ? [...dealt.filter((each) => benchItem(each) !== benchItem(doubtful)), bare(doubtful)]
    : dealt;
  const drivers = people.filter((person) =>
    TEAMS.find(([team]) => team === person.team)![2].includes(pack.id),
  );
  const half = Math.ceil(drivers.length / 2);
  return [drivers.slice(0, half), drivers.slice(half)].map((room, r): DemoExercise => {
    const startedAt = `${addDays(today, -38 + 7 * r)}T13:00:00.000Z`;
    return {
      id: newId(startedAt),
      title: `Forklift drivers, room ${r + 1}`,
      by: r === 0 ? 'hilda' : 'signe',
      classId: pack.id,
      composition,
      cases,
      startedAt,
      endedAt: new Date(Date.parse(startedAt) + 2_700_000).toISOString(),
      places: room.map((person, p) => {
        const sure = 0.28 + (0.72 * (p + 0.5)) / room.length;
        return {
          id: newId(startedAt),
          personId: person.id,
          name: `${person.givenName} ${person.familyName}`,
          grades: cases.map((each) =>
            (doubtful && benchItem(each) === benchItem(doubtful) ? disputed : graded)(
              benchKey(effective, each).grade,
              sure,
              random,
            ),
          ),
        };
      }),
    };
  });
}
