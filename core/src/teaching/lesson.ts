import {
  type Checkpoint,
  conditionIn,
  type EffectivePack,
  type Fault,
  type Grade,
  type Method,
  METHOD_WORDS,
  type Procedure,
  severity,
  shownEvidence,
  timingFigures,
} from '../catalogue';
import type { Evidence } from '../drawing/evidence';
import { bringAbout, machineAtStart, revealingMethods, unmetConditions, waysTo } from '../drill';
import { GRADE_WORDS } from '../grading';
import { timingSeconds } from '../procedure';
import { honestSeconds, walkingOrder } from '../round';
import { capital } from '../text';

/** What a lesson is about. */
export const LESSON_SUBJECTS = ['round', 'startup', 'shutdown'] as const;
export type LessonSubject = (typeof LESSON_SUBJECTS)[number];
export const DIRECTIONS = ['clockwise', 'anticlockwise'] as const;
export type Direction = (typeof DIRECTIONS)[number];

/** One thing that a lesson shows. */
export interface LessonItem {
  kind: 'opening' | 'station' | 'check' | 'fault' | 'school' | 'step' | 'closing';
  /** Of the station, check, fault, school or step; '' for the opening and the closing. */
  id: string;
}

/** A lesson as it is planned: what it shows, in order. */
export interface LessonPlan {
  subject: LessonSubject;
  direction: Direction;
  /** Where the round begins; null for the first station of the class. */
  start: string | null;
  items: LessonItem[];
}

/** One thing shown: what the room sees large, and what the trainer has to say about it. */
export interface LessonSlide {
  item: LessonItem;
  /** Station of the ring that it belongs to; null off the round. */
  station: string | null;
  /** Conditions to bring about now, in words, because what follows counts only under them. */
  band: string[];
  /** What the room reads first: the part, the fault, the act. */
  heading: string;
  /** One sentence under it. */
  sentence: string;
  /** In point and call: what the learner points at and says. */
  call: string;
  /** A grade to show, of a fault. */
  grade: Grade | null;
  /** What is perceived by which method. */
  senses: { method: Method; shows: string; drawing: Evidence | null }[];
  /** How the part of a fault looks while it is sound, where both are drawn alike. */
  soundDrawing: Evidence | null;
  /** For the trainer: what to say, in order. */
  notes: { label: string; text: string }[];
  /** For the trainer: a question to the room, with its answer. */
  ask: { question: string; answer: string } | null;
  /** What it takes, in seconds. */
  seconds: number;
}

/** Seconds of talk for each thing shown (common practice). */
const TALK: Readonly<Record<LessonItem['kind'], number>> = {
  opening: 120,
  station: 15,
  check: 20,
  fault: 40,
  school: 60,
  step: 20,
  closing: 60,
};
/** A check is shown once and then done once by a learner. */
const TIMES_DONE = 2;
/** A wait of a procedure is told, not sat out, beyond this many seconds. */
const LONGEST_WAIT = 60;

/** What a lesson ends with (common practice). */
const CLOSING: Readonly<Record<LessonSubject, { heading: string; sentence: string }>> = {
  round: {
    heading: 'The ring is closed',
    sentence: 'Begin at the same place every day, and close the circle.',
  },
  startup: {
    heading: 'Ready to work',
    sentence: 'What a lamp, a gauge or a noise says otherwise: stop and report.',
  },
  shutdown: { heading: 'Left safe', sentence: 'Whoever comes next finds it down, off and unable to start.' },
};

const sentence = (text: string) => (/[.!?]$/.test(text) ? text : `${text}.`);

/** The stations in the order they are walked: either way round, from any start, each followed by what hangs from it. */
export function lessonStations(pack: EffectivePack, direction: Direction, start: string | null) {
  const order = walkingOrder(pack);
  const ring: (typeof order)[] = [];
  for (const each of order) {
    if (each.station.spurFrom && ring.length > 0) ring.at(-1)!.push(each);
    else ring.push([each]);
  }
  const first = Math.max(
    0,
    ring.findIndex((group) => group.some((each) => each.station.id === start)),
  );
  const turned = [...ring.slice(first), ...ring.slice(0, first)];
  const walked = direction === 'clockwise' ? turned : [turned[0]!, ...turned.slice(1).reverse()];
  return walked.flat();
}

const ownFaults = (pack: EffectivePack, check: Checkpoint): Fault[] =>
  pack.faults
    .filter((each) => each.checkpoint === check.id)
    .sort((a, b) => severity(b.grade) - severity(a.grade));

/** The procedure that a lesson on starting or stopping walks through. */
export function lessonProcedure(pack: EffectivePack, subject: LessonSubject): Procedure | null {
  if (subject === 'round') return null;
  return pack.procedures.find((each) => each.kind === subject) ?? null;
}

export interface LessonRequest {
  subject: LessonSubject;
  direction?: Direction;
  start?: string | null;
  /** About how long it may take; the lightest checks are left out to keep to it. */
  minutes?: number;
}

/**
 * Proposes a lesson: every station along the ring, the heaviest checks first until the minutes are used, with their
 * gravest fault and a lookalike; or every step of the start or the stop. What practitioners differ on comes at the end.
 */
export function proposeLesson(pack: EffectivePack, request: LessonRequest): LessonPlan {
  const { subject, direction = 'clockwise', start = null, minutes = 45 } = request;
  const plan = (items: LessonItem[]): LessonPlan => ({
    subject,
    direction,
    start,
    items: [{ kind: 'opening', id: '' }, ...items, { kind: 'closing', id: '' }],
  });
  const procedure = lessonProcedure(pack, subject);
  if (subject !== 'round')
    return plan((procedure?.steps ?? []).map((each): LessonItem => ({ kind: 'step', id: each.id })));
  const stations = lessonStations(pack, direction, start);
  let left =
    minutes * 60 -
    TALK.opening -
    TALK.closing -
    stations.length * TALK.station -
    pack.schools.length * TALK.school;
  const chosen = new Map<string, LessonItem[]>();
  const checks = stations
    .flatMap(({ station, checks: all }) => all.filter((each) => each.station === station.id))
    .sort((a, b) => b.weight - a.weight);
  for (const check of checks) {
    const faults = ownFaults(pack, check);
    const shown = [
      faults.find((each) => each.grade !== 'sound'),
      faults.find((each) => each.grade === 'sound'),
    ]
      .filter((each) => each !== undefined)
      .map((each): LessonItem => ({ kind: 'fault', id: each.id }));
    const items: LessonItem[] = [{ kind: 'check', id: check.id }, ...shown];
    const takes = honestSeconds(check) * TIMES_DONE + TALK.check + shown.length * TALK.fault;
    if (takes > left && chosen.size > 0) continue;
    left -= takes;
    chosen.set(check.id, items);
  }
  return plan([
    ...stations.flatMap(({ station, checks: all }) => {
      const own = all
        .filter((each) => each.station === station.id)
        .flatMap((each) => chosen.get(each.id) ?? []);
      return [{ kind: 'station', id: station.id } as const, ...own];
    }),
    ...pack.schools.map((each): LessonItem => ({ kind: 'school', id: each.id })),
  ]);
}

/** How long a planned lesson takes, in seconds. */
export function lessonSeconds(slides: readonly LessonSlide[]): number {
  return slides.reduce((sum, each) => sum + each.seconds, 0);
}

/**
 * What a lesson shows and says, thing by thing. A planned thing that this machine does not have is left out. Conditions
 * are called out where they first matter: before the first check that counts only under them.
 */
export function lessonSlides(pack: EffectivePack, plan: LessonPlan): LessonSlide[] {
  let machine = machineAtStart(pack);
  const blank = {
    station: null,
    band: [],
    call: '',
    grade: null,
    senses: [],
    soundDrawing: null,
    notes: [],
    ask: null,
  };
  const procedure = lessonProcedure(pack, plan.subject);
  const slide = (item: LessonItem): LessonSlide | null => {
    const seconds = TALK[item.kind];
    switch (item.kind) {
      case 'opening':
        return {
          ...blank,
          item,
          heading: pack.title,
          sentence: plan.subject === 'round' ? 'The walk-round' : (procedure?.title ?? ''),
          notes: [
            ...pack.cautions.map((each) => ({ label: each.point, text: each.detail })),
            { label: 'Wear', text: pack.ppe.join(', ') },
          ],
          seconds,
        };
      case 'station': {
        const station = pack.plan.stations.find((each) => each.id === item.id);
        if (!station) return null;
        return {
          ...blank,
          item,
          station: station.id,
          heading: station.name,
          sentence: station.looks ? sentence(capital(station.looks)) : '',
          seconds,
        };
      }
      case 'check': {
        const check = pack.checkpoints.find((each) => each.id === item.id);
        if (!check) return null;
        const band = unmetConditions(check, machine).map((each) => capital(conditionIn(pack, each)));
        for (const each of waysTo(pack, check, machine)) machine = bringAbout(pack, machine, each).state;
        return {
          ...blank,
          ...checkSlide(pack, check),
          item,
          band,
          seconds: seconds + honestSeconds(check) * TIMES_DONE,
        };
      }
      case 'fault': {
        const fault = pack.faults.find((each) => each.id === item.id);
        const check = pack.checkpoints.find((each) => each.id === fault?.checkpoint);
        return fault && check ? { ...blank, ...faultSlide(pack, check, fault), item, seconds } : null;
      }
      case 'school': {
        const school = pack.schools.find((each) => each.id === item.id);
        if (!school) return null;
        const option = school.options.find((each) => each.id === (pack.choices[school.id] ?? school.default));
        return {
          ...blank,
          item,
          heading: school.question,
          sentence: option ? sentence(`Here: ${option.says}`) : '',
          notes: school.options.map((each) => ({
            label: each.id === option?.id ? 'Here' : 'Elsewhere',
            text: each.says,
          })),
          seconds,
        };
      }
      case 'step': {
        const at = procedure?.steps.findIndex((each) => each.id === item.id) ?? -1;
        const step = procedure?.steps[at];
        if (!procedure || !step) return null;
        const { timing } = step;
        const wait = timing?.means === 'dwell' ? (timingSeconds(timing.least, timing.unit) ?? 0) : 0;
        const figures = timing ? timingFigures(timing) : '';
        return {
          ...blank,
          item,
          heading: step.do,
          sentence: timing ? sentence(capital(timing.says)) : step.why ? sentence(capital(step.why)) : '',
          call: step.do,
          notes: [
            {
              label: 'Step',
              text: `${at + 1} of ${procedure.steps.length}${step.critical ? ', critical' : ''}`,
            },
            ...(step.why ? [{ label: 'Why', text: step.why }] : []),
            ...(timing
              ? [
                  {
                    label: 'Time',
                    text: [timing.says, figures].filter(Boolean).join(' (') + (figures ? ')' : ''),
                  },
                ]
              : []),
            ...(step.ifFails ? [{ label: 'If not', text: step.ifFails }] : []),
          ],
          ask: step.why ? { question: 'Why now?', answer: step.why } : null,
          seconds: seconds + Math.min(LONGEST_WAIT, wait),
        };
      }
      case 'closing':
        return {
          ...blank,
          item,
          ...CLOSING[plan.subject],
          notes: [
            ...pack.teaching.watch.map((text) => ({ label: 'Watch for', text })),
            ...pack.cautions
              .filter((each) => each.kind === 'defer')
              .map((each) => ({ label: each.point, text: each.detail })),
          ],
          seconds,
        };
    }
  };
  return plan.items.flatMap((item) => slide(item) ?? []);
}

function checkSlide(pack: EffectivePack, check: Checkpoint) {
  const senses = check.methods.flatMap((method) => {
    const shows = check.appears[method];
    return shows ? [{ method, shows, drawing: shownEvidence(pack, check, null, method) }] : [];
  });
  const worst = ownFaults(pack, check).find((each) => each.grade !== 'sound');
  return {
    station: check.station,
    heading: check.part,
    sentence: sentence(capital(check.sound)),
    call: `${check.part}: ${check.sound}`,
    senses,
    notes: [
      { label: 'How', text: check.methods.map((each) => METHOD_WORDS[each]).join(', ') },
      { label: 'Sound when', text: check.sound },
      ...(check.gauges ?? []).map((gauge) => ({
        label: capital(gauge.quantity),
        text: [...(gauge.rising ?? []), ...(gauge.falling ?? [])]
          .map((limit) => `${limit.grade} at ${limit.at} ${gauge.unit}`.trim())
          .join(', '),
      })),
      ...(check.whenNote ? [{ label: 'When', text: check.whenNote }] : []),
    ],
    ask: worst
      ? { question: 'What would make you stop here?', answer: `${worst.title}: ${worst.why}` }
      : null,
  };
}

function faultSlide(pack: EffectivePack, check: Checkpoint, fault: Fault) {
  const shown = revealingMethods(check, fault).map((method) => ({
    method,
    shows: fault.cues
      .filter((each) => each.method === method)
      .map((each) => each.shows)
      .join(' '),
    drawing: shownEvidence(pack, check, fault, method),
  }));
  const drawn = shown.find((each) => each.drawing);
  const sound = drawn ? shownEvidence(pack, check, null, drawn.method) : null;
  return {
    station: check.station,
    heading: fault.title,
    sentence: sentence(capital(fault.do)),
    call: `${check.part}: ${fault.title}`,
    grade: fault.grade,
    senses: shown,
    soundDrawing: sound && sound.kind === drawn?.drawing?.kind ? sound : null,
    notes: [
      { label: 'Do', text: fault.do },
      { label: 'Why', text: fault.why },
      ...(fault.until ? [{ label: 'How far', text: fault.until.says }] : []),
      ...(fault.escalates ? [{ label: 'Becomes a stop', text: fault.escalates }] : []),
      ...(fault.plant
        ? [{ label: 'Show it by', text: fault.plant.how }]
        : fault.substitute
          ? [{ label: 'Show it by', text: fault.substitute }]
          : []),
    ],
    ask: {
      question: fault.grade === 'sound' ? 'Is that a fault?' : 'What grade, and what do you do?',
      answer: `${GRADE_WORDS[fault.grade]}. ${sentence(fault.do)}`,
    },
  };
}
