import { GRADES, METHODS, READY_PARTS } from '@rounds/core/catalogue';
import { DRILL_FORMS, drillActSchema, MOST_ACTS } from '@rounds/core/drill';
import { DESK_PROGRAMS } from '@rounds/core/machine';
import { z } from 'zod';
import { byId, done, instant, line, office, plainDate, readers, trainers, uuid } from './fields';
import { route } from './route';

/** Practice by oneself: the walk-round drill, what is remembered, and who is ready for an assessment. */

/** Who practises: everybody who teaches or operates. */
export const drillers = ['trainer', 'administrator', 'operator'] as const;

/** A method used on a part, and what it showed. */
const reading = z.object({
  checkpoint: z.string(),
  method: z.enum(METHODS),
  counts: z.boolean(),
  unmet: z.array(z.string()),
  shows: z.string().nullable(),
  /** The same drawn: a kind of evidence and its parameters. */
  drawing: z.object({ kind: z.string(), params: z.record(z.string(), z.unknown()) }).nullable(),
  at: z.number(),
});

/** A drill as its learner sees it. Nothing in it tells what a part hides before a method has shown it. */
const drillProgress = z.object({
  station: z.string().nullable(),
  /** Conditions that hold. */
  holding: z.array(z.string()),
  /** Stations in the order reached. */
  arrivals: z.array(z.string()),
  readings: z.array(reading),
  calls: z.array(z.object({ checkpoint: z.string(), grade: z.enum(GRADES) })),
  /** Seconds of the drill, in which every check lasts as long as it must. */
  seconds: z.number(),
  waited: z.number(),
  ended: z.boolean(),
});
export type DrillProgress = z.infer<typeof drillProgress>;

export const drillView = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  variant: z.string(),
  form: z.enum(DRILL_FORMS),
  /** Whom it counts for; null for a try-out that counts for nobody. */
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  startedAt: instant,
  /** Plan of the class: outlines and stations (a Plan of the core). */
  plan: z.unknown(),
  stations: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      order: z.string(),
      onLine: z.boolean(),
      parts: z.array(
        z.object({
          id: z.string(),
          part: z.string(),
          methods: z.array(z.enum(METHODS)),
          seconds: z.number(),
        }),
      ),
    }),
  ),
  conditions: z.array(
    z.object({ name: z.string(), conditions: z.array(z.object({ id: z.string(), says: z.string() })) }),
  ),
  progress: drillProgress,
});
export type DrillView = z.infer<typeof drillView>;

/** What became of a drill. */
export const drillOutcome = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  form: z.enum(DRILL_FORMS),
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  endedAt: instant,
  /** A DrillResult of the core. */
  result: z.unknown(),
  stations: z.array(z.object({ id: z.string(), name: z.string() })),
  plan: z.unknown(),
  /** Why it does not meet what the class asks before an assessment; empty where it does. */
  unmet: z.array(z.string()),
  /** Earlier scores of the same person, class and form, oldest first. */
  earlier: z.array(z.object({ endedAt: instant, score: z.number() })),
  /** It was made without a network and counts for nothing. */
  offline: z.boolean(),
});
export type DrillOutcome = z.infer<typeof drillOutcome>;

const answered = z.object({
  /** What the machine answered; null for other acts. */
  reading: reading.nullable(),
  /** Why a condition could not be brought about; null where it was. */
  refused: z.string().nullable(),
  progress: drillProgress,
});

/** A part of being ready for an assessment, and how far it is. */
const readyPart = z.object({ part: z.enum(READY_PARTS), met: z.boolean(), says: z.string() });

/** Practice of a person in a class. */
const classPractice = z.object({
  classId: z.string(),
  classTitle: z.string(),
  drills: z.number(),
  /** The latest drill; null where only other things were practised. */
  last: z.object({ id: uuid, endedAt: instant, score: z.number() }).nullable(),
  /** Scores of the drills over the whole round, oldest first. */
  trend: z.array(
    z.object({
      id: uuid,
      endedAt: instant,
      score: z.number(),
      chance: z.number(),
      /** How well bad was told from sound (d'); null where one of the two was not dealt. */
      dPrime: z.number().nullable(),
    }),
  ),
  /** Benches ended, findings graded on them, and how many of these as the key has them. */
  benches: z.number(),
  graded: z.number(),
  gradedRight: z.number(),
  lastBench: z.object({ id: uuid, endedAt: instant }).nullable(),
  /** Runs at the desk that were judged, and the latest of them. */
  desks: z.number(),
  lastDesk: z
    .object({
      id: uuid,
      endedAt: instant,
      program: z.enum(DESK_PROGRAMS),
      score: z.number(),
      critical: z.number(),
    })
    .nullable(),
  /** Sets of commands answered, the latest of them, and whether the last ones make ready for the controls. */
  commandSets: z.number(),
  lastCommands: z
    .object({
      id: uuid,
      endedAt: instant,
      calls: z.number(),
      right: z.number(),
      median: z.number().nullable(),
    })
    .nullable(),
  commandsReady: z.boolean(),
  /** Items practised, and those that should come back by now. */
  items: z.number(),
  due: z.number(),
  /** What goes wrong most: the part and what was wrong with it. */
  forgotten: z.array(z.object({ item: z.string(), says: z.string(), times: z.number(), wrong: z.number() })),
  /** Days on which a drill over the whole round met the class's criterion. */
  metOn: z.array(z.string()),
  /** What makes ready in this class, and whether all of it is met. */
  parts: z.array(readyPart),
  ready: z.boolean(),
});
export type ClassPractice = z.infer<typeof classPractice>;

/** A person in a class, as far as they have practised it. */
const practised = z.object({
  person: z.object({ id: uuid, name: z.string(), team: z.string() }),
  classId: z.string(),
  classTitle: z.string(),
  drills: z.number(),
  last: z.object({ id: uuid, endedAt: instant, score: z.number() }),
  parts: z.array(readyPart),
  ready: z.boolean(),
});

/** What can be set to somebody: a walk-round drill in one of its forms, findings to grade, a test at the desk, commands. */
export const SET_FORMS = [...DRILL_FORMS, 'bench', 'desk', 'commands'] as const;
export type SetForm = (typeof SET_FORMS)[number];
const setForm = z.enum(SET_FORMS);
/** What is done at the desk; null for everything else. */
const setProgram = z.enum(DESK_PROGRAMS).exclude(['free']).nullable();

/** Practice that a trainer has set, and how far it is done. */
const practiceSet = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  variant: z.string(),
  form: setForm,
  station: z.string().nullable(),
  program: setProgram,
  times: z.number(),
  done: z.number(),
  dueOn: plainDate,
  overdue: z.boolean(),
  by: z.string(),
});
export type PracticeSet = z.infer<typeof practiceSet>;

export const practiceRoutes = {
  setPractice: route({
    method: 'POST',
    path: '/practice/sets',
    summary: 'Set people what to practise by a day, so many times',
    roles: trainers,
    body: z.object({
      /** One number for each person, so that sent again nothing is set twice. */
      people: z
        .array(z.object({ id: uuid, personId: uuid }))
        .min(1, 'needs somebody')
        .max(200),
      classId: line.max(60),
      variant: line.max(60),
      form: setForm,
      /** Of the form "station". */
      station: line.max(60).nullable().default(null),
      /** Of the form "desk". */
      program: setProgram.default(null),
      times: z.number().int().min(1).max(20),
      dueOn: plainDate,
    }),
    answer: done,
    problems: ['not-found', 'composition', 'drill-act', 'desk-run', 'command-set'],
  }),
  dropPracticeSet: route({
    method: 'DELETE',
    path: '/practice/sets/:id',
    summary: 'Take back practice that was set',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found'],
  }),
  practiceOverview: route({
    method: 'GET',
    path: '/practice/overview',
    summary: 'Who practised what, the latest first, and what goes wrong most in a class',
    roles: office,
    query: z.object({ classId: z.string().max(60).optional() }),
    answer: z.object({
      rows: z.array(practised),
      /** Practice set and not done, of the people whom the caller may see, the first due first. */
      sets: z.array(practiceSet.extend({ person: z.object({ id: uuid, name: z.string() }) })),
      /** Of one class, what goes wrong most among its people; empty over all classes. */
      forgotten: z.array(
        z.object({
          item: z.string(),
          says: z.string(),
          times: z.number(),
          wrong: z.number(),
          people: z.number(),
        }),
      ),
    }),
    problems: ['not-found'],
  }),
  practiceClasses: route({
    method: 'GET',
    path: '/practice/classes',
    summary: 'Classes to practise, with their kinds and stations; nothing of their faults',
    roles: drillers,
    answer: z.object({
      classes: z.array(
        z.object({
          id: z.string(),
          title: z.string(),
          variants: z.array(z.object({ id: z.string(), name: z.string() })),
          stations: z.array(z.object({ id: z.string(), name: z.string(), parts: z.number() })),
          /** What can be practised at its desk; empty where it has none. */
          programs: z.array(z.enum(DESK_PROGRAMS)),
          /** Where its commands can be called, the place with the most of them first. */
          commandPlaces: z.array(z.object({ id: z.string(), name: z.string() })),
        }),
      ),
    }),
  }),
  keptClass: route({
    method: 'GET',
    path: '/practice/classes/:id/kept',
    summary: 'A class to keep on a device, so that its learner can practise without a network',
    roles: drillers,
    params: z.object({ id: line.max(60) }),
    query: z.object({ variant: line.max(60) }),
    /** An EffectivePack of the core, with the choices of the caller's site. */
    answer: z.object({ pack: z.unknown() }),
    problems: ['not-found', 'composition'],
  }),
  bringDrill: route({
    method: 'POST',
    path: '/practice/offline',
    summary: 'Bring in a drill made without a network: dealt and judged anew from its seed and acts',
    roles: drillers,
    body: z.object({
      id: uuid,
      packHash: z.string().regex(/^[0-9a-f]{64}$/),
      form: z.enum(DRILL_FORMS),
      station: line.max(60).nullable(),
      seed: z
        .number()
        .int()
        .min(0)
        .max(2 ** 31 - 1),
      startedAt: instant,
      acts: z.array(drillActSchema).min(1).max(MOST_ACTS),
      /** The score that the device showed; a drill that comes to another one is refused. */
      score: z.number(),
    }),
    answer: z.object({ id: uuid, score: z.number() }),
    problems: ['not-found', 'drill-act'],
  }),
  startDrill: route({
    method: 'POST',
    path: '/practice/drills',
    summary: 'Deal a drill, or answer with the same one that was dealt before',
    roles: drillers,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      variant: line.max(60),
      form: z.enum(DRILL_FORMS),
      station: line.max(60).nullable().default(null),
      /** Whom it counts for: an operator's own person; of a trainer somebody, or nobody for a try-out. */
      personId: uuid.nullable(),
    }),
    answer: drillView,
    problems: ['not-found', 'composition', 'forbidden', 'drill-act'],
  }),
  drill: route({
    method: 'GET',
    path: '/practice/drills/:id',
    summary: 'A drill as far as it has gone',
    roles: drillers,
    params: byId,
    answer: drillView,
    problems: ['not-found'],
  }),
  doDrillAct: route({
    method: 'POST',
    path: '/practice/drills/:id/acts',
    summary: 'Do one act of a drill: go, bring about, try, call, end',
    roles: drillers,
    params: byId,
    body: z.object({ id: uuid, act: drillActSchema }),
    answer: answered,
    problems: ['not-found', 'drill-act'],
  }),
  drillOutcome: route({
    method: 'GET',
    path: '/practice/drills/:id/result',
    summary: 'What became of a drill that has ended',
    roles: readers,
    params: byId,
    answer: drillOutcome,
    problems: ['not-found', 'not-complete'],
  }),
  personPractice: route({
    method: 'GET',
    path: '/practice/people/:id',
    summary:
      'What a person has practised, by class: trend, what is forgotten, what comes next, whether ready',
    roles: readers,
    params: byId,
    answer: z.object({
      person: z.object({ id: uuid, name: z.string() }),
      classes: z.array(classPractice),
      /** Drills made without a network, the latest first; they count for nothing. */
      offline: z.array(z.object({ id: uuid, classTitle: z.string(), endedAt: instant, score: z.number() })),
      /** Class exercises taken part in, the latest first. */
      exercises: z.array(
        z.object({
          id: uuid,
          title: z.string(),
          classTitle: z.string(),
          endedAt: instant,
          right: z.number(),
          of: z.number(),
        }),
      ),
      /** Practice set and not done, the first due first. */
      sets: z.array(practiceSet),
      /** Drills and benches begun and not ended. */
      open: z.array(
        z.object({
          id: uuid,
          what: z.enum(['drill', 'bench', 'desk', 'commands']),
          classTitle: z.string(),
          startedAt: instant,
        }),
      ),
    }),
    problems: ['not-found'],
  }),
};
