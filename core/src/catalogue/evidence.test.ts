import { describe, expect, it } from 'vitest';
import { drawEvidence, evidenceSvg } from '../drawing/evidence';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import { evidenceOf, givesFigures, type Fault, type Pack, packLints, shownEvidence } from './index';

const pack = forkliftPack();
const check = (id: string) => pack.checkpoints.find((each) => each.id === id)!;
const faultOf = (id: string) => pack.faults.find((each) => each.id === id)!;

describe.each(shippedClasses())('every drawing of %s', (id) => {
  const pack = shippedPack(id);
  const checks = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const drawn = pack.faults.flatMap((fault) =>
    fault.cues.flatMap((cue) => (cue.drawing ? [{ fault, method: cue.method }] : [])),
  );

  it('can be drawn, and says something else than the sound one where it shows something else', () => {
    expect(drawn.length).toBeGreaterThan(15);
    for (const { fault, method } of drawn) {
      const own = checks.get(fault.checkpoint)!;
      const evidence = evidenceOf(own, fault, method)!;
      const figures = { figures: givesFigures(method) };
      const shown = drawEvidence(evidence, figures)!;
      expect(evidenceSvg(shown)).toMatch(/^<svg.*<\/svg>$/s);
      const sound = evidenceOf(own, null, method);
      if (!sound || sound.kind !== evidence.kind) continue;
      const looks = drawEvidence(sound, figures)!;
      if (JSON.stringify(looks.marks) !== JSON.stringify(shown.marks))
        expect(shown.text, `${fault.id} by ${method}`).not.toBe(looks.text);
    }
  });

  it('keeps to its check: every drawn method is one that the check allows', () => {
    for (const { fault, method } of drawn) expect(checks.get(fault.checkpoint)!.methods).toContain(method);
  });
});

it('draws nine in ten of the checks and most of what a look shows', () => {
  const packs = shippedClasses().map(shippedPack);
  const checks = packs.flatMap((each) => each.checkpoints);
  const looks = packs
    .flatMap((each) => each.faults.flatMap((one) => one.cues))
    .filter((each) => each.method === 'look');
  expect(checks.filter((each) => each.evidence).length / checks.length).toBeGreaterThan(0.9);
  expect(looks.filter((each) => each.drawing).length / looks.length).toBeGreaterThan(0.9);
});

describe('what a method shows as a drawing', () => {
  it('is the sound part for a method that the fault does not speak to', () => {
    const fault = faultOf('CF-F06');
    expect(shownEvidence(pack, check('CF-11'), fault, 'measure')).toEqual({
      kind: 'fork',
      params: { wear: 12, crack: 0 },
    });
    const unspoken = { ...fault, cues: fault.cues.filter((each) => each.method === 'look') };
    expect(shownEvidence(pack, check('CF-11'), unspoken, 'measure')).toEqual({
      kind: 'fork',
      params: { wear: 3, crack: 0 },
    });
  });
  it('is none where the fault shows itself by what cannot be drawn', () => {
    const fault: Fault = {
      ...faultOf('CF-F06'),
      cues: [{ method: 'look', shows: 'something that no drawing has' }],
    };
    expect(shownEvidence(pack, check('CF-11'), fault, 'look')).toBeNull();
  });
  it('is none for a noise or a smell, whatever the part looks like', () => {
    const battery = pack.checkpoints.find((each) => each.methods.includes('smell') && each.evidence)!;
    expect(shownEvidence(pack, battery, null, 'smell')).toBeNull();
    expect(shownEvidence(pack, battery, null, 'look')).not.toBeNull();
  });
  it('may be another sound state for one method', () => {
    const display = {
      ...check('CF-11'),
      evidence: { kind: 'display', sound: { state: 'blank' }, by: { press: { state: 'reads' } } },
    };
    expect(shownEvidence(pack, display, null, 'press')!.params).toEqual({ state: 'reads' });
    expect(shownEvidence(pack, display, null, 'look')!.params).toEqual({ state: 'blank' });
  });
});

describe('the rules of drawings', () => {
  const found = (change: (copy: Pack) => void) => {
    const copy = structuredClone(pack);
    change(copy);
    return packLints(copy).map((each) => `${each.rule} at ${each.path.join('/')}`);
  };
  const at = pack.checkpoints.findIndex((each) => each.id === 'CF-11');
  const fault = pack.faults.findIndex((each) => each.id === 'CF-F06');
  const cue = pack.faults[fault]!.cues.findIndex((each) => each.method === 'measure');

  it.each<[string, string, (copy: Pack) => void]>([
    ['a kind that there is not', 'evidence-kind', (p) => (p.checkpoints[at]!.evidence!.kind = 'photograph')],
    [
      'a parameter that the kind has not',
      'evidence-params',
      (p) => (p.checkpoints[at]!.evidence!.sound['teeth'] = 2),
    ],
    ['a figure off its scale', 'evidence-params', (p) => (p.checkpoints[at]!.evidence!.sound['wear'] = 400)],
    [
      'a method that the check does not allow',
      'evidence-method',
      (p) => (p.checkpoints[at]!.evidence!.by = { smell: { wear: 4 } }),
    ],
    [
      'a sound figure beyond the limit',
      'evidence-figure',
      (p) => (p.checkpoints[at]!.evidence!.sound['wear'] = 11),
    ],
    [
      'a figure that earns another grade than its fault',
      'evidence-figure',
      (p) => (p.faults[fault]!.cues[cue]!.drawing!.params['wear'] = 7),
    ],
    [
      'a fault drawn as the sound part',
      'evidence-same',
      (p) => {
        p.faults[fault]!.cues = [p.faults[fault]!.cues[cue]!];
        p.faults[fault]!.cues[0]!.drawing = { params: {} };
      },
    ],
    ['a drawing of a check that has none', 'evidence-kind', (p) => delete p.checkpoints[at]!.evidence],
    [
      'a lamp that is sound in the wrong state',
      'evidence-figure',
      (p) => {
        const lamps = p.checkpoints.find((each) => each.evidence?.kind === 'lamps')!;
        lamps.evidence!.sound['expected'] = 'flash';
      },
    ],
    [
      'a nut beyond those that there are',
      'evidence-params',
      (p) => {
        const nuts = p.checkpoints.find((each) => each.evidence?.kind === 'wheel-nuts')!;
        nuts.evidence!.sound['missing'] = [59];
      },
    ],
  ])('refuse %s', (_, rule, change) => {
    expect(found(change).filter((each) => each.startsWith(rule))).not.toEqual([]);
  });
  it('find nothing in the class as it is', () => {
    expect(found(() => {})).toEqual([]);
  });
});
