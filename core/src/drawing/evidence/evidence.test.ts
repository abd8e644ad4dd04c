import { describe, expect, it } from 'vitest';
import { drawEvidence, EVIDENCE_KINDS, evidenceSvg, paramsSchema } from './index';
import type { EvidenceKind, EvidenceParam } from './kind';

/** Parameters in which the others of a kind show: a puddle that is there, a lamp that has a name. */
const USUAL: Readonly<Record<string, Record<string, unknown>>> = {
  area: { hazard: 'people', distance: 4 },
  breaker: { setting: 200, wanted: 200 },
  bucket: { fill: 0.5 },
  display: { lines: ['Ready', 'Charge 85 %'] },
  document: { title: 'Inspection sheet', days: 120 },
  gauge: { label: 'Oil pressure', unit: 'bar', value: 4, min: 0, max: 8, green: [2, 6], red: [0, 1] },
  lamps: {
    list: [
      { name: 'Oil pressure', state: 'on' },
      { name: 'Beacon', state: 'flash' },
    ],
  },
  plate: { says: '2000 kg at 600 mm' },
  ppe: { worn: ['boots'], missing: ['gloves'] },
  puddle: { colour: 'dark', across: 30, under: 'mast', fresh: 'yes' },
  selector: { positions: ['off', 'site', 'road'] },
  smoke: { colour: 'black', density: 0.6 },
  tyre: { bar: 3, wanted: 3 },
};

/** Values worth drawing of a parameter. */
function valuesOf(param: EvidenceParam): unknown[] {
  switch (param.type) {
    case 'choice':
      return Object.keys(param.says);
    case 'number': {
      const most = Math.min(param.most, Math.max(40, param.sound * 2));
      return [param.sound, Math.max(param.least, -1000), most];
    }
    case 'places':
      return [[], [2], [1, 3]];
    case 'text':
      return ['left wheel', 'right wheel & <frame>'];
    case 'texts':
      return [['one'], ['one', 'two']];
    case 'range':
      return [
        [0, 1],
        [2, 5],
      ];
    case 'lamps':
      return [[{ name: 'Beacon', state: 'on' }], [{ name: 'Beacon', state: 'off' }]];
  }
}
const drawn = (kind: EvidenceKind, params: Record<string, unknown>) =>
  drawEvidence({ kind: kind.id, params: { ...USUAL[kind.id], ...params } })!;

describe.each([...EVIDENCE_KINDS.values()].map((kind) => [kind.id, kind] as const))(
  'the drawing of %s',
  (_, kind) => {
    const parameters = Object.entries(kind.params);

    it('stays in its square, whatever its parameters are', () => {
      for (const [key, param] of parameters)
        for (const value of valuesOf(param))
          for (const mark of drawn(kind, { [key]: value }).marks) {
            if ('text' in mark) {
              expect(mark.y).toBeGreaterThan(0);
              expect(mark.y).toBeLessThan(103);
              continue;
            }
            expect(mark.d, `${key} ${String(value)}`).not.toMatch(/NaN|undefined|Infinity/);
            const start = /^M(-?[\d.]+) (-?[\d.]+)/.exec(mark.d)!;
            for (const at of [Number(start[1]), Number(start[2])]) {
              expect(at, `${key} ${String(value)}`).toBeGreaterThan(-8);
              expect(at, `${key} ${String(value)}`).toBeLessThan(108);
            }
          }
    });

    it('says something else wherever it shows something else', () => {
      for (const [key, param] of parameters) {
        const seen = valuesOf(param).map((value) => drawn(kind, { [key]: value }));
        if (param.type === 'number') {
          // A little more or less has the same words; the rows of the packs are held to theirs below.
          if (new Set(seen.map((each) => JSON.stringify(each.marks))).size > 1)
            expect(new Set(seen.map((each) => each.text)).size, key).toBeGreaterThan(1);
          continue;
        }
        for (const one of seen)
          for (const other of seen)
            if (JSON.stringify(one.marks) !== JSON.stringify(other.marks))
              expect(one.text, `${key}: ${one.text}`).not.toBe(other.text);
      }
    });

    it('shows every state that it has words for', () => {
      for (const [key, param] of parameters) {
        if (param.type !== 'choice') continue;
        const looks = new Map<string, string>();
        for (const [value, says] of Object.entries(param.says)) {
          if (!says) continue;
          const look = JSON.stringify(drawn(kind, { [key]: value }).marks);
          expect(looks.get(look), `${key}: ${value} looks like another`).toBeUndefined();
          looks.set(look, value);
        }
      }
    });

    it('is an SVG with its words, and refuses parameters that it does not have', () => {
      const svg = evidenceSvg(drawn(kind, {}));
      expect(svg).toMatch(/^<svg [^>]*viewBox/);
      expect(svg).toContain(`<title>${kind.title}`);
      expect(paramsSchema(kind).safeParse({ ...USUAL[kind.id] }).success).toBe(true);
      expect(paramsSchema(kind).safeParse({ nonsense: 1 }).success).toBe(false);
    });
  },
);

it('writes figures only for whoever measures, and never lets words break the picture', () => {
  const tyre = { kind: 'tyre', params: { tread: 11, bar: 4.2, wanted: 8 } };
  expect(drawEvidence(tyre)!.figures).toEqual([]);
  expect(drawEvidence(tyre, { figures: true })!.figures).toEqual([
    'tread 11 mm',
    'pressure 4.2 bar',
    'asked for 8 bar',
  ]);
  expect(drawEvidence(tyre, { figures: true })!.text).toContain('pressure 4.2 bar');
  expect(evidenceSvg(drawEvidence({ kind: 'plate', params: { says: '<b>"5" & 6' } })!)).toContain(
    '&lt;b&gt;',
  );
  expect(drawEvidence({ kind: 'no such kind', params: {} })).toBeNull();
});
