import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { namedMethod, walkingLine } from '../round';
import { seededRandom } from '../statistics';
import { forkliftPack } from '../testing';
import {
  appraise,
  type EvaluationEvent,
  type EvaluationEventBody,
  foldEvaluation,
  lastUndoable,
  proposePlants,
  scoredByTrainer,
  stillPlanted,
} from './index';

const pack = compose(forkliftPack(), { variant: 'diesel' });
let serial = 0;

/** Events a second apart unless told otherwise; `after` in seconds. */
function script(...bodies: (EvaluationEventBody | [EvaluationEventBody, number])[]): EvaluationEvent[] {
  let at = Date.parse('2026-03-02T09:00:00Z');
  return bodies.map((each) => {
    const [body, after] = Array.isArray(each) ? each : [each, 1];
    at += after * 1000;
    serial += 1;
    return {
      id: `00000000-0000-7000-8000-${String(serial).padStart(12, '0')}`,
      at: new Date(at).toISOString(),
      body,
    };
  });
}

/** An honest full round in ring order with every check done, then a full sheet. */
function honestRound(
  change: {
    planted?: string[];
    reports?: EvaluationEventBody[];
    retrieve?: boolean;
    score?: (id: string) => EvaluationEventBody | null;
    skip?: (id: string) => boolean;
    hurry?: boolean;
  } = {},
): EvaluationEvent[] {
  const ring = walkingLine(pack.plan).ring.map((each) => each.id);
  const off = pack.plan.stations.filter((each) => !each.at).map((each) => each.id);
  const body: (EvaluationEventBody | [EvaluationEventBody, number])[] = (change.planted ?? []).map(
    (fault) => ({ kind: 'planted', fault }),
  );
  body.push({ kind: 'round-started' });
  for (const station of [...ring, ...off]) {
    body.push([{ kind: 'arrived', station }, 5]);
    for (const check of pack.checkpoints.filter((each) => each.station === station))
      if (!change.skip?.(check.id))
        body.push([
          { kind: 'checked', checkpoint: check.id, result: 'done', method: namedMethod(pack, check) },
          change.hurry ? 1 : check.honestSeconds + 1,
        ]);
  }
  body.push(...(change.reports ?? []), { kind: 'round-ended' });
  for (const section of pack.sheet.sections)
    for (const criterion of section.criteria)
      if (scoredByTrainer(criterion)) {
        const scored = change.score ? change.score(criterion.id) : undefined;
        if (scored !== null) body.push(scored ?? { kind: 'scored', criterion: criterion.id, result: 'done' });
      }
  if (change.retrieve !== false)
    for (const fault of change.planted ?? []) body.push({ kind: 'retrieved', fault });
  return script(...body);
}
const judged = (events: EvaluationEvent[], starts: string[] = []) =>
  appraise(pack, foldEvaluation(events), starts);
const criterion = (result: ReturnType<typeof judged>, id: string) =>
  result.sections.flatMap((each) => each.criteria).find((each) => each.criterion.id === id)!;
const report = (fault: string, grade: 'watch' | 'mend' | 'stop', prompted = false): EvaluationEventBody => ({
  kind: 'reported',
  checkpoint: pack.faults.find((each) => each.id === fault)!.checkpoint,
  fault,
  grade,
  prompted,
  real: false,
});

describe('an evaluation', () => {
  it('without error scores 100 and is competent, the ring closed, the pace honest', () => {
    const result = judged(honestRound());
    expect(result).toMatchObject({ score: 100, outcome: 'competent', stillPlanted: [], unscored: [] });
    expect(result.analysis.path).toMatchObject({ closed: true, gaps: [], direction: 'clockwise' });
    expect(result.analysis.pace.plausible).toBe(true);
    expect(result.analysis.coverage.share).toBe(1);
  });

  it('has no outcome while a planted fault is in the machine', () => {
    const events = honestRound({
      planted: ['CF-F10', 'CF-F24'],
      reports: [report('CF-F10', 'mend'), report('CF-F24', 'watch')],
      retrieve: false,
    });
    expect(judged(events)).toMatchObject({ outcome: 'blocked', stillPlanted: ['CF-F10', 'CF-F24'] });
    const half = [...events, ...script({ kind: 'retrieved', fault: 'CF-F10' })];
    expect(judged(half).outcome).toBe('blocked');
    expect(judged([...half, ...script({ kind: 'retrieved', fault: 'CF-F24' })]).outcome).toBe('competent');
  });

  it('fails on a planted stop that was missed, found only by prompting, or called watch', () => {
    const with_ = (...reports: EvaluationEventBody[]) =>
      judged(honestRound({ planted: ['CF-F11'], reports }));
    expect(with_(report('CF-F11', 'stop')).outcome).toBe('competent');
    for (const each of [with_(), with_(report('CF-F11', 'stop', true)), with_(report('CF-F11', 'watch'))]) {
      expect(each.outcome).toBe('not-yet');
      expect(each.reasons[0]!.text).toMatch(/planted stop/);
    }
    // Called a mend it is no critical miss; the findings are below their minimum by themselves.
    const mend = with_(report('CF-F11', 'mend'));
    expect(mend.reasons.some((each) => /planted stop/.test(each.text))).toBe(false);
    expect(mend.outcome).toBe('not-yet');
  });

  it('gives half for a prompt, and credits planted faults by finding and grade', () => {
    const result = judged(
      honestRound({
        planted: ['CF-F10', 'CF-F24', 'CF-F72', 'CF-F60'],
        reports: [report('CF-F10', 'mend'), report('CF-F24', 'mend'), report('CF-F72', 'mend', true)],
      }),
    );
    // Found and right 1, found and graded wrong 0.5, found right when prompted 0.5, missed 0: 2 of 4.
    expect(criterion(result, 'CF-E01').credit).toBeCloseTo(0.5, 12);
    expect(result.analysis.detection).toMatchObject({ hits: 2, misses: 2 });
    const prompted = judged(
      honestRound({ score: (id) => ({ kind: 'scored', criterion: id, result: 'prompted' }) }),
    );
    const all = pack.sheet.sections.flatMap((s) => s.criteria);
    // With nothing planted, finding faults does not count.
    const linked = 6 + 6 + 3 + 3;
    const rest = all.reduce((sum, c) => sum + (scoredByTrainer(c) ? c.weight : 0), 0);
    expect(prompted.score).toBeCloseTo((100 * (linked + rest / 2)) / (linked + rest), 1);
  });

  it('counts a reported lookalike and an unplanted fault as false alarms unless truly there', () => {
    const alarm = (real: boolean): EvaluationEventBody => ({
      kind: 'reported',
      checkpoint: 'CF-61',
      fault: null,
      grade: 'mend',
      prompted: false,
      real,
    });
    expect(
      judged(honestRound({ planted: ['CF-F37'], reports: [report('CF-F37', 'watch')] })).analysis.detection
        .falseAlarms,
    ).toBe(1);
    expect(judged(honestRound({ reports: [alarm(false)] })).analysis.detection.falseAlarms).toBe(1);
    expect(judged(honestRound({ reports: [alarm(true)] })).analysis.detection.falseAlarms).toBe(0);
  });

  it('is stopped by any critical error, however high the score', () => {
    const result = judged([...honestRound(), ...script({ kind: 'critical-error', error: 'CF-K01' })]);
    expect(result).toMatchObject({ outcome: 'stopped', score: 100 });
  });

  it('wants a reason for "not applicable" and lets at most a quarter of the weight go', () => {
    const na =
      (reason?: string) =>
      (id: string): EvaluationEventBody | null =>
        ['CF-E22', 'CF-E23'].includes(id)
          ? { kind: 'scored', criterion: id, result: 'na', ...(reason ? { reason } : {}) }
          : { kind: 'scored', criterion: id, result: 'done' };
    expect(judged(honestRound({ score: na('no ramp or dock here') })).outcome).toBe('competent');
    expect(judged(honestRound({ score: na() })).unscored).toEqual(['CF-E22', 'CF-E23']);
    const most = judged(
      honestRound({
        score: (id) =>
          Number(id.slice(-2)) > 12
            ? { kind: 'scored', criterion: id, result: 'na', reason: 'no time' }
            : { kind: 'scored', criterion: id, result: 'done' },
      }),
    );
    expect(most.outcome).toBe('not-yet');
    expect(most.reasons.some((each) => /at most 25 %/.test(each.text))).toBe(true);
  });

  it('is incomplete while a criterion is open or the round has not ended', () => {
    expect(
      judged(
        honestRound({
          score: (id) => (id === 'CF-E28' ? null : { kind: 'scored', criterion: id, result: 'done' }),
        }),
      ),
    ).toMatchObject({
      outcome: 'incomplete',
      unscored: ['CF-E28'],
    });
    expect(judged(honestRound().filter((each) => each.body.kind !== 'round-ended')).outcome).toBe(
      'incomplete',
    );
  });

  it('recommends a second evaluator near the cut', () => {
    let n = 0;
    const near = judged(
      honestRound({
        score: (id) => ({ kind: 'scored', criterion: id, result: n++ % 3 === 0 ? 'not' : 'done' }),
      }),
    );
    expect(near.standardError).toBeGreaterThan(0);
    expect(near.nearCut).toBe(Math.abs(near.score! - 80) <= near.standardError!);
  });

  it('names what was left out, the gap in the ring and the checks done faster than honest', () => {
    const gap = judged(
      honestRound({ skip: (id) => ['CF-26', 'CF-25', 'CF-61'].includes(id) }).filter(
        (each) => !(each.body.kind === 'arrived' && each.body.station === 'st-05'),
      ),
    );
    expect(gap.analysis.path.gaps).toEqual([['st-05']]);
    expect(gap.analysis.path.closed).toBe(false);
    expect(gap.analysis.coverage.criticalOmissions.map((each) => each.id)).toEqual(['CF-61']);
    const fast = judged(honestRound({ hurry: true }));
    expect(fast.analysis.pace.plausible).toBe(false);
    expect(fast.analysis.pace.hurried.length).toBeGreaterThan(40);
  });

  it('compares the start with earlier rounds; the first round only sets it', () => {
    expect(judged(honestRound()).analysis.start).toMatchObject({ station: 'st-01', share: null });
    expect(judged(honestRound(), ['st-01', 'st-01', 'st-08', 'st-01']).analysis.start.share).toBe(0.75);
  });
});

describe('folding events', () => {
  it('takes back by undo, keeps both on record, and ignores a repeated send', () => {
    const events = script(
      { kind: 'round-started' },
      { kind: 'checked', checkpoint: 'CF-61', result: 'missed' },
    );
    const last = lastUndoable(foldEvaluation(events))!;
    const after = [...events, ...script({ kind: 'undone', event: last.id })];
    expect(foldEvaluation(after).round.checks).toEqual([]);
    expect(foldEvaluation([...after, ...after]).inForce).toEqual(foldEvaluation(after).inForce);
    expect(lastUndoable(foldEvaluation(after))).toBeNull();
  });
  it('keeps the first decision and the first signature of each', () => {
    const events = script(
      { kind: 'decided', outcome: 'not-yet' },
      { kind: 'decided', outcome: 'competent' },
      { kind: 'signed', role: 'trainer', strokes: 'M1 1L2 2' },
      { kind: 'signed', role: 'trainer', strokes: 'M9 9L9 9' },
    );
    const record = foldEvaluation(events);
    expect(record.decision?.outcome).toBe('not-yet');
    expect(record.signatures.get('trainer')?.strokes).toBe('M1 1L2 2');
  });
  it('knows what is still planted', () => {
    expect(
      stillPlanted(
        foldEvaluation(
          script(
            { kind: 'planted', fault: 'CF-F10' },
            { kind: 'planted', fault: 'CF-F24' },
            { kind: 'retrieved', fault: 'CF-F10' },
          ),
        ),
      ),
    ).toEqual(['CF-F24']);
  });
});

describe('proposing faults to plant', () => {
  it('is balanced in grades, spread over stations, plantable, and the same for the same seed', () => {
    for (let seed = 0; seed < 60; seed++) {
      const set = proposePlants(pack, 4, seed);
      expect(new Set(set.map((each) => each.id)).size).toBe(4);
      expect(set.every((each) => each.plant)).toBe(true);
      expect(new Set(set.map((each) => each.grade)).size).toBeGreaterThanOrEqual(3);
      expect(
        new Set(set.map((each) => pack.checkpoints.find((c) => c.id === each.checkpoint)!.station)).size,
      ).toBe(4);
      expect(proposePlants(pack, 4, seed)).toEqual(set);
    }
  });
  it('varies, so that classmates cannot pass the list on', () => {
    const seen = new Set(
      Array.from({ length: 80 }, (_, seed) => proposePlants(pack, 4, seed).map((each) => each.id)).flat(),
    );
    expect(seen.size).toBeGreaterThan(20);
  });
  it('draws evenly from its generator', () => {
    const random = seededRandom(7);
    const mean = Array.from({ length: 20_000 }, random).reduce((a, b) => a + b, 0) / 20_000;
    expect(Math.abs(mean - 0.5)).toBeLessThan(0.01);
  });
});
