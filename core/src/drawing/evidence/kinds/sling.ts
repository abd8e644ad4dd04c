import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  box,
  closed,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A lifting sling. */
export const sling = evidenceKind({
  id: 'sling',
  title: 'Sling',
  sound: 'whole, its label readable',
  params: {
    type: choice('Type', { web: '', chain: 'of chain', wire: 'of wire rope' }),
    cut: number(
      'cut',
      '% of its width',
      [0, 0, 100],
      howMuch([1, 'cut at its edge'], [30, 'cut far through']),
    ),
    stain: choice('Stain', { none: '', oil: 'oil on it', burnt: 'burnt' }),
    label: choice('Label', { readable: '', missing: 'its label missing' }),
    stitching: choice('Stitching', { whole: '', pulled: 'its stitching pulled' }),
    tension: choice('Tension', { even: '', uneven: 'one leg slack' }),
  },
  draw: (v) => {
    const path = v.tension === 'uneven' ? 'M50 8Q20 30 34 60T20 92M50 8L82 92' : 'M50 8L20 92M50 8L82 92';
    const marks: Mark[] = [stroke(path, 13), stroke(path, 8, 'ground'), shape(ellipse(50, 8, 6), 'deep')];
    if (v.type === 'chain') marks.push(dashed(path, 3));
    if (v.type === 'wire') marks.push(dashed(path, 7));
    if (v.cut > 0)
      marks.push(
        solid(closed(58, 44, 72 - 6 + Math.min(8, v.cut * 0.1), 50, 60, 56), 'ground'),
        stroke(poly(58, 44, 63 + Math.min(10, v.cut * 0.12), 50, 60, 57), 3),
      );
    if (v.stain === 'oil') marks.push(...filledEllipse(72, 64, 9, 7, 'oily'));
    if (v.stain === 'burnt') marks.push(...filledEllipse(72, 64, 9, 7, 'burnt'));
    marks.push(v.label === 'readable' ? shape(box(34, 62, 20, 26, 1)) : dashed(box(34, 62, 20, 26, 1)));
    if (v.label === 'readable')
      marks.push(stroke(`${poly(37, 70, 51, 70)}${poly(37, 76, 51, 76)}${poly(37, 82, 46, 82)}`, THIN));
    if (v.stitching === 'pulled') marks.push(stroke('M20 84q-6 4 -10 0M22 80q-8 0 -12 -4', THIN));
    return marks;
  },
});
