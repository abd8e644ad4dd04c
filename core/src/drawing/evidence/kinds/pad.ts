import { evidenceKind, number, wanted } from '../kind';
import { arrow, box, dashed, ellipse, type Mark, poly, shape, solid, stroke, THIN } from '../marks';

/** A wear pad, shoe or lining: what is left of it. */
export const pad = evidenceKind({
  id: 'pad',
  title: 'Wear pad',
  sound: 'thick enough',
  params: {
    left: number('left', 'mm', [15, 0, 60, 0.5], (n) =>
      n < 0.5
        ? 'worn to the metal'
        : n < 3
          ? 'worn very thin'
          : n < 7
            ? 'worn thin'
            : n < 11
              ? 'half of it left'
              : '',
    ),
    present: wanted('There', 'missing'),
  },
  draw: ({ left, present }) => {
    const marks: Mark[] = [shape(box(8, 8, 84, 18, 2), 'deep'), shape(box(4, 78, 92, 14, 1), 'shade')];
    if (present === 'no')
      return [
        ...marks,
        dashed(box(20, 26, 60, 34), 2.2),
        solid(ellipse(34, 17, 3)),
        solid(ellipse(66, 17, 3)),
      ];
    const h = Math.min(50, left * 2.4);
    marks.push(shape(box(20, 26, 60, Math.max(1, h), 1), 'ground'));
    for (let x = 28; x < 78; x += 8) marks.push(stroke(poly(x, 27, x, 25 + h), THIN, 'quiet'));
    marks.push(...arrow(90, 76, 90, Math.min(70, 28 + h)), dashed(poly(14, 26 + h, 96, 26 + h), 1.4));
    return marks;
  },
});
