import { choice, evidenceKind } from '../kind';
import { arc, box, closed, dashed, ellipse, type Mark, poly, shape, solid, stroke, THIN } from '../marks';

/** The bar that locks a joint between two halves of a frame, seen from above. */
export const lockBar = evidenceKind({
  id: 'lock-bar',
  title: 'Locking bar',
  sound: '',
  params: {
    state: choice('State', {
      stowed: 'stowed and pinned',
      across: 'across the joint, locking it',
      missing: 'missing',
      unpinned: 'without its pin',
    }),
  },
  draw: ({ state }) => {
    const marks: Mark[] = [
      shape(closed(4, 14, 40, 14, 52, 50, 40, 86, 4, 86), 'shade'),
      shape(closed(96, 14, 62, 14, 50, 50, 62, 86, 96, 86), 'shade'),
      shape(ellipse(51, 50, 7)),
    ];
    const bar =
      state === 'across'
        ? poly(24, 72, 78, 72)
        : state === 'unpinned'
          ? poly(14, 24, 32, 48)
          : poly(16, 24, 16, 74);
    if (state === 'missing')
      marks.push(dashed(box(11, 22, 10, 54, 4), 2), solid(ellipse(16, 28, 2.6)), solid(ellipse(16, 70, 2.6)));
    else marks.push(stroke(bar, 10), stroke(bar, 5, 'ground'));
    if (state === 'stowed') marks.push(solid(ellipse(16, 28, 3.2)), solid(ellipse(16, 70, 3.2)));
    if (state === 'across') marks.push(solid(ellipse(26, 72, 3.2)), solid(ellipse(76, 72, 3.2)));
    if (state === 'unpinned')
      marks.push(
        solid(ellipse(14, 24, 3.2)),
        stroke(ellipse(16, 70, 3.4), 2),
        stroke(arc(14, 24, 34, 110, 150), THIN),
      );
    return marks;
  },
});
