import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  arc,
  box,
  closed,
  crackMarks,
  dashed,
  ellipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A fork arm from the side, its tip against the other arm, and how the two stand under a pallet. */
export const fork = evidenceKind({
  id: 'fork',
  title: 'Fork arms',
  sound: 'straight, level and locked',
  surfaceAt: [58, 60, 9],
  params: {
    wear: number(
      'worn at the heel',
      '%',
      [4, 0, 60, 0.1],
      howMuch([0, ''], [6, 'the heel thinner'], [10, 'the heel worn thin']),
    ),
    crack: number('crack', 'mm', [0, 0, 200], howMuch([1, 'a crack at the heel'])),
    tips: number(
      'tips apart',
      '% of the blade',
      [0.5, 0, 20, 0.1],
      howMuch([0, ''], [2, 'the tips not level']),
    ),
    twist: number('twist', '°', [0, 0, 30, 0.5], howMuch([1, 'a blade twisted'])),
    spread: number(
      'spread',
      'of the pallet',
      [0.62, 0, 1, 0.01],
      howMuch([0, 'the arms close together'], [0.5, '']),
    ),
    lock: choice('Lock', { in: '', out: 'the lock pin out' }),
    offset: number('off the centre', 'mm', [0, 0, 500], howMuch([1, 'one arm further from the centre'])),
    clamp: choice(
      'Clamp',
      { none: '', holds: '', slips: 'the clamp slips', open: 'the clamp open' },
      { holds: 'its clamp holds' },
    ),
  },
  draw: (v) => {
    const thin = Math.min(8, v.wear * 0.5);
    const tip = Math.min(16, v.tips * 2.6);
    const marks: Mark[] = [];
    if (tip > 2) marks.push(shape(closed(22, 52 - tip * 0.2, 92, 60 - tip, 22, 66 - tip * 0.2), 'deep', 2));
    marks.push(
      shape(
        closed(8, 6, 22, 6, 22, 52 + thin, 92, 62, 92, 66, 20, 66 - thin * 0.4, 8 + thin * 0.6, 58),
        'ground',
      ),
    );
    if (thin > 2) marks.push(dashed('M22 48V52H30M8 58L16 67H34', 1.6));
    if (v.twist > 0)
      marks.push(
        stroke(closed(80, 58, 90, 58 + v.twist * 0.5, 89, 67 + v.twist * 0.5, 79, 67), THIN),
        stroke(arc(85, 62, 11, 20, 100), 2),
      );
    if (v.crack > 0) marks.push(...crackMarks(22, 54, 12, 54 + Math.min(12, v.crack * 0.25)));
    marks.push(shape(box(2, 10, 8, 9), 'shade', 2), shape(box(2, 40, 8, 9), 'shade', 2));
    marks.push(v.lock === 'in' ? stroke(poly(5, 2, 5, 16), 4) : stroke(poly(30, 14, 42, 8), 4));
    if (v.lock === 'out') marks.push(solid(ellipse(6, 14, 2)));
    if (v.clamp !== 'none')
      marks.push(v.clamp === 'open' ? stroke('M60 20L80 8M60 24H84', 4) : stroke('M60 14H82V26H60Z', 4));
    if (v.clamp === 'slips') marks.push(...toAndFro(64, 34, 80, 34));
    const half = 44 * v.spread;
    const off = Math.min(14, v.offset * 0.12);
    marks.push(
      shape(box(6, 78, 88, 16, 1), 'shade', 2),
      stroke(poly(50, 76, 50, 96), 1.2, 'quiet'),
      solid(box(50 - half - 3 - off, 74, 7, 24)),
      solid(box(50 + half - 4, 74, 7, 24)),
    );
    return marks;
  },
});
