import { choice, evidenceKind } from '../kind';
import { box, lettering, dashed, type Mark, poly, shape, stroke, toAndFro } from '../marks';

/** A ladder or rope for getting off. */
export const ladder = evidenceKind({
  id: 'ladder',
  title: 'Ladder',
  sound: '',
  params: {
    type: choice('Type', { stair: '', rope: 'a rope ladder', chain: 'a chain ladder' }),
    state: choice('State', { stowed: 'stowed', loose: 'hanging loose', damaged: 'a rung broken' }),
  },
  draw: ({ type, state }) => {
    const name = lettering({ stair: '', rope: 'rope', chain: 'chain' }[type], 50, 24, { size: 9 });
    if (state === 'stowed')
      return [
        shape(box(12, 30, 76, 50, 6), 'shade'),
        ...[40, 50, 60, 70].map((y) => stroke(poly(20, y, 80, y), 4)),
        stroke(poly(34, 24, 34, 86), 4),
        stroke(poly(66, 24, 66, 86), 4),
        ...name,
      ];
    const sway = state === 'loose' ? 14 : 0;
    const side = (x: number) =>
      type === 'stair'
        ? poly(x, 6, x + sway, 94)
        : `M${x} 6Q${x + sway} 40 ${x + sway * 0.3} 62T${x + sway} 94`;
    const marks: Mark[] = [
      stroke(poly(10, 6, 90, 6), 5),
      ...[28, 72].map((x) => (type === 'chain' ? dashed(side(x), 5) : stroke(side(x), 4))),
    ];
    [22, 40, 58, 76].forEach((y, i) => {
      const dx = (sway * y) / 100;
      if (state === 'damaged' && i === 2)
        marks.push(stroke(poly(28, y, 44, y + 6), 4), stroke(poly(72, y, 58, y + 9), 4));
      else marks.push(stroke(poly(28 + dx, y, 72 + dx, y), 4));
    });
    if (sway) marks.push(...toAndFro(84, 90, 98, 90));
    return marks;
  },
});
