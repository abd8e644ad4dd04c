import { addDays, addMonths, type PlainDate } from '@rounds/core/calendar';
import {
  compose,
  type Composition,
  type EffectivePack,
  GRADES,
  type Pack,
  severity,
} from '@rounds/core/catalogue';
import type { CertificationEventBody } from '@rounds/core/certification';
import {
  appraise,
  type EvaluationEvent,
  type EvaluationEventBody,
  foldEvaluation,
  proposePlants,
  seededRandom,
} from '@rounds/core/evaluation';
import { honestSeconds, walkingLine } from '@rounds/core/round';
import { CLASSES, FITTERS, OPERATORS, SCHOOL_CHOICES, SUPERVISORS, TEAMS, TRAINERS } from './names';

/** A seed so that every demo is the same organisation, dated relative to the day it is made. */
export const DEMO_SEED = 20_260;

export interface DemoPerson {
  id: string;
  payroll: string;
  givenName: string;
  familyName: string;
  site: string;
  team: string;
  email: string;
  born: PlainDate;
  started: PlainDate;
}
export interface DemoEvaluation {
  id: string;
  personId: string;
  unitId: string;
  trainer: string;
  composition: Composition;
  conditions: string;
  createdAt: string;
  earlierStarts: string[];
  events: EvaluationEvent[];
}
export interface DemoOrganisation {
  organisation: string;
  timeZone: string;
  classes: { id: string; title: string; family: string }[];
  people: DemoPerson[];
  accounts: {
    name: string;
    login: string;
    role: 'trainer' | 'operator' | 'supervisor' | 'workshop' | 'administrator';
    team: string | null;
    personId: string | null;
  }[];
  units: {
    id: string;
    classId: string;
    name: string;
    site: string;
    variant: string | null;
    features: Record<string, string>;
  }[];
  certifications: {
    personId: string;
    classId: string;
    on: PlainDate;
    body: CertificationEventBody;
    by: string;
  }[];
  /** Positions a site has chosen where schools differ. */
  choices: {
    classId: string;
    site: string;
    schoolId: string;
    optionId: string;
    reason: string;
    by: string;
    chosenAt: string;
  }[];
  evaluations: DemoEvaluation[];
}

/** UUIDv7-shaped ids from a generator: time in front, the rest random, so that they sort as real ones do. */
export function seededIds(random: () => number): (at: string) => string {
  return (at) => {
    const time = Date.parse(at).toString(16).padStart(12, '0');
    const hex = (n: number) =>
      Array.from({ length: n }, () => Math.floor(random() * 16).toString(16)).join('');
    return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${'89ab'[Math.floor(random() * 4)]}${hex(3)}-${hex(12)}`;
  };
}

/** How good an operator is at each part of a round; 0 to 1. */
export interface Skill {
  thorough: number;
  sharp: number;
  grading: number;
  pace: number;
  start: string;
}

const SIGNATURE = 'M40 130L70 60L95 140L120 70L150 130L190 90L230 125L280 80L330 120L400 95L470 110';

/**
 * Events of a whole evaluation as an operator of the given skill would produce them, up to both signatures.
 */
export function simulateEvaluation(
  pack: EffectivePack,
  skill: Skill,
  given: {
    startedAt: string;
    planted: readonly string[];
    random: () => number;
    earlierStarts: readonly string[];
    sign?: boolean;
  },
): EvaluationEvent[] {
  const { random } = given;
  const nextId = seededIds(random);
  const events: EvaluationEvent[] = [];
  let clock = Date.parse(given.startedAt);
  const add = (body: EvaluationEventBody, seconds = 0) => {
    clock += Math.round(seconds * 1000);
    const at = new Date(clock).toISOString();
    events.push({ id: nextId(at), at, body });
  };
  for (const fault of given.planted) add({ kind: 'planted', fault }, 40);
  add({ kind: 'round-started' }, 120);
  const ring = walkingLine(pack.plan).ring.map((each) => each.id);
  const first = Math.max(0, ring.indexOf(skill.start));
  const turned = [...ring.slice(first), ...ring.slice(0, first)];
  const before = pack.plan.stations.filter((each) => each.id === 'site').map((each) => each.id);
  const off = pack.plan.stations
    .filter((each) => !each.at && !before.includes(each.id))
    .map((each) => each.id);
  for (const station of [...before, ...turned, ...off]) {
    const checks = pack.checkpoints.filter((each) => each.station === station);
    const looked = checks.length > 0 || pack.checkpoints.some((each) => each.alsoAt?.includes(station));
    if (!looked) continue;
    if (random() > 0.35 + 0.65 * skill.thorough && ring.includes(station) && random() < 0.3) continue;
    add({ kind: 'arrived', station }, 4 + 4 * random());
    for (const check of checks) {
      const roll = random();
      const done = 0.45 + 0.53 * skill.thorough;
      const result = roll < done ? 'done' : roll < done + (1 - done) * 0.4 ? 'prompted' : 'missed';
      if (result === 'missed') {
        if (random() < 0.5) add({ kind: 'checked', checkpoint: check.id, result }, 2);
        continue;
      }
      add(
        { kind: 'checked', checkpoint: check.id, result, method: check.methods[0] },
        honestSeconds(check) * (0.55 + 0.75 * skill.pace) * (0.85 + 0.3 * random()),
      );
      const here = given.planted.flatMap(
        (id) => pack.faults.find((each) => each.id === id && each.checkpoint === check.id) ?? [],
      );
      for (const fault of here) {
        if (
          fault.grade === 'sound' ? random() > 0.25 * (1 - skill.sharp) : random() > 0.3 + 0.68 * skill.sharp
        )
          continue;
        const right = random() < 0.4 + 0.58 * skill.grading;
        const off = severity(fault.grade) + (random() < 0.7 ? -1 : 1);
        const grade = right ? fault.grade : GRADES[Math.max(1, Math.min(3, off))]!;
        add(
          {
            kind: 'reported',
            checkpoint: check.id,
            fault: fault.grade === 'sound' ? null : fault.id,
            grade: fault.grade === 'sound' ? 'watch' : grade,
            prompted: result === 'prompted',
            real: false,
          },
          8,
        );
      }
      if (here.length === 0 && random() < 0.02 * (1.4 - skill.sharp))
        add(
          {
            kind: 'reported',
            checkpoint: check.id,
            fault: null,
            grade: 'watch',
            prompted: false,
            real: false,
          },
          6,
        );
    }
  }
  add({ kind: 'round-ended' }, 20);
  for (const section of pack.sheet.sections)
    for (const criterion of section.criteria) {
      if (criterion.kind === 'linked') continue;
      const roll = random();
      const done = 0.5 + 0.48 * (skill.thorough * 0.5 + skill.sharp * 0.3 + skill.grading * 0.2);
      add(
        {
          kind: 'scored',
          criterion: criterion.id,
          result: roll < done ? 'done' : roll < done + (1 - done) * 0.7 ? 'prompted' : 'not',
        },
        60 + 120 * random(),
      );
    }
  if (random() < 0.05 * (1.2 - skill.thorough))
    add(
      {
        kind: 'critical-error',
        error: pack.sheet.criticalErrors[Math.floor(random() * pack.sheet.criticalErrors.length)]!.id,
      },
      5,
    );
  for (const fault of given.planted) add({ kind: 'retrieved', fault }, 45);
  if (given.sign !== false) {
    const { outcome } = appraise(pack, foldEvaluation(events), given.earlierStarts);
    if (outcome === 'competent' || outcome === 'not-yet' || outcome === 'stopped') {
      add({ kind: 'decided', outcome }, 180);
      add({ kind: 'signed', role: 'trainer', strokes: SIGNATURE }, 30);
      add({ kind: 'signed', role: 'operator', strokes: SIGNATURE.replace('M40', 'M60') }, 30);
    }
  }
  return events;
}

/**
 * The demo organisation on a day. `packs` are the published packs; only classes with one get evaluations,
 * the rest keep certificates taken over from paper.
 */
export function demoOrganisation(
  today: PlainDate,
  packs: readonly Pack[],
  seed = DEMO_SEED,
): DemoOrganisation {
  const random = seededRandom(seed);
  const newId = seededIds(random);
  const idOn = (date: PlainDate) => newId(`${date}T08:00:00Z`);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const opening = addMonths(today, -18);

  const people = OPERATORS.map(([givenName, familyName], i): DemoPerson => {
    const [team, site] = TEAMS[[0, 0, 1, 2, 2, 3, 4, 4, 5, 1][i % 10]!]!;
    return {
      id: idOn(opening),
      payroll: String(20101 + i * 7),
      givenName,
      familyName,
      team,
      site,
      email: `${givenName}.${familyName}`.toLowerCase().replace(/[^a-z.]/g, '') + '@skerrow.example',
      born: addDays(addMonths(today, -12 * (20 + Math.floor(random() * 40))), -Math.floor(random() * 360)),
      started: addDays(opening, -Math.floor(random() * 3000)),
    };
  });

  const variants = [
    'diesel',
    'electric',
    'lpg',
    'electric',
    'diesel',
    'electric',
    'electric',
    'lpg',
    'diesel',
  ];
  const units = CLASSES.flatMap(([classId, , , count, site, short]) =>
    Array.from({ length: count }, (_, i) => {
      const known = packs.find((each) => each.id === classId);
      const variant =
        classId === 'counterbalance-forklift'
          ? variants[i % variants.length]!
          : (known?.variants[0]?.id ?? null);
      const where =
        classId === 'counterbalance-forklift'
          ? ([
              'Ferry Quay',
              'Ferry Quay',
              'Ferry Quay',
              'Ferry Quay',
              'Gannet Field',
              'Trust Workshop',
              'Ferry Quay',
              'Gannet Field',
              'Ferry Quay',
            ][i] ?? site)
          : site;
      const features: Record<string, string> =
        classId === 'counterbalance-forklift'
          ? {
              tyres: i % 2 === 0 ? 'pneumatic' : 'cushion',
              attachment: i === 3 ? 'none' : 'sideshift',
              ...(variant === 'electric' ? { 'separate-reservoirs': 'no', transmission: 'electric' } : {}),
            }
          : {};
      return {
        id: idOn(opening),
        classId,
        name: `${short}-${String(i + 1).padStart(2, '0')}`,
        site: where,
        variant,
        features,
      };
    }),
  );

  const certifications: DemoOrganisation['certifications'] = [];
  const evaluations: DemoEvaluation[] = [];
  const certify = (
    personId: string,
    classId: string,
    on: PlainDate,
    body: CertificationEventBody,
    by = pick(TRAINERS)[1],
  ) => certifications.push({ personId, classId, on, body, by });

  for (const person of people) {
    const usual = TEAMS.find(([team]) => team === person.team)![2];
    for (const classId of usual) {
      if (classId === 'counterbalance-forklift' || random() < 0.3) continue;
      const on = addDays(today, -Math.floor(40 + random() * 1120));
      certify(person.id, classId, on, {
        kind: 'certificate-recorded',
        words: 'card shown, kept on paper before',
      });
      const own = units.filter((each) => each.classId === classId);
      for (const machine of own.slice(0, 1 + Math.floor(random() * own.length)))
        certify(person.id, classId, on, { kind: 'familiarised', unit: machine.name });
      if (random() < 0.12)
        certify(person.id, classId, addDays(today, -Math.floor(random() * 20)), {
          kind: 'trigger',
          trigger: pick(['near-miss', 'workplace-changed', 'unsafe-act'] as const),
          words: 'raised by the supervisor',
        });
    }
  }

  const forklift = packs.find((each) => each.id === 'counterbalance-forklift');
  if (forklift) {
    const drivers = people.filter((each) =>
      TEAMS.find(([team]) => team === each.team)![2].includes('counterbalance-forklift'),
    );
    const trucks = units.filter((each) => each.classId === 'counterbalance-forklift');
    const ring = walkingLine(forklift.plan).ring.map((each) => each.id);
    const composed = new Map(
      trucks.map((truck) => [
        truck.id,
        compose(forklift, { variant: truck.variant!, features: truck.features }),
      ]),
    );
    const evaluate = (
      person: DemoPerson,
      skill: Skill,
      on: PlainDate,
      earlier: string[],
      planting: number,
      sign = true,
    ): DemoEvaluation => {
      const truck = pick(trucks.slice(0, 8));
      const pack = composed.get(truck.id)!;
      const start = random() < 0.75 ? skill.start : pick(ring);
      const startedAt = `${on}T${String(8 + Math.floor(random() * 7)).padStart(2, '0')}:${String(Math.floor(random() * 60)).padStart(2, '0')}:00.000Z`;
      const planted = proposePlants(pack, planting, Math.floor(random() * 1e9)).map((each) => each.id);
      const events = simulateEvaluation(
        pack,
        { ...skill, start },
        { startedAt, planted, random, earlierStarts: earlier, sign },
      );
      const made: DemoEvaluation = {
        id: newId(startedAt),
        personId: person.id,
        unitId: truck.id,
        trainer: pick(TRAINERS)[1],
        composition: { variant: truck.variant!, features: truck.features },
        conditions: pick([
          'Dry, good light',
          'Light rain, wet apron',
          'Indoors',
          'Low sun from the south',
          'Windy, cold start',
        ]),
        createdAt: startedAt,
        earlierStarts: [...earlier],
        events,
      };
      evaluations.push(made);
      earlier.unshift(start);
      return made;
    };
    drivers.forEach((person, i) => {
      const level = ((i * 7) % drivers.length) / (drivers.length - 1);
      const skill: Skill = {
        thorough: 0.55 + 0.45 * level,
        sharp: 0.45 + 0.55 * ((level * 3 + 0.4) % 1),
        grading: 0.35 + 0.65 * ((level * 5 + 0.2) % 1),
        pace: 0.1 + 0.9 * level,
        start: ring[i % 3 === 0 ? 0 : i % 3 === 1 ? 7 : 4] ?? ring[0]!,
      };
      const earlier: string[] = [];
      if (i === 2) {
        certify(person.id, forklift.id, addDays(today, -24), { kind: 'training-started' });
        certify(person.id, forklift.id, addDays(today, -10), { kind: 'theory-passed' });
        return;
      }
      if (i === 5)
        certify(person.id, forklift.id, addDays(addMonths(today, -36), -47), {
          kind: 'certificate-recorded',
          words: 'card shown, kept on paper before',
        });
      else if (i === 7)
        certify(person.id, forklift.id, addDays(addMonths(today, -36), 22), {
          kind: 'certificate-recorded',
          words: 'card shown, kept on paper before',
        });
      else if (i === 11)
        certify(person.id, forklift.id, addDays(addMonths(today, -36), 51), {
          kind: 'certificate-recorded',
          words: 'card shown, kept on paper before',
        });
      else {
        const rounds = 1 + Math.floor(random() * 3);
        let now = i === 4 ? { ...skill, thorough: 0.97, sharp: 0.97, grading: 0.95 } : skill;
        for (let k = 0; k < rounds; k++) {
          const passed = () =>
            evaluations
              .at(-1)!
              .events.some((each) => each.body.kind === 'decided' && each.body.outcome === 'competent');
          let on = addDays(opening, Math.floor(((k + random()) / rounds) * 470));
          evaluate(person, now, on, earlier, 3 + Math.floor(random() * 3));
          // Who does not pass is taught and evaluated again some weeks later; one is still waiting for it.
          for (let tries = 0; tries < 4 && !passed() && i !== 14; tries++) {
            now = {
              ...now,
              thorough: Math.min(0.99, now.thorough + 0.12),
              sharp: Math.min(0.99, now.sharp + 0.18),
              grading: Math.min(0.97, now.grading + 0.1),
            };
            on = addDays(on, 12 + Math.floor(random() * 14));
            if (on < today) evaluate(person, now, on, earlier, 3 + Math.floor(random() * 2));
          }
        }
      }
      if (i === 4)
        certify(person.id, forklift.id, addDays(today, -9), {
          kind: 'trigger',
          trigger: 'incident',
          words: 'rack leg struck on a reverse turn, nobody hurt',
        });
      if (i % 3 !== 0)
        certify(person.id, forklift.id, addDays(today, -Math.floor(30 + random() * 300)), {
          kind: 'familiarised',
          unit: trucks[(i * 2) % 8]!.name,
        });
    });
    const unfinished = drivers[9];
    if (unfinished) {
      const made = evaluate(
        unfinished,
        { thorough: 0.8, sharp: 0.7, grading: 0.7, pace: 0.7, start: ring[0]! },
        addDays(today, -1),
        [],
        4,
        false,
      );
      const ended = made.events.findIndex((each) => each.body.kind === 'round-ended');
      made.events = made.events.filter(
        (each, k) =>
          k <= ended ||
          (each.body.kind === 'retrieved' &&
            made.events.filter((x) => x.body.kind === 'retrieved').indexOf(each) < 2),
      );
      made.trainer = 'hilda';
    }
  }
  evaluations.sort((a, b) => (a.createdAt < b.createdAt ? -1 : 1));
  certifications.sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));

  return {
    organisation: 'Skerrow Sound Harbour & Airfield Trust',
    timeZone: 'Europe/London',
    classes: CLASSES.map(([id, title, family]) => ({ id, title, family })),
    people,
    accounts: [
      ...TRAINERS.map(([name, login]) => ({
        name,
        login,
        role: 'trainer' as const,
        team: null,
        personId: null,
      })),
      ...SUPERVISORS.map(([name, login, team]) => ({
        name,
        login,
        role: 'supervisor' as const,
        team,
        personId: null,
      })),
      ...FITTERS.map(([name, login]) => ({
        name,
        login,
        role: 'workshop' as const,
        team: null,
        personId: null,
      })),
      { name: 'Una Fethaland', login: 'una', role: 'administrator', team: null, personId: null },
      {
        name: `${people[0]!.givenName} ${people[0]!.familyName}`,
        login: 'isla',
        role: 'operator',
        team: null,
        personId: people[0]!.id,
      },
    ],
    units,
    certifications,
    choices: SCHOOL_CHOICES.filter(([classId]) => packs.some((each) => each.id === classId)).map(
      ([classId, site, schoolId, optionId, reason, by, monthsAgo]) => ({
        classId,
        site,
        schoolId,
        optionId,
        reason,
        by,
        chosenAt: `${addMonths(today, -monthsAgo)}T09:20:00.000Z`,
      }),
    ),
    evaluations,
  };
}
