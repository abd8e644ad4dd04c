import { addDays, addMonths, type PlainDate } from '@rounds/core/calendar';
import type { Composition, Pack } from '@rounds/core/catalogue';
import type { CertificationEventBody } from '@rounds/core/certification';
import { type EvaluationEvent } from '@rounds/core/evaluation';
import { seededRandom } from '@rounds/core/statistics';
import { evaluationsOfOtherClasses, forkliftEvaluations } from './evaluations';
import { type DemoExercise, exercises } from './exercises';
import { calibrations, type DemoCalibration } from './calibrations';
import { benches, type DemoBench, type DemoPolicy, policyLines } from './benches';
import { type DemoDrill, drills } from './drills';
import { type DemoPlan, type DemoSet, keptLessons, practiceSets } from './teaching';
import { practices } from './practices';
import { CLASSES, FITTERS, OPERATORS, SCHOOL_CHOICES, SUPERVISORS, TEAMS, TRAINERS } from './names';
import { seededIds } from './simulate';

export { type Circumstances, seededIds, simulateEvaluation, type Skill } from './simulate';

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
  /** Practices of start and stop beside the machine. */
  practices: DemoEvaluation[];
  /** Walk-round drills. */
  drills: DemoDrill[];
  /** Findings that were graded, and what a site grades higher. */
  benches: DemoBench[];
  policy: DemoPolicy[];
  /** Replayed rounds that the trainers scored. */
  calibrations: DemoCalibration[];
  /** Class exercises that were held. */
  exercises: DemoExercise[];
  /** Lessons kept to be given again. */
  plans: DemoPlan[];
  /** Drills set to do by a day. */
  sets: DemoSet[];
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

  const history = { packs, people, units, today, opening, random, newId, certify };
  evaluations.push(...forkliftEvaluations(history), ...evaluationsOfOtherClasses(history));
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
    practices: practices(history),
    drills: drills(history),
    plans: keptLessons(history),
    sets: practiceSets(history),
    benches: benches(history),
    policy: policyLines(history),
    calibrations: calibrations(history),
    exercises: exercises(history),
  };
}
