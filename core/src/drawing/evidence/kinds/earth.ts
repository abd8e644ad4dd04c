import { choice, evidenceKind } from '../kind';
import { box, dashed, type Mark, poly, rustMarks, shape, stroke, toAndFro } from '../marks';

/** The earth rod and its lead. */
export const earth = evidenceKind({
  id: 'earth',
  title: 'Earthing',
  sound: 'rod in, lead joined',
  params: {
    lead: choice('Lead', { joined: '', loose: 'its lead loose at the clamp', missing: 'no lead' }),
    rod: choice('Rod', { in: '', out: 'its rod lies on the ground' }),
    clamp: choice('Clamp', { clean: '', rusty: 'its clamp rusty' }),
  },
  draw: ({ lead, rod, clamp }) => {
    const marks: Mark[] = [
      stroke(poly(2, 66, 98, 66)),
      ...[8, 24, 40, 56, 72, 88].map((x) => stroke(poly(x, 76, x + 6, 68), 1.3, 'quiet')),
      shape(box(6, 26, 36, 36, 3), 'shade'),
      stroke('M24 40v10M16 50h16M19 54h10M22 58h4', 2),
    ];
    if (rod === 'in') marks.push(shape(box(74, 36, 6, 58), 'ground'));
    else marks.push(shape(box(54, 58, 44, 6), 'ground'));
    const [x, y] = rod === 'in' ? [77, 42] : [60, 58];
    marks.push(shape(box(x - 7, y - 5, 14, 10, 2), 'deep'));
    if (clamp === 'rusty') marks.push(...rustMarks(x, y, 9));
    if (lead === 'joined') marks.push(stroke(`M42 36Q58 20 ${x} ${y - 5}`, 4));
    if (lead === 'loose')
      marks.push(
        stroke('M42 36Q54 22 62 28', 4),
        ...[-2, 1, 4].map((d) => stroke(poly(61, 27 + d, 67, 29 + d * 1.6), 1.4)),
        ...toAndFro(66, 16, 78, 24),
      );
    if (lead === 'missing') marks.push(dashed(`M42 36Q58 20 ${x} ${y - 5}`, 2));
    return marks;
  },
});
