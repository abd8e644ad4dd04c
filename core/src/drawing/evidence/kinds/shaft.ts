import { choice, evidenceKind } from '../kind';
import { box, dashed, ellipse, hexagon, type Mark, poly, shape, stroke, THIN, toAndFro } from '../marks';

/** A shaft that turns, and what is wound on it. */
export const shaft = evidenceKind({
  id: 'shaft',
  title: 'Shaft',
  sound: 'bare and bolted',
  params: {
    wound: choice('Wound', {
      bare: '',
      cloth: 'cloth wound on it',
      wire: 'wire wound on it',
      grass: 'grass wound on it',
    }),
    bolts: choice('Bolts', { all: '', missing: 'a bolt of its flange missing' }),
    joint: choice('Joint', { tight: '', play: 'play in its joint' }),
    guard: choice('Guard', { none: '', on: '', off: 'its guard off' }, { on: 'its guard on' }),
  },
  draw: ({ wound, bolts: held, joint, guard }) => {
    const marks: Mark[] = [
      shape(box(6, 28, 12, 44, 2), 'shade'),
      shape(box(82, 28, 12, 44, 2), 'shade'),
      shape(box(18, 42, 64, 16)),
    ];
    [34, 66].forEach((y, i) =>
      marks.push(
        held === 'missing' && i === 0
          ? shape(ellipse(88, y, 3.4), 'deep', THIN)
          : shape(hexagon(88, y, 4.6), 'ground', 2),
        shape(hexagon(12, y, 4.6), 'ground', 2),
      ),
    );
    if (wound === 'cloth')
      marks.push(
        shape('M36 36Q50 30 64 36L66 66Q50 72 34 66Z', 'deep'),
        stroke('M60 66q12 8 18 26M66 62q12 6 22 24', 4),
      );
    if (wound === 'wire')
      marks.push(
        ...[38, 44, 50, 56, 62].map((x) => stroke(poly(x, 38, x + 3, 62), 2.4)),
        stroke('M64 60q10 14 22 16', 2.4),
      );
    if (wound === 'grass')
      marks.push(
        ...[34, 39, 44, 49, 54, 59, 64].map((x, i) => stroke(`M${x} 38q${i % 2 ? 4 : -4} 14 2 26t4 12`, 2)),
      );
    if (joint === 'play') marks.push(...toAndFro(12, 78, 12, 96));
    if (guard === 'on') marks.push(stroke('M14 24H86M14 76H86', 3, 'quiet'));
    if (guard === 'off') marks.push(dashed('M14 24H86M14 76H86', 2, 'quiet'));
    return marks;
  },
});
