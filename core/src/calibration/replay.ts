import {
  type Checkpoint,
  type EffectivePack,
  type Fault,
  type Grade,
  GRADES,
  type Method,
  severity,
} from '../catalogue';
import { proceduresOf } from '../evaluation';
import { GRADE_WORDS } from '../grading';
import { allowedOrder, session, type SessionStep, timingSeconds } from '../procedure';
import { ableMethodsOf, honestSeconds, namedMethod, walkingOrder } from '../round';
import { seededRandom, shuffled } from '../statistics';
import { calibrate, type Calibration } from './calibrate';

/** What an evaluator gives for a criterion of a replayed round. */
export const REPLAY_SCORES = ['done', 'prompted', 'not'] as const;
export type ReplayScore = (typeof REPLAY_SCORES)[number];

/** What a criterion is about: a check, a planted fault, a step of the start. */
export const REPLAY_SECTIONS = ['checks', 'findings', 'start'] as const;
export type ReplaySection = (typeof REPLAY_SECTIONS)[number];

/** Something that is seen or heard in a replayed round. */
export interface ReplayMoment {
  /** Seconds since it began. */
  at: number;
  /** Where the operator is; null at the controls. */
  station: string | null;
  /** The part or step that it is about; null on the way. */
  about: string | null;
  says: string;
}

/** What is scored, with what the key gives for it and why. */
export interface ReplayCriterion {
  id: string;
  section: ReplaySection;
  station: string | null;
  title: string;
  /** What is asked for. */
  says: string;
  /** Of a planted fault, how bad it is. */
  grade: Grade | null;
  key: ReplayScore;
  why: string;
}

/** A recorded run of a scripted operator, and how it is to be scored. */
export interface ReplayedRound {
  moments: ReplayMoment[];
  criteria: ReplayCriterion[];
  /** How long it lasts in time. */
  seconds: number;
}

/** How much of a class a replay goes through. */
export const REPLAY_LENGTHS = ['short', 'whole'] as const;
export type ReplayLength = (typeof REPLAY_LENGTHS)[number];
const MOST: Readonly<Record<ReplayLength, { checks: number; faults: number; steps: number }>> = {
  short: { checks: 16, faults: 4, steps: 8 },
  whole: { checks: 60, faults: 10, steps: 24 },
};

const DOES: Readonly<Record<Method, string>> = {
  look: 'stops and looks it over',
  touch: 'feels it all over with the hand',
  press: 'presses it',
  pull: 'pulls at it',
  turn: 'turns it',
  wipe: 'wipes it and looks again',
  operate: 'works it through its whole travel',
  listen: 'stands still and listens',
  smell: 'leans in and smells',
  measure: 'measures it',
  read: 'reads it off',
};

/** How an operator comes to a check, or does not. */
type Habit = 'own' | 'returns' | 'asks' | 'prompted' | 'look-only' | 'claims' | 'passes';
/** Of ten checks. Four or five are made unprompted, so that nothing is right for whoever always gives the same. */
const HABITS: readonly Habit[] = [
  'own',
  'prompted',
  'passes',
  'own',
  'look-only',
  'returns',
  'prompted',
  'claims',
  'asks',
  'prompted',
];
const MADE: ReadonlySet<Habit> = new Set(['own', 'returns', 'asks', 'prompted']);
/** What becomes of a planted fault at a check that was made. */
type Fate = 'found' | 'too-low' | 'unseen' | 'asked';
const FATES: readonly Fate[] = ['found', 'too-low', 'asked', 'unseen'];
type StepHabit = 'own' | 'prompted' | 'breaks-off' | 'hurried' | 'left-out';
const STEP_HABITS: readonly StepHabit[] = ['own', 'prompted', 'left-out', 'own', 'breaks-off'];

/** As many of a list as wanted, taken in turn from a shuffled round of it. */
function inTurn<T>(list: readonly T[], wanted: number, random: () => number): T[] {
  return shuffled(
    Array.from({ length: wanted }, (_, i) => list[i % list.length]!),
    random,
  );
}

/** Some of a list, in the order of the list. */
function some<T>(list: readonly T[], most: number, random: () => number): T[] {
  const kept = new Set(shuffled(list, random).slice(0, most));
  return list.filter((each) => kept.has(each));
}

/** Records what is seen and what it is worth. */
class Recorder {
  readonly moments: ReplayMoment[] = [];
  readonly criteria: ReplayCriterion[] = [];
  clock = 0;
  station: string | null = null;

  see(says: string, about: string | null = null, seconds = 4): void {
    this.moments.push({ at: Math.round(this.clock), station: this.station, about, says });
    this.clock += seconds;
  }
}

/**
 * A round of a scripted operator who does some of it well: checks made, made only after a word, made by the eye where
 * the hand is needed, claimed or passed by; planted faults found, graded too low or not seen; then steps of the start.
 * Pure: the same class and seed give the same round. What it is worth follows the rules of a practical evaluation: of
 * one's own accord and by a method that can find a fault is done, after a word prompted, anything else not.
 */
export function recordReplay(
  pack: EffectivePack,
  { seed, length }: { seed: number; length: ReplayLength },
): ReplayedRound {
  const random = seededRandom(seed);
  const most = MOST[length];
  const walk = walkingOrder(pack).map(({ station, checks }) => ({
    station,
    checks: checks.filter((each) => each.station === station.id),
  }));
  const all = walk.flatMap((each) => each.checks);
  const faulty = (check: Checkpoint) =>
    pack.faults.filter((each) => each.checkpoint === check.id && each.grade !== 'sound');
  const chosen = some(
    all.filter((each) => faulty(each).length > 0),
    most.checks,
    random,
  );
  const habits = new Map(
    inTurn(HABITS, chosen.length, random).map((habit, i) => {
      const check = chosen[i]!;
      const eyeSuffices = ableMethodsOf(pack, check).includes('look');
      return [check.id, habit === 'look-only' && eyeSuffices ? 'own' : habit] as const;
    }),
  );
  const made = chosen.filter((each) => MADE.has(habits.get(each.id)!));
  const planted = new Map(
    some(made, most.faults, random).map((check) => {
      const list = faulty(check);
      return [check.id, list[Math.floor(random() * list.length)]!] as const;
    }),
  );
  const fates = inTurn(FATES, planted.size, random);
  const record = new Recorder();
  const late: { check: Checkpoint; from: string }[] = [];
  const check = (each: Checkpoint) => {
    const fault = planted.get(each.id) ?? null;
    const fate = fault ? fates[[...planted.keys()].indexOf(each.id)]! : null;
    atCheck(record, pack, each, { habit: habits.get(each.id)!, fault, fate });
  };
  for (const { station, checks } of walk) {
    const here = checks.filter((each) => habits.has(each.id));
    if (here.length === 0) continue;
    record.station = station.id;
    record.see(`Goes to: ${station.name}.`, null, 5);
    for (const each of here) {
      if (habits.get(each.id) === 'returns') late.push({ check: each, from: station.name });
      else check(each);
    }
    // What was left out comes to mind a station later.
    while (late.length > 0 && late[0]!.from !== station.name) goBack(record, late.shift()!, check);
  }
  for (const each of late) goBack(record, each, check);
  atStart(record, pack, most.steps, random);
  const places = new Map(all.map((each, i) => [each.id, i]));
  const place = ({ section, id }: ReplayCriterion) =>
    section === 'checks' ? (places.get(id) ?? 0) : Number.MAX_SAFE_INTEGER;
  return {
    moments: record.moments,
    criteria: record.criteria
      .map((each, i) => ({ each, i }))
      .sort(
        (a, b) =>
          REPLAY_SECTIONS.indexOf(a.each.section) - REPLAY_SECTIONS.indexOf(b.each.section) ||
          place(a.each) - place(b.each) ||
          a.i - b.i,
      )
      .map(({ each }) => each),
    seconds: Math.round(record.clock),
  };
}

function goBack(
  record: Recorder,
  { check, from }: { check: Checkpoint; from: string },
  make: (check: Checkpoint) => void,
): void {
  const before = record.station;
  record.station = check.station;
  record.see(`Stops, turns round and walks back to: ${from}. Nobody has said a word.`, null, 6);
  make(check);
  record.station = before;
}

function atCheck(
  record: Recorder,
  pack: EffectivePack,
  check: Checkpoint,
  { habit, fault, fate }: { habit: Habit; fault: Fault | null; fate: Fate | null },
): void {
  const shows = fault?.cues.map((each) => each.method) ?? [];
  const method = ableMethodsOf(pack, check).find((each) => shows.includes(each)) ?? namedMethod(pack, check);
  const does = DOES[method];
  const { part } = check;
  const seconds = Math.min(20, honestSeconds(check));
  const [key, why] = ((): [ReplayScore, string] => {
    switch (habit) {
      case 'own':
        record.see(`The operator ${does}.`, part, seconds);
        return ['done', 'Done unprompted, by a method that can find a fault here.'];
      case 'returns':
        record.see(`The operator ${does}.`, part, seconds);
        return ['done', 'Came back to it unprompted: late, but done.'];
      case 'asks':
        record.see('“Shall I do this one too?” You do not answer.', part, 4);
        record.see(`The operator ${does}.`, part, seconds);
        return ['done', 'A question that nobody answers is no prompt: done.'];
      case 'prompted':
        record.see('You say: “Anything else here?”', part, 4);
        record.see(`The operator ${does}.`, part, seconds);
        return ['prompted', 'Done only after a word from you.'];
      case 'look-only':
        record.see('The operator glances at it and nods.', part, 5);
        return ['not', `A look finds no fault here; it takes ${ableMethodsOf(pack, check).join(' or ')}.`];
      case 'claims':
        record.see('“That one is fine,” says the operator, walking by.', part, 3);
        return ['not', 'Said, not done.'];
      case 'passes':
        return ['not', 'Passed by without a check.'];
    }
  })();
  const criterion = { section: 'checks', station: check.station, grade: null } as const;
  record.criteria.push({ ...criterion, id: check.id, title: part, says: check.sound, key, why });
  if (fault && fate) atFault(record, check, fault, fate, habit === 'prompted');
}

function atFault(
  record: Recorder,
  { station, part }: Checkpoint,
  fault: Fault,
  fate: Fate,
  prompted: boolean,
): void {
  const lower = GRADES[Math.max(0, severity(fault.grade) - 1)]!;
  const said = (grade: Grade) => `“${fault.title}. I call that ${GRADE_WORDS[grade].toLowerCase()}.”`;
  const [key, why] = ((): [ReplayScore, string] => {
    switch (fate) {
      case 'found':
        record.see(said(fault.grade), part, 6);
        return prompted
          ? ['prompted', 'Found and graded right, but only once you had asked about this part.']
          : ['done', 'Found unprompted and graded right.'];
      case 'too-low':
        record.see(said(lower), part, 6);
        return ['not', `Seen, but graded ${lower}: it is ${fault.grade}.`];
      case 'asked':
        record.see('You say: “Are you happy with it?”', part, 4);
        record.see(said(fault.grade), part, 6);
        return ['prompted', 'Named and graded right only after you asked.'];
      case 'unseen':
        record.see('The operator says nothing and goes on.', part, 3);
        return ['not', 'Not named at all.'];
    }
  })();
  record.criteria.push({
    id: `fault:${fault.id}`,
    section: 'findings',
    station,
    title: `${part}: ${fault.title}`,
    says: 'Found and graded right, of the operator’s own accord',
    grade: fault.grade,
    key,
    why,
  });
}

/** A stretch of the start, in an allowed order. */
function atStart(record: Recorder, pack: EffectivePack, most: number, random: () => number): void {
  const own = session(pack, proceduresOf(pack, 'start'));
  // A step whose words come twice could not be told from the other.
  const order = allowedOrder(own).filter(
    (each, i, all) => all.findIndex((other) => other.do === each.do) === i,
  );
  const from = Math.floor(random() * Math.max(1, order.length - most + 1));
  const steps = order.slice(from, from + most);
  if (steps.length === 0) return;
  record.station = null;
  record.see('Now the start.', null, 10);
  const habits = inTurn(STEP_HABITS, steps.length, random);
  steps.forEach((step, i) =>
    atStep(record, step, waitOf(step) && habits[i] !== 'own' ? 'hurried' : habits[i]!),
  );
}

/** Seconds that a step waits; 0 where it waits for nothing. */
const waitOf = ({ timing }: SessionStep): number =>
  timing?.means === 'dwell' ? (timingSeconds(timing.least, timing.unit) ?? 0) : 0;

function atStep(record: Recorder, step: SessionStep, habit: StepHabit): void {
  const wait = waitOf(step);
  const waits = wait ? `, and waits ${Math.ceil(wait)} s` : '';
  const [key, why] = ((): [ReplayScore, string] => {
    switch (habit) {
      case 'own':
        record.see(`The operator does it${waits}.`, step.do, 6 + Math.min(wait, 20));
        return ['done', 'Done unprompted.'];
      case 'prompted':
        record.see('You say: “Before you go on?”', step.do, 4);
        record.see(`The operator does it${waits}.`, step.do, 6);
        return ['prompted', 'Done only after a word from you.'];
      case 'breaks-off':
        record.see('The operator begins it, and breaks off.', step.do, 5);
        return ['not', 'Begun, not done.'];
      case 'hurried':
        record.see(`The operator does it, and waits ${Math.floor(wait / 3)} s.`, step.do, 6);
        return ['not', `It takes at least ${Math.ceil(wait)} s.`];
      case 'left-out':
        return ['not', 'Left out.'];
    }
  })();
  record.criteria.push({
    id: `step:${step.id}`,
    section: 'start',
    station: null,
    title: step.do,
    says: wait ? `At least ${Math.ceil(wait)} s` : (step.why ?? ''),
    grade: null,
    key,
    why,
  });
}

/** What evaluators gave for the criteria of a replay, by criterion. */
export interface ReplayScores {
  evaluator: string;
  scores: Readonly<Record<string, ReplayScore>>;
}

/** What a score earns where a prompt earns `promptCredit`. */
export const replayCredit = (score: ReplayScore, promptCredit: number): number =>
  score === 'done' ? 1 : score === 'prompted' ? promptCredit : 0;

/** How evaluators who scored a replay stand to its key and to each other. */
export function calibrateReplay(
  criteria: readonly Pick<ReplayCriterion, 'id' | 'section' | 'key'>[],
  evaluators: readonly ReplayScores[],
  promptCredit: number,
): Calibration {
  return calibrate(
    criteria.map(({ id, section, key }) => ({ id, section, key: replayCredit(key, promptCredit) })),
    evaluators.map(({ evaluator, scores }) => ({
      evaluator,
      credits: criteria.map(({ id }) => (scores[id] ? replayCredit(scores[id], promptCredit) : null)),
    })),
  );
}
