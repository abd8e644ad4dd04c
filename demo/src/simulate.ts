import { type Checkpoint, type EffectivePack, GRADES, type Method, severity } from '@rounds/core/catalogue';
import {
  appraise,
  type EvaluationEvent,
  type EvaluationEventBody,
  foldEvaluation,
  proceduresOf,
  type Recording,
  scoredByTrainer,
  SEQUENCE_PARTS,
} from '@rounds/core/evaluation';
import { runEvents, simulateRun } from './simulateRun';
import { honestSeconds, namedMethod, needsLiveMachine, walkingLine } from '@rounds/core/round';

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
  /** Leaves nothing out. */
  thorough: number;
  /** Uses the hands where the eye finds nothing. */
  hands: number;
  /** Sees what is wrong. */
  sharp: number;
  /** Grades it right. */
  grading: number;
  /** Takes an honest time. */
  pace: number;
  /** The station the round begins at. */
  start: string;
}

/** What else bears on how an evaluation comes out. */
export interface Circumstances {
  startedAt: string;
  planted: readonly string[];
  random: () => number;
  earlierStarts: readonly string[];
  recording?: Recording;
  /** Chance that whoever would find a fault passes it by, by fault. */
  hard?: Readonly<Record<string, number>>;
  /** How mild the trainer is: the chance that a prompt is not written down. */
  mild?: number;
  sign?: boolean;
  /** Whether start and stop were stamped step by step, rather than scored by the trainer. */
  stamped?: boolean;
}

const SIGNATURE = 'M40 130L70 60L95 140L120 70L150 130L190 90L230 125L280 80L330 120L400 95L470 110';

/** The stations a round goes through: what lies before it, the ring from its start, then what lies off it. */
function stationsInOrder(pack: EffectivePack, start: string): string[] {
  const ring = walkingLine(pack.plan).ring.map((each) => each.id);
  const first = Math.max(0, ring.indexOf(start));
  const before = pack.plan.stations.filter((each) => each.id === 'site').map((each) => each.id);
  const off = pack.plan.stations
    .filter((each) => !each.at && !before.includes(each.id))
    .map((each) => each.id);
  const inUse = (station: string) =>
    pack.checkpoints.some((each) => each.station === station || each.alsoAt?.includes(station));
  return [...before, ...ring.slice(first), ...ring.slice(0, first), ...off].filter(inUse);
}

/**
 * Events of a whole evaluation as an operator of the given skill would produce them, up to both signatures. A
 * skill above 1 leaves nothing to chance.
 */
export function simulateEvaluation(
  pack: EffectivePack,
  skill: Skill,
  given: Circumstances,
): EvaluationEvent[] {
  const { random } = given;
  const byException = given.recording === 'by-exception';
  const nextId = seededIds(random);
  const events: EvaluationEvent[] = [];
  let clock = Date.parse(given.startedAt);
  const wait = (seconds: number) => (clock += Math.round(seconds * 1000));
  const add = (body: EvaluationEventBody, seconds = 0) => {
    wait(seconds);
    const at = new Date(clock).toISOString();
    events.push({ id: nextId(at), at, body });
  };
  const missedBy = (fault: { id: string; grade: string }) =>
    fault.grade === 'sound'
      ? random() > 0.25 * (1 - skill.sharp)
      : random() > 0.3 + 0.68 * skill.sharp || random() < (given.hard?.[fault.id] ?? 0);
  const report = (check: Checkpoint, fault: EffectivePack['faults'][number], prompted: boolean) => {
    const right = random() < 0.4 + 0.58 * skill.grading;
    const off = severity(fault.grade) + (random() < 0.7 ? -1 : 1);
    const grade = right ? fault.grade : GRADES[Math.max(1, Math.min(3, off))]!;
    const lookalike = fault.grade === 'sound';
    add(
      {
        kind: 'reported',
        checkpoint: check.id,
        fault: lookalike ? null : fault.id,
        grade: lookalike ? 'watch' : grade,
        prompted,
        real: false,
      },
      8,
    );
  };
  const methodOf = (check: Checkpoint): Method =>
    random() < 0.35 + 0.62 * skill.hands || !check.methods.includes('look')
      ? namedMethod(pack, check)
      : 'look';

  /** One check, made or left out; answers whether it was made. */
  const look = (check: Checkpoint): void => {
    const roll = random();
    const done = 0.45 + 0.53 * skill.thorough;
    const seen = roll < done ? 'done' : roll < done + (1 - done) * 0.4 ? 'prompted' : 'missed';
    const result = seen === 'prompted' && random() < (given.mild ?? 0) ? 'done' : seen;
    if (result === 'missed') {
      if (byException || random() < 0.5) add({ kind: 'checked', checkpoint: check.id, result }, 2);
      return;
    }
    const method = methodOf(check);
    wait(honestSeconds(check) * (0.55 + 0.75 * skill.pace) * (0.85 + 0.3 * random()));
    if (!byException || result !== 'done' || method !== namedMethod(pack, check))
      add({ kind: 'checked', checkpoint: check.id, result, method });
    const here = given.planted.flatMap(
      (id) => pack.faults.find((each) => each.id === id && each.checkpoint === check.id) ?? [],
    );
    for (const fault of here) if (!missedBy(fault)) report(check, fault, result === 'prompted');
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
  };

  for (const fault of given.planted) add({ kind: 'planted', fault }, 40);
  add({ kind: 'round-started', ...(given.recording ? { recording: given.recording } : {}) }, 120);
  for (const station of stationsInOrder(pack, skill.start)) {
    const onRing = pack.plan.stations.find((each) => each.id === station)!.at !== undefined;
    if (random() > 0.35 + 0.65 * skill.thorough && onRing && random() < 0.15) continue;
    add({ kind: 'arrived', station }, 4 + 4 * random());
    const checks = pack.checkpoints.filter((each) => each.station === station);
    checks.forEach(look);
    if (byException && checks.some(needsLiveMachine)) add({ kind: 'station-done', station }, 1);
  }
  add({ kind: 'round-ended' }, 20);
  if (given.stamped)
    for (const part of SEQUENCE_PARTS) {
      const procedures = proceduresOf(pack, part);
      if (procedures.length === 0) continue;
      wait(90);
      const trace = simulateRun(pack, procedures, { sure: 0.55 + 0.43 * skill.thorough, random });
      const run = runEvents(trace, procedures, part, clock, nextId);
      events.push(...run.events);
      clock = run.over;
    }
  const record = foldEvaluation(events);
  for (const criterion of pack.sheet.sections.flatMap((section) => section.criteria)) {
    if (!scoredByTrainer(criterion, record)) continue;
    const roll = random();
    const done = 0.6 + 0.4 * (skill.thorough * 0.5 + skill.sharp * 0.3 + skill.grading * 0.2);
    const seen = roll < done ? 'done' : roll < done + (1 - done) * 0.7 ? 'prompted' : 'not';
    const result = seen === 'prompted' && random() < (given.mild ?? 0) ? 'done' : seen;
    add({ kind: 'scored', criterion: criterion.id, result }, 60 + 120 * random());
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
