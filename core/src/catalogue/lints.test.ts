import { describe, expect, it } from 'vitest';
import { seededRandom } from '../statistics';
import { shippedClasses, shippedPack } from '../testing';
import {
  compose,
  GRADE_KINDS,
  orderFlaws,
  type Pack,
  packIntegrity,
  packLints,
  type Procedure,
  readPack,
} from './index';

const mower = shippedPack('push-mower');
const forklift = shippedPack('counterbalance-forklift');

/** What the rules find in a copy of a pack after a change, without the message. */
function found(pack: Pack, change: (copy: Pack) => void): string[] {
  const copy = structuredClone(pack);
  change(copy);
  return [...new Set(packLints(copy).map((each) => each.rule))];
}
const stepOf = (pack: Pack, id: string) =>
  pack.procedures.flatMap((each) => each.steps).find((each) => each.id === id)!;
const faultOf = (pack: Pack, id: string) => pack.faults.find((each) => each.id === id)!;

/** A breach of each rule, in a pack that keeps to all of them. */
const BREACHES: readonly [what: string, rule: string, pack: Pack, change: (copy: Pack) => void][] = [
  [
    'a word that says nothing',
    'unspeakable',
    mower,
    (p) => (faultOf(p, 'pm-f01').do = 'Put it back as left'),
  ],
  [
    'a check that looks like another',
    'unspeakable',
    mower,
    (p) => (p.checkpoints[0]!.sound = 'same as right'),
  ],
  ['a method without an appearance', 'appearance', mower, (p) => delete p.checkpoints[0]!.appears.press],
  [
    'an appearance to a sense that is not asked',
    'appearance',
    mower,
    (p) => (p.checkpoints[0]!.appears.smell = 'There is no smell'),
  ],
  ['a title too long', 'title', mower, (p) => (faultOf(p, 'pm-f01').title = 'a b c d e f g h i')],
  [
    'a title twice at a check',
    'title',
    mower,
    (p) => (faultOf(p, 'pm-f02').title = faultOf(p, 'pm-f01').title.toUpperCase()),
  ],
  ['an instruction of two words', 'too-short', mower, (p) => (faultOf(p, 'pm-f01').do = 'Replace it')],
  ['a consequence of one word', 'too-short', mower, (p) => (faultOf(p, 'pm-f01').why = 'wear')],
  ['a plant of one word', 'too-short', mower, (p) => (faultOf(p, 'pm-f01').plant!.how = 'Card')],
  ['a substitute of one word', 'too-short', mower, (p) => (faultOf(p, 'pm-f03').substitute = 'Photo')],
  [
    'a cue to a method that the check does not allow',
    'cue-method',
    mower,
    (p) => faultOf(p, 'pm-f01').cues.push({ method: 'smell', shows: 'It smells burnt' }),
  ],
  ['a mend without a bound', 'mend-bound', mower, (p) => delete faultOf(p, 'pm-f06').until],
  ['days without a number', 'mend-bound', mower, (p) => (faultOf(p, 'pm-f06').until!.bound = 'days')],
  ['a stop with a bound', 'mend-bound', mower, (p) => (faultOf(p, 'pm-f06').grade = 'stop')],
  ['a kind graded otherwise', 'grade-kind', mower, (p) => (faultOf(p, 'pm-f11').grade = 'watch')],
  [
    'a reason for departing that is not needed',
    'grade-kind',
    mower,
    (p) => (faultOf(p, 'pm-f11').departs = 'It is always topped up'),
  ],
  [
    'a fault neither planted nor shown otherwise',
    'substitute',
    mower,
    (p) => delete faultOf(p, 'pm-f03').substitute,
  ],
  [
    'a plant that alters a guard',
    'plant-alters',
    mower,
    (p) =>
      (faultOf(p, 'pm-f03').plant = { as: 'change', how: 'Take the guard off', retrieve: 'Put it on again' }),
  ],
  ['a dwell without a least', 'timing', mower, (p) => delete stepOf(p, 'rf2').timing!.least],
  ['a limit without a most', 'timing', forklift, (p) => delete stepOf(p, 'CF-SU-6').timing!.most],
  ['a figure without a unit', 'timing', mower, (p) => delete stepOf(p, 'rf2').timing!.unit],
  ['words that carry a figure', 'timing', mower, (p) => (stepOf(p, 'rf2').timing!.means = 'none')],
  ['figures the wrong way round', 'timing', mower, (p) => (stepOf(p, 'rf2').timing!.most = 1)],
  [
    'an option that sets nothing',
    'school-acts',
    mower,
    (p) => p.schools[0]!.options.forEach((each) => (each.sets = [])),
  ],
  [
    'an option that is taught only and sets something',
    'school-acts',
    mower,
    (p) => p.schools[0]!.options.forEach((each) => (each.taughtOnly = true)),
  ],
  [
    'an option that leaves a mend without a bound',
    'school-leaves',
    mower,
    (p) => p.schools[0]!.options[0]!.sets.push({ path: 'faults/pm-f01/grade', value: 'mend' }),
  ],
  [
    'a sheet that does not look at the hands',
    'sheet-measures',
    mower,
    (p) =>
      (p.sheet.sections[0]!.criteria = p.sheet.sections[0]!.criteria.filter(
        (each) => each.link?.measure !== 'hands-on',
      )),
  ],
  [
    'a criterion that judges a procedure it does not name',
    'sheet-procedure',
    mower,
    (p) => {
      for (const each of p.sheet.sections.flatMap((s) => s.criteria))
        if (each.link?.measure === 'procedure') delete each.link.procedures;
    },
  ],
  [
    'a critical step after the machine is alive',
    'critical-late',
    forklift,
    (p) => (stepOf(p, 'CF-SU-9').critical = true) && (stepOf(p, 'CF-FT-1').after = ['CF-SU-7']),
  ],
  [
    'a critical step that floats',
    'critical-floats',
    mower,
    (p) => {
      stepOf(p, 'sd2').after = [];
      stepOf(p, 'sd3').after = ['sd1'];
      stepOf(p, 'sd5').after = ['sd1'];
      stepOf(p, 'sd6').after = ['sd1'];
    },
  ],
  [
    'a step written before one it waits for',
    'written-order',
    mower,
    (p) => p.procedures.find((each) => each.id === 'pm-P4')!.steps.reverse(),
  ],
  [
    'a machine left with power on',
    'off-before-leaving',
    forklift,
    (p) => (stepOf(p, 'CF-SD-8').after = ['CF-SD-4']),
  ],
  [
    'no first motion',
    'first-motion',
    forklift,
    (p) => p.procedures.forEach((each) => each.steps.forEach((s) => delete s.moment)),
  ],
  [
    'a variant with no way to stop',
    'start-and-stop',
    mower,
    (p) => (p.procedures.find((each) => each.id === 'pm-P4')!.needs = ['variant!=mains']),
  ],
];

describe('the rules of the trade', () => {
  it.each(shippedClasses())('are kept by %s', (id) => {
    expect(packIntegrity(shippedPack(id))).toEqual([]);
  });
  it.each(BREACHES)('refuse %s', (_what, rule, pack, change) => {
    expect(found(pack, change)).toContain(rule);
  });
  it('name the line where it stands', () => {
    const copy = structuredClone(mower);
    faultOf(copy, 'pm-f01').do = 'Replace it';
    const text = JSON.stringify(copy, null, 1);
    const { errors } = readPack(text);
    expect(errors.map((each) => each.rule)).toEqual(['too-short']);
    expect(text.split('\n')[errors[0]!.line - 1]).toContain('Replace it');
  });
  it('have a breach for each', () => {
    const told = new Set(BREACHES.map(([, rule]) => rule));
    expect(told.size).toBe(20);
  });
});

describe('one grade for one kind of fault', () => {
  const tagged = shippedClasses().flatMap((id) =>
    shippedPack(id).faults.flatMap((fault) => (fault.kind ? [{ id, fault }] : [])),
  );
  it('stands in one table, each kind used, most of them in several classes', () => {
    const classes = new Map(GRADE_KINDS.map((kind) => [kind.id as string, new Set<string>()]));
    for (const { id, fault } of tagged) classes.get(fault.kind!)!.add(id);
    for (const [kind, used] of classes) expect(used.size, kind).toBeGreaterThan(0);
    expect([...classes.values()].filter((each) => each.size >= 3).length).toBeGreaterThan(24);
    expect(tagged.length).toBeGreaterThan(250);
  });
  it('is kept to everywhere but in the rows that say why not', () => {
    const departing = tagged.filter(({ fault }) => fault.departs).map(({ fault }) => fault.id);
    expect(departing.sort()).toEqual(['MB-F48', 'MC-F18', 'MS-F33', 'MS-F71', 'VM-F14', 'WE-F62', 'tg-f32']);
  });
});

/** An order of all steps that their partial order allows, drawn at random. */
function anyOrder(procedures: readonly Procedure[], random: () => number): string[] {
  const steps = procedures.flatMap((each) => each.steps);
  const done: string[] = [];
  const seen = new Set<string>();
  while (done.length < steps.length) {
    const free = steps.filter(
      (step) =>
        !seen.has(step.id) &&
        step.after.every((each) =>
          typeof each === 'string' ? seen.has(each) : each.anyOf.some((id) => seen.has(id)),
        ),
    );
    if (free.length === 0) throw new Error('no order does every step');
    const next = free[Math.floor(random() * free.length)]!;
    done.push(next.id);
    seen.add(next.id);
  }
  return done;
}

describe.each(shippedClasses())('any order that %s allows', (id) => {
  const pack = shippedPack(id);
  const axes = [{ id: 'variant', values: pack.variants.map((each) => each.id) }, ...pack.features];
  it('has every critical step in time and leaves no machine alive, for any fit-out', () => {
    const random = seededRandom(pack.faults.length * 31 + pack.checkpoints.length);
    for (let n = 0; n < 60; n++) {
      const chosen = Object.fromEntries(
        axes.map((axis, i) => [
          axis.id,
          // Each variant and each value by itself first, then anything.
          axis.values[n < 12 && i > 0 ? 0 : Math.floor(random() * axis.values.length)]!,
        ]),
      );
      const { variant, ...features } = chosen;
      const { procedures } = compose(pack, { variant: variant!, features });
      const where = JSON.stringify(chosen);
      expect(orderFlaws(procedures), where).toEqual([]);
      const order = anyOrder(procedures, random);
      const at = (step: string) => order.indexOf(step);
      const all = procedures.flatMap((each) => each.steps.map((step) => ({ step, kind: each.kind })));
      const moments = (...wanted: string[]) =>
        all.filter(({ step }) => step.moment && wanted.includes(step.moment)).map(({ step }) => at(step.id));
      const motions = moments('first-motion');
      const last = Math.max(...moments('power-on', 'first-motion'));
      for (const { step, kind } of all)
        if (kind === 'startup' && step.critical && !step.moment)
          expect(
            at(step.id) < last || motions.some((each) => each < at(step.id)),
            `${step.id} ${where}`,
          ).toBe(true);
      const off = moments('power-off');
      for (const leaving of moments('dismount'))
        expect(Math.min(...off) < leaving, `left alive ${where}`).toBe(true);
    }
  });
});
