import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose, type Grade } from '../catalogue';
import { forkliftPack } from '../testing';
import {
  analyseRound,
  coverageShare,
  honestSeconds,
  type ObservedCheck,
  type Report,
  type RoundRecord,
  stationDistance,
  walkingLine,
} from './index';

const pack = compose(forkliftPack(), { variant: 'lpg' });
const line = walkingLine(pack.plan);
const ids = pack.checkpoints.map((each) => each.id);
const ring = line.ring.map((each) => each.id);
const occupied = ring.filter((id) =>
  pack.checkpoints.some((each) => each.station === id || each.alsoAt?.includes(id)),
);
const none: RoundRecord = { arrivals: [], checks: [], reports: [], duration: null };
const walk = (stations: readonly string[]): RoundRecord => ({
  ...none,
  arrivals: stations.map((station, i) => ({ station, at: i * 10_000 })),
  duration: stations.length * 10_000,
});
const path = (stations: readonly string[]) =>
  analyseRound(pack, walk(stations), [], [], undefined, line).path;

describe('the walking line of the forklift', () => {
  it('has its ten stations clockwise, starting where the pack starts', () => {
    expect(ring).toEqual([
      'st-01',
      'st-02',
      'st-03',
      'st-04',
      'st-05',
      'st-06',
      'st-07',
      'st-08',
      'st-09',
      'st-10',
    ]);
  });
  it('measures the same way there and back, and never less than the straight line', () => {
    for (const a of ring)
      for (const b of ring) {
        const there = stationDistance(line, a, b)!;
        expect(stationDistance(line, b, a)).toBeCloseTo(there, 9);
        const [p, q] = [line.positions.get(a)!, line.positions.get(b)!];
        expect(there + 1e-9).toBeGreaterThanOrEqual(Math.hypot(p[0] - q[0], p[1] - q[1]));
      }
  });
  it('obeys the triangle inequality, as walking does', () => {
    for (const a of ring)
      for (const b of ring)
        for (const c of ring)
          expect(stationDistance(line, a, c)!).toBeLessThanOrEqual(
            stationDistance(line, a, b)! + stationDistance(line, b, c)! + 1e-9,
          );
  });
  it('has no distance to a place that is climbed to', () => {
    expect(stationDistance(line, 'st-01', 'cab')).toBeNull();
    expect(stationDistance(line, 'st-01', 'yard')).toBeGreaterThan(0);
  });
});

describe('the path', () => {
  it('closed either way round has no gap, and is the shortest tour less its last leg', () => {
    for (const [order, direction] of [
      [occupied, 'clockwise'],
      [[...occupied].reverse(), 'anticlockwise'],
    ] as const) {
      const result = path(order);
      expect(result).toMatchObject({ closed: true, gaps: [], direction, backtracking: 0 });
      expect(result.metres).toBeLessThanOrEqual(result.shortestTour + 1e-9);
    }
  });
  it('finds exactly the stations left out, wherever the round begins', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: occupied.length - 1 }),
        fc.uniqueArray(fc.constantFrom(...occupied), { maxLength: 4 }),
        (start, left) => {
          const turned = [...occupied.slice(start), ...occupied.slice(0, start)].filter(
            (id) => !left.includes(id),
          );
          const result = path(turned);
          expect(new Set(result.gaps.flat())).toEqual(new Set(left));
          expect(result.closed).toBe(left.length === 0);
        },
      ),
    );
  });
  it('notices walking back and forth', () => {
    const result = path([occupied[0]!, occupied[1]!, occupied[0]!, occupied[1]!, occupied[2]!]);
    expect(result.backtracking).toBeGreaterThan(0.2);
    expect(result.sequence.length).toBe(5);
  });
  it('of nobody walking is one gap and no direction', () => {
    expect(path([])).toMatchObject({ sequence: [], direction: null, closed: false, metres: 0 });
    expect(path([]).gaps.flat().length).toBe(occupied.length);
  });
});

describe('coverage', () => {
  const result = fc.constantFrom('done', 'prompted', 'missed');
  it('lies between none and all, and rises when a missed check is done after all', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.constantFrom(...ids), result), { selector: (each) => each[0] }),
        fc.constantFrom(...ids),
        (list, extra) => {
          const checks = list.map(([checkpoint, r], i): ObservedCheck => ({
            checkpoint,
            result: r as 'done',
            at: i,
          }));
          const before = coverageShare(pack.checkpoints, checks, 0.5);
          const after = coverageShare(
            pack.checkpoints,
            [...checks, { checkpoint: extra, result: 'done', at: 999 }],
            0.5,
          );
          expect(before.done + before.prompted + before.missed).toBe(before.total);
          expect(before.share).toBeGreaterThanOrEqual(0);
          expect(after.share! + 1e-12).toBeGreaterThanOrEqual(before.share!);
          expect(after.share).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
  it('takes the last word on a checkpoint', () => {
    const share = coverageShare(
      pack.checkpoints,
      [
        { checkpoint: ids[0]!, result: 'missed', at: 1 },
        { checkpoint: ids[0]!, result: 'done', at: 2 },
      ],
      0.5,
    );
    expect(share.done).toBe(1);
  });
  it('of nothing is undefined, not nought', () => {
    expect(coverageShare([], [], 0.5).share).toBeNull();
  });
  it('adds up over systems and stations', () => {
    const { coverage } = analyseRound(
      pack,
      { ...none, checks: ids.slice(0, 20).map((checkpoint, i) => ({ checkpoint, result: 'done', at: i })) },
      [],
      [],
    );
    for (const groups of [coverage.bySystem, coverage.byStation])
      expect(Object.values(groups).reduce((sum, each) => sum + each.done, 0)).toBe(20);
  });
});

describe('pace', () => {
  const claim = (seconds: number) =>
    analyseRound(
      pack,
      {
        ...none,
        checks: [{ checkpoint: 'CF-23', result: 'done', at: seconds * 1000 }],
        duration: seconds * 1000,
      },
      [],
      [],
    ).pace;
  it('below the sum of honest seconds is implausible and names the check', () => {
    const honest = honestSeconds(pack.checkpoints.find((each) => each.id === 'CF-23')!);
    expect(claim(honest - 1)).toMatchObject({ plausible: false, hurried: [{ checkpoint: 'CF-23' }] });
    expect(claim(honest)).toMatchObject({ plausible: true, hurried: [] });
  });
  it('adds the walk at 1.2 m/s to the floor', () => {
    const { pace } = analyseRound(pack, walk(['st-01', 'st-06']), [], []);
    expect(pace.floorSeconds).toBeCloseTo(stationDistance(line, 'st-01', 'st-06')! / 1.2, 9);
    expect(pace.plausible).toBeNull();
  });
});

describe('detection', () => {
  const planted = ['CF-F10', 'CF-F11', 'CF-F24', 'CF-F37'];
  const report = (fault: string, grade: Grade = 'mend', change: Partial<Report> = {}): Report => ({
    checkpoint: pack.faults.find((each) => each.id === fault)!.checkpoint,
    fault,
    grade,
    prompted: false,
    real: false,
    at: 1,
    ...change,
  });
  const detect = (reports: Report[]) =>
    analyseRound(
      pack,
      { ...none, checks: ids.map((checkpoint, i) => ({ checkpoint, result: 'done', at: i })), reports },
      planted,
      [],
    ).detection;

  it('counts targets, a lookalike, and every looked-at checkpoint without a target as noise', () => {
    const result = detect([report('CF-F10'), report('CF-F24', 'watch')]);
    expect(result).toMatchObject({ hits: 2, misses: 1, falseAlarms: 0 });
    const targets = new Set(
      ['CF-F10', 'CF-F11', 'CF-F24'].map((id) => pack.faults.find((each) => each.id === id)!.checkpoint),
    );
    expect(result.correctRejections).toBe(ids.length - targets.size);
  });
  it('takes a fault called in other words at its own checkpoint as found', () => {
    expect(
      detect([report('CF-F11', 'stop', { fault: null })]).planted.find((each) => each.fault.id === 'CF-F11')!
        .found,
    ).toBe('found');
  });
  it('counts two alarms at one checkpoint once', () => {
    expect(detect([report('CF-F37', 'watch'), report('CF-F36', 'stop')]).falseAlarms).toBe(1);
  });
  it('is undefined without planted faults, and says so', () => {
    expect(analyseRound(pack, none, [], []).detection).toMatchObject({
      hitRate: null,
      interval: null,
      sensitivity: null,
    });
  });
  it('never loses or invents a target, whatever is reported', () => {
    const anyReport = fc
      .tuple(fc.constantFrom(...pack.faults.map((each) => each.id)), fc.boolean(), fc.boolean())
      .map(([fault, prompted, real]) => report(fault, 'watch', { prompted, real }));
    fc.assert(
      fc.property(fc.array(anyReport, { maxLength: 15 }), (reports) => {
        const result = detect(reports);
        expect(result.hits + result.misses).toBe(3);
        expect(result.planted.length).toBe(3);
        expect(result.falseAlarms).toBeLessThanOrEqual(reports.length);
        expect(result.correctRejections).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});
