import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { forkliftPack } from '../testing';
import {
  appraise,
  checksAlsoAt,
  checksAt,
  type EvaluationEvent,
  type EvaluationEventBody,
  eventWords,
  faultNameIn,
  foldEvaluation,
  partStates,
  partToOpen,
  phaseOf,
  proposePlants,
  roundSeconds,
  stationMarks,
  stationsInUse,
  walkedMarks,
} from './index';

const pack = compose(forkliftPack(), { variant: 'diesel', features: {} });
const START = Date.parse('2026-03-02T08:00:00.000Z');
/** A record of these bodies, a minute apart. */
const record = (...bodies: EvaluationEventBody[]) =>
  foldEvaluation(
    bodies.map((body, i): EvaluationEvent & { by: string; account: string } => ({
      id: `01900000-0000-7000-8000-${String(i).padStart(12, '0')}`,
      at: new Date(START + i * 60_000).toISOString(),
      body,
      by: 'Hilda',
      account: 'a',
    })),
  );
const [plant] = proposePlants(pack, 1, 1);
const planted = { kind: 'planted', fault: plant!.id } as const;
const retrieved = { kind: 'retrieved', fault: plant!.id } as const;
const started = { kind: 'round-started' } as const;
const ended = { kind: 'round-ended' } as const;
const decided = { kind: 'decided', outcome: 'competent' } as const;
const signed = (role: 'trainer' | 'operator') =>
  ({ kind: 'signed', role, strokes: 'M60 120L140 60L220 140L330 70' }) as const;

describe('where an evaluation stands', () => {
  it('goes from prepared to closed in the order of the work', () => {
    expect(phaseOf(record())).toBe('prepared');
    expect(phaseOf(record(planted))).toBe('prepared');
    expect(phaseOf(record(planted, started))).toBe('running');
    expect(phaseOf(record(planted, started, ended))).toBe('retrieving');
    expect(phaseOf(record(planted, started, ended, retrieved))).toBe('reviewing');
    expect(phaseOf(record(started, ended, decided))).toBe('signing');
    expect(phaseOf(record(started, ended, decided, signed('trainer')))).toBe('signing');
    expect(phaseOf(record(started, ended, decided, signed('trainer'), signed('operator')))).toBe('closed');
  });
});

describe('the part that opens', () => {
  const open = { unscored: [pack.sheet.sections[0]!.criteria[0]!] } as never;
  const complete = { unscored: [] } as never;
  it('is where the trainer goes on: out with the planted faults before the score sheet', () => {
    expect(partToOpen(record(), open, true)).toBe('round');
    expect(partToOpen(record(started), open, true)).toBe('round');
    expect(partToOpen(record(planted, started, ended), open, true)).toBe('retrieve');
    expect(partToOpen(record(planted, started, ended, retrieved), open, true)).toBe('sheet');
    expect(partToOpen(record(started, ended), complete, true)).toBe('review');
    expect(partToOpen(record(started, ended, decided), complete, true)).toBe('sign');
  });
  it('is the review for who only reads, and for everybody once it is closed', () => {
    expect(partToOpen(record(started), open, false)).toBe('review');
    const closed = record(started, ended, decided, signed('trainer'), signed('operator'));
    expect(partToOpen(closed, complete, true)).toBe('review');
  });
  it('and how far each part is, in words', () => {
    expect(partStates(record(), open)).toMatchObject({
      round: 'to start',
      retrieve: 'none planted',
      sheet: '1 open',
    });
    expect(partStates(record(planted, started), null)).toMatchObject({
      round: 'under way',
      retrieve: '1 in',
    });
    const out = record(planted, started, ended, retrieved, decided);
    expect(partStates(out, complete)).toEqual({
      round: 'ended',
      retrieve: 'all out',
      start: '',
      sheet: 'complete',
      stop: '',
      review: '',
      sign: 'decided',
    });
  });
});

describe('the length of the round', () => {
  it('runs from its start to its end, or to now, and never backwards', () => {
    expect(roundSeconds(record(), START)).toBeNull();
    expect(roundSeconds(record(started), START + 90_000)).toBe(90);
    expect(roundSeconds(record(started), START - 90_000)).toBe(0);
    expect(roundSeconds(record(started, ended), START + 999_000)).toBe(60);
  });
});

describe('the marks of stations', () => {
  const station = stationsInUse(pack).find((id) => checksAt(pack, id).length > 1)!;
  const [first, ...others] = checksAt(pack, station);
  const checked = (checkpoint: string, result: 'done' | 'missed' = 'done') =>
    ({ kind: 'checked', checkpoint, result }) as const;
  it('are untouched, begun and complete as checks are looked at, however they went', () => {
    const mark = (...bodies: EvaluationEventBody[]) =>
      stationMarks(pack, record(started, ...bodies).round)[station];
    expect(mark()).toMatchObject({ done: 0, total: others.length + 1, state: 'untouched' });
    expect(mark(checked(first!.id, 'missed'))).toMatchObject({ done: 1, state: 'begun' });
    expect(mark(checked(first!.id), ...others.map((each) => checked(each.id, 'missed')))).toMatchObject({
      done: others.length + 1,
      state: 'complete',
    });
  });
  it('count the faults named at the station', () => {
    const reported = {
      kind: 'reported',
      checkpoint: first!.id,
      fault: null,
      grade: 'mend',
      prompted: false,
      real: true,
    } as const;
    expect(stationMarks(pack, record(started, reported).round)[station]).toMatchObject({ faults: 1 });
  });
  it('cover every station with something to look at, and no other', () => {
    const unused = pack.plan.stations.filter(
      ({ id }) => checksAt(pack, id).length + checksAlsoAt(pack, id).length === 0,
    );
    const marks = stationMarks(pack, record().round);
    expect(Object.keys(marks)).toEqual(stationsInUse(pack));
    for (const each of unused) expect(marks[each.id]).toBeUndefined();
  });
  it('after the round a station never reached is a gap, whatever was claimed there', () => {
    const walked = stationsInUse(pack).slice(0, 2);
    const events = [started, ...walked.map((each) => ({ kind: 'arrived', station: each }) as const), ended];
    const { analysis } = appraise(pack, record(...events), []);
    const marks = walkedMarks(pack, analysis);
    for (const gap of analysis.path.gaps.flat()) expect(marks[gap]!.state).toBe('gap');
    expect(analysis.path.gaps.flat().length).toBeGreaterThan(0);
    for (const each of walked) expect(marks[each]!.state).not.toBe('gap');
  });
});

describe('what an event did', () => {
  it('is said in words with the names of the class', () => {
    const station = pack.plan.stations[0]!;
    expect(eventWords({ kind: 'arrived', station: station.id }, pack)).toBe(`arrived at ${station.name}`);
    expect(eventWords({ kind: 'checked', checkpoint: 'CF-10', result: 'done' }, pack)).toBe('CF-10 done');
    expect(eventWords(planted, pack)).toBe(`planted ${faultNameIn(pack, plant!.id)}`);
    expect(eventWords(ended, pack)).toBe('round ended');
  });
  it('names a fault that the class does not have by its id', () => {
    expect(faultNameIn(pack, 'gone')).toBe('gone');
  });
});
