import { expect, it } from 'vitest';
import { compose } from '../catalogue';
import { appraise, type EvaluationEventBody, foldEvaluation } from '../evaluation';
import { forkliftPack } from '../testing';
import { roundWords } from './words';

const pack = compose(forkliftPack(), { variant: 'diesel', features: {} });
const words = (...bodies: EvaluationEventBody[]) => {
  const events = bodies.map((body, i) => ({
    id: `01900000-0000-7000-8000-${String(i).padStart(12, '0')}`,
    at: new Date(Date.parse('2026-03-02T08:00:00.000Z') + i * 60_000).toISOString(),
    body,
  }));
  return roundWords(appraise(pack, foldEvaluation(events), []).analysis, pack);
};

it('says of a round that was not walked that it was not, and leaves no figure unexplained', () => {
  const said = words();
  expect(said).toHaveLength(6);
  expect(said[0]).toMatch(/^Coverage: 0 done, 0 prompted, \d+ missed of \d+ \(0 % weighted\)$/);
  expect(said[3]).toBe('Start: none');
  expect(said[4]).toBe('Pace: round open');
  expect(said.join()).not.toMatch(/undefined|NaN|null/);
});

it('names the stations that were never reached, and where the round began', () => {
  const [first, second] = pack.plan.stations.filter((each) => each.at);
  const said = words(
    { kind: 'round-started' },
    { kind: 'arrived', station: first!.id },
    { kind: 'arrived', station: second!.id },
    { kind: 'round-ended' },
  );
  expect(said[2]).toContain('ring not closed (');
  expect(said[2]).not.toContain(first!.name);
  expect(said[3]).toBe(`Start: ${first!.name} (first round on record)`);
  expect(said[4]).toMatch(/^Pace: 180 s against an honest floor of \d+ s$/);
});
