import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { shippedPack } from '../testing';
import { askedParts, type DeskTry, type Practised, readinessOf } from './readiness';

const pack = compose(shippedPack('wheel-loader'), { variant: 'diesel' });
const nothing: Practised = { roundDays: [], desk: [], commandSets: 0, commandsReady: false };
const run = (on: string, change: Partial<DeskTry> = {}): DeskTry => ({
  on,
  program: 'whole',
  asTest: true,
  score: 90,
  critical: 0,
  ...change,
});
const desk = (...tries: DeskTry[]) =>
  readinessOf(pack, { ...nothing, desk: tries }).find((each) => each.part === 'desk')!;

describe('being ready for an assessment', () => {
  it('asks for the round, the desk and the controls, or for what the class names', () => {
    expect(askedParts(pack)).toEqual(['round', 'desk', 'commands']);
    const own = {
      ...pack,
      teaching: { ...pack.teaching, readiness: { score: 80, asks: ['round' as const] } },
    };
    expect(askedParts(own)).toEqual(['round']);
    const bare = { ...pack, machine: { ...pack.machine, desk: undefined } };
    expect(askedParts(bare)).toEqual(['round']);
  });

  it('counts days, not drills', () => {
    const round = (days: string[]) => readinessOf(pack, { ...nothing, roundDays: days })[0]!;
    expect(round(['2026-03-01', '2026-03-01'])).toMatchObject({
      met: false,
      says: 'Walk-round: standard met on 1 of 2 days',
    });
    expect(round(['2026-03-01', '2026-03-02', '2026-03-09']).met).toBe(true);
  });

  it('wants start and stop on two days each, with nothing shown, the score and no critical flaw', () => {
    expect(desk(run('2026-03-01'), run('2026-03-02')).met).toBe(true);
    expect(desk(run('2026-03-01'), run('2026-03-01')).met).toBe(false);
    for (const flaw of [{ asTest: false }, { score: 79 }, { critical: 1 }, { program: 'free' as const }])
      expect([flaw, desk(run('2026-03-01'), run('2026-03-02', flaw)).met]).toEqual([flaw, false]);
    const started = desk(run('2026-03-01', { program: 'start' }), run('2026-03-02', { program: 'tests' }));
    expect(started).toMatchObject({
      met: false,
      says: 'At the desk, as a test: started on 2 of 2 days, stopped on 0 of 2 days',
    });
    const both = desk(
      run('2026-03-01', { program: 'start' }),
      run('2026-03-02', { program: 'tests' }),
      run('2026-03-02', { program: 'stop' }),
      run('2026-03-03', { program: 'stop' }),
    );
    expect(both.met).toBe(true);
  });

  it('takes the last sets of commands as they are', () => {
    const commands = (given: Partial<Practised>) => readinessOf(pack, { ...nothing, ...given })[2]!;
    expect(commands({}).says).toBe('Controls: never called out');
    expect(commands({ commandSets: 3 }).met).toBe(false);
    expect(commands({ commandSets: 3, commandsReady: true }).met).toBe(true);
  });
});
