import { choice, evidenceKind, howMuch, number } from '../kind';
import { arrow, box, closed, dashed, type Mark, poly, shape, stroke } from '../marks';

/** A support leg or jack. */
export const jack = evidenceKind({
  id: 'jack',
  title: 'Support leg',
  sound: '',
  params: {
    leg: choice('Leg', { up: 'up', down: 'down', middle: 'half way', bent: 'bent', slips: 'slips back' }),
    pad: choice(
      'Pad',
      { none: '', yes: '', no: 'no pad under it', sunk: 'its pad sunk into the ground' },
      { yes: 'a pad under it' },
    ),
    hangs: number('hangs', 'cm', [0, 0, 100], howMuch([1, 'hangs low'])),
  },
  draw: ({ leg, pad, hangs }) => {
    const reach = leg === 'up' ? 26 + Math.min(22, hangs * 0.6) : leg === 'middle' ? 36 : 48;
    const ground = 86;
    const bend = leg === 'bent' ? 16 : 0;
    const foot = 34 + reach;
    const marks: Mark[] = [stroke(poly(2, ground, 98, ground)), shape(box(6, 8, 88, 14, 2), 'shade')];
    if (bend) marks.push(dashed(poly(50, 40, 50, foot)));
    marks.push(
      stroke(`M50 34Q${50 + bend * 0.2} ${34 + reach / 2} ${50 + bend} ${foot}`, 10),
      stroke(`M50 34Q${50 + bend * 0.2} ${34 + reach / 2} ${50 + bend} ${foot}`, 5.4, 'ground'),
      shape(box(40, 16, 20, 30, 2), 'ground'),
      shape(box(36 + bend, foot - 1, 28, 6, 2), 'deep'),
    );
    if (pad === 'yes') marks.push(shape(box(24 + bend, ground - 6, 52, 7, 1), 'ground'));
    if (pad === 'sunk')
      marks.push(shape(closed(22, ground - 4, 76, ground + 6, 74, ground + 13, 20, ground + 3), 'ground'));
    if (pad === 'no') marks.push(dashed(box(24, ground + 3, 52, 7, 1)));
    if (leg === 'slips') marks.push(...arrow(78, 78, 78, 46), dashed(box(36, foot - 14, 28, 6)));
    return marks;
  },
});
