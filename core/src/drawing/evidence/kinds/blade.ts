import { choice, evidenceKind, howMuch, number, several, wanted } from '../kind';
import { crackMarks, dashed, ellipse, hexagon, type Mark, poly, shape, stroke, THIN } from '../marks';

/** A cutting edge from the front: what is left of it under its bolts. */
export const blade = evidenceKind({
  id: 'blade',
  title: 'Cutting edge',
  sound: 'whole and bolted',
  params: {
    left: number('left', 'mm', [60, 0, 200], (n) =>
      n <= 3 ? 'worn to nothing' : `about ${Math.max(1, Math.round(n / 10))} cm of it left`,
    ),
    limit: number('limit', 'mm', [0, 0, 200], howMuch([1, 'its limit marked'])),
    crack: number('crack', 'mm', [0, 0, 200], howMuch([1, 'a short crack'], [40, 'a long crack'])),
    worn: choice('Worn', { even: '', 'one-side': 'worn more on one side', corner: 'a corner worn off' }),
    'bolts-missing': number('Bolts missing', '', [0, 0, 6], several('bolt missing', 'bolts missing')),
    level: wanted('Level', 'hangs out of level'),
    edge: choice('Edge', { even: '', wavy: 'its edge wavy' }),
  },
  draw: (v) => {
    const tilt = v.level === 'no' ? 8 : 0;
    const end = (mm: number) => 40 + Math.min(100, mm) * 0.5;
    const a = end(v.left);
    const right = v.worn === 'one-side' ? Math.max(38, a - 22) : a;
    const bottom =
      v.worn === 'corner'
        ? `L92 ${a - 18}Q84 ${a - 2} 70 ${a}L8 ${a}`
        : v.edge === 'wavy'
          ? `L92 ${a}q-10.5 -12 -21 0t-21 0t-21 0t-21 0`
          : `L92 ${right}L8 ${a}`;
    const marks: Mark[] = [
      shape(`M8 ${16 - tilt}L92 ${16 + tilt}L92 ${40 + tilt}L8 ${40 - tilt}Z`, 'shade'),
      shape(`M8 ${30 - tilt}L92 ${30 + tilt}${bottom}Z`),
      dashed(poly(4, 92, 96, 92)),
    ];
    if (v.limit > 0) marks.push(stroke(poly(2, end(v.limit), 98, end(v.limit)), THIN, 'quiet'));
    [18, 34, 50, 66, 82].forEach((x, i) => {
      const y = 35 + ((x - 50) / 42) * tilt;
      marks.push(
        i < v['bolts-missing'] ? shape(ellipse(x, y, 4), 'deep', THIN) : shape(hexagon(x, y, 5), 'shade', 2),
      );
    });
    if (v.crack > 0)
      marks.push(
        ...crackMarks(58, a, 58 - Math.min(24, v.crack * 0.3), a - Math.min(46, 10 + v.crack * 0.5)),
      );
    return marks;
  },
});
