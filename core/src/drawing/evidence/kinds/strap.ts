import { choice, evidenceKind, howMuch, number } from '../kind';
import { box, closed, dashed, type Mark, poly, shape, solid, stroke } from '../marks';

/** Tie-downs over a load. */
export const strap = evidenceKind({
  id: 'strap',
  title: 'Tie-downs',
  sound: 'tight and whole',
  params: {
    count: number('Straps', '', [1, 0, 8], (n) => (n === 1 ? 'one strap' : `${n} straps`)),
    of: number('Of', '', [0, 0, 8], (n) => (n === 0 ? '' : `${n} asked for`)),
    tension: choice('Tension', { tight: '', slack: 'slack' }),
    cut: number('cut', '% of its width', [0, 0, 100], howMuch([1, 'cut at its edge'], [50, 'cut through'])),
    hook: choice('Hook', { closed: '', open: 'a hook open' }),
  },
  draw: ({ count, of, tension, cut, hook: end }) => {
    const marks: Mark[] = [shape(box(14, 26, 72, 52, 3), 'shade'), stroke(poly(2, 90, 98, 90), 4)];
    const n = Math.max(count, of, 1);
    for (let i = 0; i < n; i++) {
      const x = 50 + (i - (n - 1) / 2) * (56 / n);
      if (i >= count) marks.push(dashed(poly(x, 24, x, 90), 2));
      else {
        marks.push(
          stroke(
            tension === 'slack'
              ? `M${x} 90Q${x - 12} 62 ${x} 40Q${x + 12} 20 ${x - 2} 14`
              : poly(x, 90, x, 24),
            8,
          ),
          stroke(
            tension === 'slack'
              ? `M${x} 90Q${x - 12} 62 ${x} 40Q${x + 12} 20 ${x - 2} 14`
              : poly(x, 90, x, 24),
            3.4,
            'ground',
          ),
        );
        if (i === 0 && cut > 0)
          marks.push(
            solid(closed(x - 7, 44, x - 5 + Math.min(12, cut * 0.12), 50, x - 7, 56), 'ground'),
            stroke(poly(x - 6, 43, x - 5 + Math.min(11, cut * 0.12), 50, x - 6, 57), 2.6),
          );
        marks.push(
          i === 0 && end === 'open' ? stroke(`M${x} 88v6h8`, 3) : stroke(`M${x} 86v6a4 4 0 0 0 8 0`, 3),
        );
      }
    }
    return marks;
  },
});
