import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { forkliftPack } from '../testing';
import { rightRun } from './scriptedRun';
import { session } from './session';
import { traceFromRows, traceRows } from './traceRows';
import { hesitations, recurringFlaws, type StepResult, stepTrends } from './trend';

const pack = compose(forkliftPack(), { variant: 'diesel', features: {} });
const [START] = pack.procedures.filter((each) => each.kind === 'startup').map((each) => each.id);
const own = session(pack, [START!]);
const read = (rows: Parameters<typeof traceFromRows>[0]) => traceFromRows(rows, own);
const says = (rows: Parameters<typeof traceFromRows>[0]) =>
  read(rows).remarks.map((each) => `${each.line}: ${each.says}`);

describe('a trace as a table', () => {
  it('comes back the same', () => {
    const trace = {
      ...rightRun(pack, [START!]),
      broken: [{ rule: 'CF-X1', at: 4, until: 9 }],
      conditions: [{ says: 'engine still warm', lifts: ['CF-SU-8', 'CF-SU-5'] }],
    };
    trace.events = trace.events.map((each, i) =>
      i === 1 ? { ...each, mark: 'wrong', failed: ['seated'] } : each,
    );
    expect(read(traceRows(trace, '2026-03-02T08:00:00.000Z'))).toEqual({ trace, remarks: [] });
  });

  it('keeps an unknown step as an act that is no step, and names its line', () => {
    const { trace } = read([
      { token: 'CF-SU-1', at: '0' },
      { token: 'radio', at: '2' },
    ]);
    expect(trace.events).toHaveLength(2);
    expect(
      says([
        { token: 'CF-SU-1', at: '0' },
        { token: 'radio', at: '2' },
      ]),
    ).toEqual(['3: "radio" is no step of this']);
  });

  it('judges no time by one that runs back, and loses nothing', () => {
    const { trace, remarks } = read([
      { token: 'CF-SU-1', at: '15' },
      { token: 'CF-SU-2', at: '12' },
      { token: 'CF-SU-3', at: 'noon' },
    ]);
    expect(trace.events.map((each) => [each.at, each.unsure ?? false])).toEqual([
      [15, false],
      [15, true],
      [15, true],
    ]);
    expect(remarks.map((each) => each.kept)).toEqual([
      'kept in its place; no time is judged by it',
      'kept in its place; no time is judged by it',
    ]);
  });

  it('uses the seconds that run on where the clock was changed, and says by how much', () => {
    const rows = [
      { token: 'CF-SU-1', at: '0', time: '2026-03-02T08:00:00Z' },
      { token: 'CF-SU-2', at: '5', time: '2026-03-02T09:00:05Z' },
    ];
    expect(read(rows).trace.events[1]!.at).toBe(5);
    expect(says(rows)).toEqual(['3: the clock of the device was changed by 3600 s']);
  });

  it('puts the lines of two devices in the order of their times', () => {
    const rows = [
      { token: 'CF-SU-1', time: '2026-03-02T08:00:00Z', device: 'tablet' },
      { token: 'CF-SU-3', time: '2026-03-02T08:00:20Z', device: 'tablet' },
      { token: 'CF-SU-2', time: '2026-03-02T08:00:10Z', device: 'phone' },
    ];
    expect(read(rows).trace.events.map((each) => each.token)).toEqual(['CF-SU-1', 'CF-SU-2', 'CF-SU-3']);
    expect(says(rows)[0]).toBe('1: there are lines of 2 devices');
  });
});

const step = (id: string, given: Partial<StepResult> = {}): StepResult => ({
  id,
  procedure: START!,
  do: id,
  state: 'done',
  critical: false,
  flawed: false,
  due: true,
  seconds: 4,
  ...given,
});

describe('trends of start and stop', () => {
  it('name what goes wrong again and again, and not what went wrong once', () => {
    const sessions = [
      [step('belt', { flawed: true }), step('horn', { flawed: true })],
      [step('belt', { flawed: true }), step('horn')],
      [step('belt'), step('horn')],
    ];
    expect(recurringFlaws(sessions)).toEqual([
      { id: 'belt', do: 'belt', critical: false, flawed: 2, sessions: 3 },
    ]);
  });

  it('call a hesitation what is more than two robust deviations above the own median, with enough to go by', () => {
    const earlier = [3, 4, 5, 4, 6].map((seconds) => [step('belt', { seconds })]);
    expect(hesitations([step('belt', { seconds: 12 })], earlier)).toEqual([
      { id: 'belt', do: 'belt', seconds: 12, usual: 4 },
    ]);
    expect(hesitations([step('belt', { seconds: 6.5 })], earlier)).toEqual([]);
    expect(hesitations([step('belt', { seconds: 60 })], earlier.slice(0, 3))).toEqual([]);
  });

  it('give the share of a class with its Wilson interval', () => {
    const sessions = Array.from({ length: 10 }, (_, i) => [
      step('belt', { flawed: i < 3, state: i < 2 ? 'skipped' : 'done' }),
    ]);
    const [trend] = stepTrends(sessions);
    // E. B. Wilson, JASA 22 (1927): 3 of 10 gives 0.1078 to 0.6032.
    expect(trend).toMatchObject({ sessions: 10, flawed: 3, skipped: 2 });
    expect(trend!.low).toBeCloseTo(0.1078, 4);
    expect(trend!.high).toBeCloseTo(0.6032, 4);
  });
});
