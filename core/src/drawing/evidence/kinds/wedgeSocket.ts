import { choice, evidenceKind, howMuch, number } from '../kind';
import { arrow, box, closed, ellipse, type Mark, poly, shape, stroke, words } from '../marks';

/** A rope end in its wedge socket. */
export const wedgeSocket = evidenceKind({
  id: 'wedge-socket',
  title: 'Wedge socket',
  sound: 'live rope straight, clip on the tail',
  params: {
    wedge: choice('Wedge', { right: '', reversed: 'the live rope on the sloping side' }),
    tail: number('tail', 'mm', [150, 0, 600, 5], howMuch([0, 'almost no tail'], [60, ''])),
    clip: choice('Clip', { tail: '', live: 'a clip on the live rope', none: 'no clip' }),
  },
  draw: ({ wedge, tail, clip }) => {
    const long = Math.min(34, tail * 0.14);
    const live = wedge === 'right' ? 42 : 62;
    const dead = wedge === 'right' ? 62 : 42;
    const marks: Mark[] = [
      stroke(poly(live, 2, live, 44), 6),
      stroke(`M${dead} ${44 - long}L${dead} 44`, 6),
      shape('M34 40H70L62 86Q52 96 42 86Z', 'shade'),
      stroke(`M${live} 40Q${live} 82 52 82T${dead} 40`, 4),
      shape(closed(46, 46, 58, 46, 52, 76), 'ground', 2),
      shape(ellipse(52, 90, 5)),
    ];
    const at = clip === 'tail' ? [dead, 44 - long * 0.55] : [live, 22];
    if (clip !== 'none') marks.push(shape(box(at[0]! - 9, at[1]! - 5, 18, 10, 2), 'deep'));
    marks.push(...arrow(84, 34, 84, 8), words('load', 84, 48, 8));
    return marks;
  },
});
