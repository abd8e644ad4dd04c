import { choice, evidenceKind, number } from '../kind';
import { box, ellipse, type Mark, onCircle, poly, shape, solid, stroke, words } from '../marks';

/** A selector or key switch: where it stands. */
export const selector = evidenceKind({
  id: 'selector',
  title: 'Selector',
  sound: '',
  params: {
    positions: { type: 'texts', label: 'Positions', sound: ['off', 'on'], says: () => '' },
    at: number('Stands at', '', [1, 1, 8], () => ''),
    seal: choice('Seal', { none: '', whole: 'its seal whole', broken: 'its seal broken' }),
    key: choice('Key', { none: '', in: 'key in', out: 'key out' }),
  },
  says: {
    at: ({ positions, at }) => `at ${positions[at - 1] ?? at}, of ${positions.join(', ')}`,
  },
  draw: ({ positions, at, seal, key }) => {
    const n = Math.max(2, positions.length);
    const angle = (i: number) => -58 + (116 * i) / (n - 1);
    const marks: Mark[] = [shape(ellipse(50, 62, 26), 'shade')];
    positions.forEach((text, i) => {
      const [x, y] = onCircle(50, 62, 38, angle(i));
      marks.push(
        stroke(poly(...onCircle(50, 62, 28, angle(i)), ...onCircle(50, 62, 32, angle(i))), 2.4),
        words(text.slice(0, 9), x, y - 1, 8.4, {
          bold: i === at - 1,
        }),
      );
    });
    marks.push(
      stroke(poly(...onCircle(50, 62, 22, angle(at - 1)), ...onCircle(50, 62, 14, angle(at - 1) + 180)), 10),
      stroke(poly(50, 62, ...onCircle(50, 62, 19, angle(at - 1))), 3, 'ground'),
    );
    if (seal === 'whole') marks.push(stroke('M70 78Q84 86 80 70', 2), shape(ellipse(82, 84, 5), 'ground', 2));
    if (seal === 'broken')
      marks.push(stroke('M70 78q4 4 8 4M88 72q-2 -4 -6 -4', 2), shape(ellipse(88, 90, 5), 'ground', 2));
    if (key !== 'none')
      marks.push(
        key === 'in' ? shape(ellipse(50, 62, 6), 'ground') : solid(box(48.6, 56, 2.8, 12), 'ground'),
      );
    return marks;
  },
});
