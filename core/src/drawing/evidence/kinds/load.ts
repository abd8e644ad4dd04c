import { choice, evidenceKind, number } from '../kind';
import { box, dashed, type Mark, poly, shape, stroke, THIN } from '../marks';

/** A load on forks or a deck. */
export const load = evidenceKind({
  id: 'load',
  title: 'Load',
  sound: 'upright and bound',
  params: {
    kg: number('mass', 'kg', [0, 0, 100_000], () => ''),
    centre: number('centre at', 'mm', [0, 0, 5000], () => ''),
    wrapped: choice('Bound', { yes: '', no: 'not bound', leaning: 'leaning' }),
    label: choice(
      'Label',
      { none: '', readable: '', missing: 'its label missing' },
      { readable: 'its label readable' },
    ),
  },
  draw: ({ wrapped, label }) => {
    const lean = wrapped === 'leaning' ? 14 : 0;
    const marks: Mark[] = [shape(box(8, 84, 84, 10, 1), 'shade')];
    const row = (y: number, dx: number) =>
      [18, 40, 62].map((x) => shape(box(x + dx, y, 21, 20, 1), 'ground'));
    marks.push(...row(63, 0), ...row(42, lean * 0.5), ...row(21, lean));
    if (wrapped === 'yes')
      marks.push(
        stroke(box(15, 18, 71, 68, 3), THIN),
        ...[32, 50, 68].map((y) => stroke(poly(15, y, 86, y - 8), 1.2, 'quiet')),
      );
    if (wrapped === 'leaning') marks.push(dashed(poly(83, 14, 83, 84)));
    if (label === 'readable')
      marks.push(
        shape(box(42, 46, 18, 12), 'ground', 2),
        stroke(`${poly(45, 50, 57, 50)}${poly(45, 54, 54, 54)}`, 1.4),
      );
    if (label === 'missing') marks.push(dashed(box(42, 46, 18, 12), 2));
    return marks;
  },
});
