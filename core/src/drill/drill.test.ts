import { describe, expect, it } from 'vitest';
import { compose, type EffectivePack, GRADES } from '../catalogue';
import { walkingLine } from '../round';
import { seededRandom } from '../statistics';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  always,
  bringAbout,
  caseItem,
  conditionGroups,
  conditionsHolding,
  type Deal,
  dealDrill,
  dealtCheck,
  dealtFault,
  doAct,
  DRILL_FORMS,
  DRILL_PARTS,
  DrillActError,
  drillResult,
  drillStations,
  LOOK_ONLY,
  machineAtStart,
  PERFECT,
  revealingMethods,
  scriptedDrill,
  startOfDrill,
  TICKER,
  unmetConditions,
  unmetCriterion,
  USUAL_CRITERION,
  waysTo,
} from './index';

const SEEDS = [1, 2, 3, 4, 5];
const fitOuts = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  return pack.variants.map(({ id: variant }) => ({ name: `${id}, ${variant}`, id, variant }));
});
const composed = ({ id, variant }: { id: string; variant: string }) => compose(shippedPack(id), { variant });
const result = (pack: EffectivePack, deal: Deal, learner: typeof PERFECT) =>
  drillResult(pack, deal, scriptedDrill(pack, deal, learner));

describe.each(fitOuts)('a drill of $name', (fitOut) => {
  const pack = composed(fitOut);
  const deals = SEEDS.flatMap((seed) =>
    DRILL_FORMS.map((form) =>
      dealDrill(pack, { form, seed, station: form === 'station' ? pack.checkpoints[seed]!.station : null }),
    ),
  );

  it('is the same machine for the same seed, another for another, no part twice, in walking order', () => {
    const round = (seed: number) => dealDrill(pack, { form: 'round', seed });
    expect(round(7)).toEqual(round(7));
    expect(new Set(SEEDS.map((seed) => JSON.stringify(round(seed).cases))).size).toBe(SEEDS.length);
    for (const deal of deals) {
      const parts = deal.cases.map((each) => each.checkpoint);
      expect(new Set(parts).size).toBe(parts.length);
      expect(parts.length).toBeLessThanOrEqual(DRILL_PARTS[deal.form]);
      expect(
        drillStations(pack, deal)
          .flatMap((each) => each.parts.map((part) => part.id))
          .sort(),
      ).toEqual([...parts].sort());
    }
  });

  it('gives 100 to who does all and grades by the key, and nothing to criticise', () => {
    for (const deal of deals) {
      const perfect = result(pack, deal, PERFECT);
      expect(perfect.score).toBe(100);
      expect(perfect.handsOn).toBe(1);
      expect(perfect.pace.plausible).toBe(true);
      if (deal.form !== 'station') {
        const ring = walkingLine(pack.plan).ring.map((each) => each.id);
        expect(new Set(perfect.path.sequence)).toEqual(
          new Set(
            ring.filter((id) =>
              pack.checkpoints.some((each) => each.station === id || each.alsoAt?.includes(id)),
            ),
          ),
        );
      }
      expect(perfect.uncalled).toBe(0);
      expect(unmetCriterion(deal, perfect, USUAL_CRITERION)).toEqual(
        deal.form === 'round' ? [] : [expect.stringContaining('whole round')],
      );
    }
  });

  it('lets a look find exactly what a look shows', () => {
    for (const deal of deals) {
      const found = result(pack, deal, LOOK_ONLY)
        .cases.filter((each) => each.outcome === 'hit')
        .map((each) => each.fault!.id);
      const shown = deal.cases.flatMap(({ checkpoint, fault: id }) => {
        const fault = pack.faults.find((each) => each.id === id);
        const check = pack.checkpoints.find((each) => each.id === checkpoint)!;
        return fault && fault.grade !== 'sound' && revealingMethods(check, fault).includes('look')
          ? [id]
          : [];
      });
      expect(found).toEqual(shown);
    }
  });

  it('catches who ticks off without checking by the pace', () => {
    for (const deal of deals) {
      const ticked = result(pack, deal, TICKER);
      expect(ticked.pace.plausible).toBe(false);
      expect(ticked.handsOn).toBe(0);
      expect(ticked.cases.every((each) => each.blind)).toBe(true);
    }
  });

  it('gives who always says the same what chance gives', () => {
    for (const deal of deals)
      for (const grade of GRADES) {
        const { score, chance, byGrade } = result(pack, deal, always(grade));
        expect(chance).toBe(100 / byGrade.length);
        expect(score).toBeCloseTo(byGrade.some((each) => each.grade === grade) ? chance : 0, 10);
      }
  });

  it('deals the grades as level as the class allows', () => {
    for (const seed of SEEDS) {
      const { byGrade } = result(pack, dealDrill(pack, { form: 'round', seed }), PERFECT);
      const sizes = GRADES.map((grade) => byGrade.find((each) => each.grade === grade)?.cases ?? 0);
      const most = Math.max(...sizes);
      for (const [i, grade] of GRADES.entries()) {
        const checks = new Set(
          pack.faults.filter((each) => each.grade === grade).map((each) => each.checkpoint),
        ).size;
        // Fewer than the most only where the class has no more to deal, or of a few faults the half.
        if (grade !== 'sound')
          expect(sizes[i]!).toBeGreaterThanOrEqual(Math.min(most - 1, Math.floor(checks / 2)));
      }
    }
  });

  it('has a way to every condition that a check asks for', () => {
    for (const check of pack.checkpoints) {
      let machine = machineAtStart(pack);
      for (const id of waysTo(pack, check, machine)) {
        const brought = bringAbout(pack, machine, id);
        expect(brought.refused, `${check.id}: ${id}`).toBeUndefined();
        machine = brought.state;
      }
      expect(unmetConditions(check, machine), check.id).toEqual([]);
    }
    const offered = conditionGroups(pack).flatMap((each) => each.conditions.map((one) => one.id));
    const asked = pack.checkpoints.flatMap((check) => waysTo(pack, check, machineAtStart(pack)));
    expect(offered).toEqual(expect.arrayContaining([...new Set(asked)]));
  });
});

describe('a drill', () => {
  const pack = compose(forkliftPack(), { variant: forkliftPack().variants[0]!.id });
  const deal = dealDrill(pack, { form: 'round', seed: 3 });
  const start = startOfDrill(pack);

  it('shows by each method what that method shows, and nothing else', () => {
    for (const { checkpoint, fault: id } of deal.cases) {
      const check = dealtCheck(pack, deal, checkpoint);
      const fault = dealtFault(pack, deal, checkpoint);
      expect(fault?.id ?? null).toBe(id);
      let { state } = doAct(pack, deal, start, { kind: 'go', station: check.station });
      for (const condition of waysTo(pack, check, state.machine))
        state = doAct(pack, deal, state, { kind: 'bring', condition }).state;
      for (const method of check.methods) {
        const { answer } = doAct(pack, deal, state, { kind: 'try', checkpoint, method });
        const cue = fault?.cues.find((each) => each.method === method);
        expect(answer).toMatchObject({
          kind: 'reading',
          reading: { counts: true, shows: cue ? cue.shows : check.appears[method] },
        });
      }
    }
  });

  it('does not count a reading before its condition is brought about, nor say what it would show', () => {
    const { checkpoint } = deal.cases.find(({ checkpoint: id }) =>
      pack.checkpoints.find((each) => each.id === id)!.when.includes('engine-running'),
    )!;
    const check = dealtCheck(pack, deal, checkpoint);
    const at = doAct(pack, deal, start, { kind: 'go', station: check.station }).state;
    const { answer } = doAct(pack, deal, at, { kind: 'try', checkpoint, method: check.methods[0]! });
    expect(answer).toMatchObject({ reading: { counts: false, shows: null } });
    expect(JSON.stringify(answer)).toContain('engine running');
  });

  it('refuses what cannot be done', () => {
    const [first] = deal.cases;
    const check = dealtCheck(pack, deal, first!.checkpoint);
    const other = pack.checkpoints.find((each) => !deal.cases.some((one) => one.checkpoint === each.id))!;
    const not = (['look', 'smell', 'measure', 'turn'] as const).find(
      (each) => !check.methods.includes(each),
    )!;
    const at = doAct(pack, deal, start, { kind: 'go', station: check.station }).state;
    const refused = (state: typeof start, act: Parameters<typeof doAct>[3]) =>
      expect(() => doAct(pack, deal, state, act)).toThrow(DrillActError);
    refused(start, { kind: 'try', checkpoint: check.id, method: check.methods[0]! });
    refused(at, { kind: 'try', checkpoint: check.id, method: not });
    refused(at, { kind: 'call', checkpoint: other.id, grade: 'sound' });
    refused(at, { kind: 'go', station: 'nowhere' });
    refused(at, { kind: 'bring', condition: 'full-moon' });
    refused(doAct(pack, deal, at, { kind: 'end' }).state, { kind: 'go', station: check.station });
    expect(() => dealDrill(pack, { form: 'station', seed: 1, station: 'nowhere' })).toThrow(RangeError);
  });

  it('counts the last call on a part, and blames a guess', () => {
    const [first] = deal.cases;
    const acts = (['stop', 'sound'] as const).map(
      (grade) => ({ kind: 'call', checkpoint: first!.checkpoint, grade }) as const,
    );
    const [judged] = drillResult(pack, deal, acts).cases;
    expect(judged).toMatchObject({ called: 'sound', blind: true });
  });

  it('says why a drill does not make ready', () => {
    const acts = scriptedDrill(pack, deal, always('watch'));
    expect(unmetCriterion(deal, drillResult(pack, deal, acts), USUAL_CRITERION)).toEqual([
      'The score is under 80.',
      expect.stringMatching(/stops were missed or graded too low/),
    ]);
    const half = acts.filter(
      (each) => each.kind !== 'go' || each.station === drillStations(pack, deal)[0]!.id,
    );
    const seen = half.filter((each) => each.kind !== 'try');
    expect(unmetCriterion(deal, drillResult(pack, deal, seen), USUAL_CRITERION)).toEqual(
      expect.arrayContaining(['The ring was not closed.', 'It was faster than the checks can be made.']),
    );
  });

  it('deals what weighs more more often', () => {
    const item = deal.cases.find(
      (each) => each.fault && dealtFault(pack, deal, each.checkpoint)!.grade === 'stop',
    )!;
    const times = (weights: ReadonlyMap<string, number>) =>
      Array.from({ length: 60 }, (_, seed) => dealDrill(pack, { form: 'round', seed, weights })).filter(
        (each) => each.cases.some((one) => caseItem(one) === caseItem(item)),
      ).length;
    expect(times(new Map([[caseItem(item), 50]]))).toBeGreaterThan(3 * Math.max(1, times(new Map())));
  });

  it('shows one thing wrong where it says so', () => {
    for (const seed of SEEDS) {
      const one = dealDrill(pack, { form: 'one-wrong', seed });
      const wrong = one.cases.filter(
        (each) => (dealtFault(pack, one, each.checkpoint)?.grade ?? 'sound') !== 'sound',
      );
      expect(wrong).toHaveLength(1);
      expect(one.cases).toHaveLength(DRILL_PARTS['one-wrong']);
    }
  });

  it('stays lawful under any acts', () => {
    const random = seededRandom(11);
    const any = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
    for (let run = 0; run < 200; run++) {
      let state = start;
      for (let n = 0; n < 30; n++) {
        const { checkpoint } = any(deal.cases);
        const act = any([
          { kind: 'go', station: any(pack.plan.stations).id },
          { kind: 'bring', condition: any(conditionGroups(pack).flatMap((each) => each.conditions)).id },
          { kind: 'try', checkpoint, method: any(dealtCheck(pack, deal, checkpoint).methods) },
          { kind: 'call', checkpoint, grade: any(GRADES) },
        ] as const);
        try {
          const next = doAct(pack, deal, state, act).state;
          expect(next.seconds).toBeGreaterThanOrEqual(state.seconds);
          state = next;
        } catch (error) {
          expect(error).toBeInstanceOf(DrillActError);
        }
        const holding = conditionsHolding(state.machine);
        expect(holding.includes('cold') && holding.includes('warm')).toBe(false);
        expect(holding.includes('engine-off') && holding.includes('engine-running')).toBe(false);
      }
    }
  });
});
