import { choice, evidenceKind, howMuch, line, number } from '../kind';
import { box, dashed, lettering, type Mark, onCircle, poly, shape, solid, stroke, THIN } from '../marks';

/** A bar, plate or bracket that should be straight. */
export const bend = evidenceKind({
  id: 'bend',
  title: 'Straightness',
  sound: 'straight',
  surfaceAt: [26, 66, 12],
  params: {
    part: line('Part', ''),
    degrees: number(
      'bend',
      '°',
      [0, 0, 60],
      howMuch([1, 'a little out of line'], [7, 'bent'], [16, 'bent far over']),
    ),
    dent: number('dent', 'mm', [0, 0, 60], howMuch([1, 'a shallow dent'], [6, 'a dent'])),
    clip: choice(
      'Clip',
      { none: '', fitted: '', missing: 'its clip missing' },
      { fitted: 'its clip fitted' },
    ),
  },
  draw: ({ part, degrees, dent, clip }) => {
    const marks: Mark[] = [];
    const [x, y] = onCircle(50, 66, 42, 90 - Math.min(75, degrees * 1.6));
    const bar = poly(8, 66, 50, 66, x, y);
    if (degrees > 0) marks.push(dashed(box(50, 58, 42, 16)));
    marks.push(stroke(bar, 17), stroke(bar, 11, 'shade'));
    if (dent > 0) {
      const deep = Math.min(11, 4 + dent * 0.4);
      marks.push(
        solid(`M22 56Q30 ${58 + deep * 1.6} 38 56Z`),
        stroke(`M18 60Q30 ${60 + deep * 1.6} 42 60`, THIN),
      );
    }
    if (clip === 'fitted') marks.push(shape(box(10, 52, 10, 28, 2)));
    if (clip === 'missing') marks.push(dashed(box(10, 52, 10, 28, 2)));
    if (part) marks.push(...lettering(part, 50, 16, { letters: 21, lines: 2 }));
    return marks;
  },
});
