import { choice, evidenceKind } from '../kind';
import { box, dashed, ellipse, type Mark, poly, shape, stroke, words } from '../marks';

/** A cord or wire that stops a machine when pulled. */
export const pullCord = evidenceKind({
  id: 'pull-cord',
  title: 'Pull cord',
  sound: 'tight and free',
  params: {
    cord: choice('Cord', {
      tight: '',
      slack: 'slack',
      frayed: 'frayed',
      'tied-up': 'tied up',
      buried: 'buried',
      missing: 'missing',
    }),
    sign: choice(
      'Sign',
      { none: '', readable: '', missing: 'its sign missing' },
      { readable: 'its sign readable' },
    ),
  },
  draw: ({ cord, sign }) => {
    const marks: Mark[] = [shape(box(2, 30, 16, 26, 2), 'deep'), shape(box(82, 30, 16, 26, 2), 'deep')];
    const path = {
      tight: 'M18 43H82',
      slack: 'M18 43Q50 96 82 43',
      frayed: 'M18 43H42M58 43H82',
      'tied-up': 'M18 43Q34 30 46 14Q52 10 56 14Q66 30 82 43',
      buried: 'M18 43Q36 70 50 78Q66 70 82 43',
      missing: '',
    }[cord];
    if (path) marks.push(stroke(path, 4));
    if (cord === 'frayed')
      marks.push(
        stroke('M42 43q8 -6 14 -10M42 43q8 -1 15 -2M42 43q8 5 13 9M58 43q-8 5 -14 8M58 43q-7 -4 -12 -8', 1.6),
      );
    if (cord === 'tied-up') marks.push(shape(ellipse(51, 13, 6), 'ground'));
    if (cord === 'buried') marks.push(shape('M24 82Q36 62 50 66T78 82Z', 'deep'));
    if (cord === 'missing') marks.push(dashed(poly(18, 43, 82, 43), 2));
    if (sign === 'readable')
      marks.push(shape(box(34, 82, 32, 14, 1)), words('STOP', 50, 92.5, 9, { bold: true }));
    if (sign === 'missing') marks.push(dashed(box(34, 82, 32, 14, 1)));
    return marks;
  },
});
