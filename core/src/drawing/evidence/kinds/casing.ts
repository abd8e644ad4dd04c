import { choice, evidenceKind, howMuch, line, number } from '../kind';
import {
  box,
  crackMarks,
  drop,
  ellipse,
  filledBox,
  filledEllipse,
  hexagon,
  lettering,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A housing with a seam, bolts and breather, and what comes out of it. */
export const casing = evidenceKind({
  id: 'casing',
  title: 'Housing',
  sound: 'dry at its seam',
  surfaceAt: [72, 38, 13],
  params: {
    part: line('Part', ''),
    seam: choice('Seam', {
      dry: '',
      damp: 'its seam damp',
      string: 'a string of oil along its seam',
      drip: 'a drop hangs from its seam',
      run: 'oil runs from its seam',
    }),
    breather: choice('Breather', {
      clean: '',
      clogged: 'its breather clogged',
      missing: 'its breather missing',
    }),
    bolts: choice('Bolts', { all: '', missing: 'a bolt of it missing' }),
    crack: number('crack', 'mm', [0, 0, 300], howMuch([1, 'a crack in it'])),
  },
  draw: ({ part, seam, breather, bolts: held, crack }) => {
    const marks: Mark[] = [
      shape('M10 34Q10 22 22 22H78Q90 22 90 34V66Q90 80 74 80H26Q10 80 10 66Z', 'shade'),
      stroke(poly(6, 54, 94, 54), 4),
    ];
    [18, 39, 60, 82].forEach((x, i) =>
      marks.push(
        held === 'missing' && i === 2
          ? shape(ellipse(x, 54, 4), 'deep', THIN)
          : shape(hexagon(x, 54, 5), 'ground', 2),
      ),
    );
    marks.push(
      breather === 'missing' ? shape(ellipse(50, 21, 4), 'deep', THIN) : shape(box(45, 12, 10, 10, 2)),
    );
    if (breather === 'clogged') marks.push(...filledEllipse(50, 13, 9, 7, 'dirty'));
    if (seam === 'damp') marks.push(...filledBox(22, 58, 36, 8, 'milky'));
    if (seam === 'string') marks.push(stroke('M22 60q8 4 16 0t16 0t16 0t12 0', 3.4));
    if (seam === 'drip') marks.push(solid(drop(48, 90, 5)), stroke(poly(48, 57, 48, 80), THIN));
    if (seam === 'run') marks.push(...[34, 48, 62].map((x) => stroke(`M${x} 58q3 10 0 18t0 22`, 3.4)));
    if (crack > 0) marks.push(...crackMarks(22, 74, 22 + Math.min(40, 12 + crack * 0.3), 64));
    if (part) marks.push(...lettering(part, 50, 6, { letters: 21, lines: 1 }));
    return marks;
  },
});
