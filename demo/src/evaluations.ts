import { addDays, addMonths, type PlainDate } from '@rounds/core/calendar';
import { compose, type EffectivePack, type Pack } from '@rounds/core/catalogue';
import type { CertificationEventBody } from '@rounds/core/certification';
import { proposePlants } from '@rounds/core/evaluation';
import { walkingLine } from '@rounds/core/round';
import type { DemoEvaluation, DemoOrganisation, DemoPerson } from './index';
import { HARD_FAULTS, MILD_TRAINERS, TEAMS, TRAINERS } from './names';
import { simulateEvaluation, type Skill } from './simulate';

/** What the history of evaluations is made from. */
export interface History {
  packs: readonly Pack[];
  people: readonly DemoPerson[];
  units: DemoOrganisation['units'];
  today: PlainDate;
  /** The day on which the records begin. */
  opening: PlainDate;
  random: () => number;
  newId: (at: string) => string;
  certify: (personId: string, classId: string, on: PlainDate, body: CertificationEventBody) => void;
}

type Unit = DemoOrganisation['units'][number];

const CONDITIONS = [
  'Dry, good light',
  'Light rain, wet apron',
  'Indoors',
  'Low sun from the south',
  'Windy, cold start',
];

/** Share of the later evaluations that are recorded by exception. */
const BY_EXCEPTION = 0.6;

/** Share of the newest evaluations whose start and stop were stamped step by step. */
const STAMPED = 0.5;

const FORKLIFT = 'counterbalance-forklift';
const usualClasses = (person: DemoPerson) => TEAMS.find(([team]) => team === person.team)![2];
const passed = (made: DemoEvaluation | undefined) =>
  made?.events.some((each) => each.body.kind === 'decided' && each.body.outcome === 'competent') ?? false;
const better = (skill: Skill): Skill => ({
  ...skill,
  thorough: Math.min(0.99, skill.thorough + 0.14),
  hands: Math.min(0.99, skill.hands + 0.2),
  sharp: Math.min(0.99, skill.sharp + 0.18),
  grading: Math.min(0.97, skill.grading + 0.12),
  pace: Math.min(1, skill.pace + 0.35),
});

/** Makes evaluations of one class: who is evaluated on what, when, and how it came out. */
class Evaluator {
  readonly ring: string[];
  private readonly composed = new Map<string, EffectivePack>();

  constructor(
    private readonly history: History,
    private readonly pack: Pack,
    private readonly machines: readonly Unit[],
  ) {
    this.ring = walkingLine(pack.plan).ring.map((each) => each.id);
  }

  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.history.random() * list.length)]!;
  }

  private packOf(machine: Unit): EffectivePack {
    const key = `${machine.variant} ${JSON.stringify(machine.features)}`;
    const known = this.composed.get(key);
    if (known) return known;
    const made = compose(this.pack, { variant: machine.variant!, features: machine.features });
    this.composed.set(key, made);
    return made;
  }

  /** Faults for one evaluation; the one of this class that many miss is often among them. */
  private plants(pack: EffectivePack, count: number): string[] {
    const { random } = this.history;
    const proposed = proposePlants(pack, count, Math.floor(random() * 1e9)).map((each) => each.id);
    const hard = Object.keys(HARD_FAULTS[this.pack.id] ?? {}).filter((id) =>
      pack.faults.some((each) => each.id === id && each.plant),
    );
    const wanted = random() < 0.6 ? hard : [];
    return [...new Set([...wanted, ...proposed])].slice(0, Math.max(count, wanted.length));
  }

  evaluate(
    person: DemoPerson,
    skill: Skill,
    on: PlainDate,
    earlier: string[],
    planting: number,
    sign = true,
  ): DemoEvaluation {
    const { random, today } = this.history;
    const machine = this.pick(this.machines);
    const pack = this.packOf(machine);
    const start = random() < 0.75 ? skill.start : this.pick(this.ring);
    const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
    const startedAt = `${on}T${two(8 + random() * 7)}:${two(random() * 60)}:00.000Z`;
    const trainer = this.pick(TRAINERS)[1];
    const recent = addMonths(today, -9) < on;
    const events = simulateEvaluation(
      pack,
      { ...skill, start },
      {
        startedAt,
        planted: this.plants(pack, planting),
        random,
        earlierStarts: earlier,
        hard: HARD_FAULTS[this.pack.id] ?? {},
        mild: MILD_TRAINERS[trainer] ?? 0,
        sign,
        stamped: addMonths(today, -6) < on && random() < STAMPED,
        ...(recent && random() < BY_EXCEPTION ? { recording: 'by-exception' as const } : {}),
      },
    );
    const made: DemoEvaluation = {
      id: this.history.newId(startedAt),
      personId: person.id,
      unitId: machine.id,
      trainer,
      composition: { variant: machine.variant!, features: machine.features },
      conditions: this.pick(CONDITIONS),
      createdAt: startedAt,
      earlierStarts: [...earlier],
      events,
    };
    earlier.unshift(start);
    return made;
  }

  /** An evaluation, and after teaching another some weeks later until it is passed or `tries` run out. */
  until(person: DemoPerson, skill: Skill, on: PlainDate, earlier: string[], tries: number): DemoEvaluation[] {
    const { random, today } = this.history;
    const made = [this.evaluate(person, skill, on, earlier, 3 + Math.floor(random() * 3))];
    let now = skill;
    for (let k = 0; k < tries && !passed(made.at(-1)); k++) {
      now = better(now);
      on = addDays(on, 12 + Math.floor(random() * 14));
      if (on < today) made.push(this.evaluate(person, now, on, earlier, 3 + Math.floor(random() * 2)));
    }
    return made;
  }
}

/** Eighteen months of evaluations on forklift trucks, with the people a trainer meets among the drivers. */
export function forkliftEvaluations(history: History): DemoEvaluation[] {
  const { packs, people, units, today, opening, random, certify } = history;
  const forklift = packs.find((each) => each.id === FORKLIFT);
  if (!forklift) return [];
  const drivers = people.filter((each) => usualClasses(each).includes(FORKLIFT));
  const trucks = units.filter((each) => each.classId === FORKLIFT);
  const evaluator = new Evaluator(history, forklift, trucks.slice(0, 8));
  const { ring } = evaluator;
  const made: DemoEvaluation[] = [];
  /** Cards of before, some of them near their end, by the driver's place in the list: days from three years. */
  const oldCards: Readonly<Record<number, number>> = { 5: -47, 7: 22, 11: 51 };
  drivers.forEach((person, i) => {
    const level = ((i * 7) % drivers.length) / (drivers.length - 1);
    const skill: Skill = {
      thorough: 0.72 + 0.28 * level,
      hands: 0.5 + 0.5 * ((level * 2 + 0.3) % 1),
      sharp: 0.68 + 0.32 * ((level * 3 + 0.4) % 1),
      grading: 0.62 + 0.38 * ((level * 5 + 0.2) % 1),
      pace: 0.25 + 0.75 * level,
      start: ring[[0, 7, 4][i % 3]!] ?? ring[0]!,
    };
    if (i === 2) {
      certify(person.id, FORKLIFT, addDays(today, -24), { kind: 'training-started' });
      certify(person.id, FORKLIFT, addDays(today, -10), { kind: 'theory-passed' });
      return;
    }
    const oldCard = oldCards[i];
    if (oldCard !== undefined)
      certify(person.id, FORKLIFT, addDays(addMonths(today, -36), oldCard), {
        kind: 'certificate-recorded',
        words: 'card shown, kept on paper before',
      });
    else {
      const earlier: string[] = [];
      const rounds = random() < 0.2 ? 2 : 1;
      let now: Skill =
        i === 4 ? { ...skill, thorough: 0.99, hands: 0.99, sharp: 0.97, grading: 0.95, pace: 1 } : skill;
      for (let k = 0; k < rounds; k++) {
        const on = addDays(opening, Math.floor(((k + random()) / rounds) * 470));
        // Who does not pass is taught and evaluated again; one is still waiting for it.
        made.push(...evaluator.until(person, now, on, earlier, i === 14 ? 0 : 1));
        now = better(now);
      }
    }
    if (i === 4)
      certify(person.id, FORKLIFT, addDays(today, -9), {
        kind: 'trigger',
        trigger: 'incident',
        words: 'rack leg struck on a reverse turn, nobody hurt',
      });
    if (i % 3 !== 0)
      certify(person.id, FORKLIFT, addDays(today, -Math.floor(30 + random() * 300)), {
        kind: 'familiarised',
        unit: trucks[(i * 2) % 8]!.name,
      });
  });
  const unfinished = drivers[9];
  if (unfinished) {
    const skill = { thorough: 0.8, hands: 0.8, sharp: 0.7, grading: 0.7, pace: 0.7, start: ring[0]! };
    made.push(faultsLeftIn(evaluator.evaluate(unfinished, skill, addDays(today, -1), [], 4, false)));
  }
  return made;
}

/** Yesterday's evaluation, broken off after the round with all but two of its faults still in the machine. */
function faultsLeftIn(made: DemoEvaluation): DemoEvaluation {
  const ended = made.events.findIndex((each) => each.body.kind === 'round-ended');
  const out = made.events.filter((each) => each.body.kind === 'retrieved').slice(0, 2);
  return {
    ...made,
    trainer: 'hilda',
    events: made.events.filter((each, k) => k <= ended || out.includes(each)),
  };
}

/** Evaluations on every other class: skill differs by person and by how much they work it. */
export function evaluationsOfOtherClasses(history: History): DemoEvaluation[] {
  const { packs, people, units, opening, random } = history;
  return packs
    .filter((pack) => pack.id !== FORKLIFT)
    .flatMap((pack) => {
      const machines = units.filter((each) => each.classId === pack.id);
      const workers = people.filter((each) => usualClasses(each).includes(pack.id));
      if (machines.length === 0 || workers.length === 0) return [];
      const evaluator = new Evaluator(history, pack, machines);
      /** At least two a class, so that each has something to show. */
      const chosen = workers.filter((_, i) => i < 2 || random() < 0.04);
      return chosen.flatMap((person) => {
        const own = (people.indexOf(person) * 7 + pack.id.length * 3) % 11;
        const level = 0.74 + 0.26 * (own / 10);
        const skill: Skill = {
          thorough: level,
          hands: 0.6 + 0.4 * ((level * 7) % 1),
          sharp: 0.7 + 0.3 * ((level * 3 + 0.4) % 1),
          grading: 0.6 + 0.4 * ((level * 5 + 0.2) % 1),
          pace: 0.2 + 0.8 * level,
          start: evaluator.ring[own % Math.max(1, evaluator.ring.length)]!,
        };
        const on = addDays(opening, Math.floor(random() * 500));
        return evaluator.until(person, skill, on, [], random() < 0.5 ? 1 : 0);
      });
    });
}
