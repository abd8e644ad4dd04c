import { choice, evidenceKind, line, number } from '../kind';
import { arrow, box, crossed, dashed, lettering, type Mark, poly, shape, stroke } from '../marks';

/** What a control asks for and what happens: which way, how far, and whether it stops. */
export const motion = evidenceKind({
  id: 'motion',
  title: 'Movement',
  sound: 'moves as asked, stops when let go',
  params: {
    of: line('What moves', ''),
    does: choice('Does', {
      'as-asked': '',
      nothing: 'nothing moves',
      creeps: 'creeps with the control at rest',
      jerks: 'moves in jerks',
      'runs-on': 'runs on after the control is let go',
      reversed: 'moves the other way',
      slow: 'moves slowly',
      fast: 'moves too fast',
      stops: 'stops by itself',
      'still-moves': 'moves although it should be blocked',
    }),
    cm: number('moves', 'cm', [0, 0, 1000], () => ''),
    seconds: number('takes', 's', [0, 0, 600, 0.1], () => ''),
  },
  draw: ({ of, does }) => {
    const rest = does === 'creeps' || does === 'runs-on';
    const marks: Mark[] = [
      shape(box(8, 26, 30, 12, 2), 'deep'),
      stroke(rest ? poly(23, 30, 23, 10) : poly(23, 30, 34, 12), 6),
      ...(rest ? [] : arrow(40, 14, 54, 14)),
      shape(box(30, 56, 30, 24, 3), 'shade'),
      stroke(poly(2, 86, 98, 86), 2, 'quiet'),
    ];
    const ghost = (x: number) => dashed(box(x, 56, 30, 24, 3));
    switch (does) {
      case 'as-asked':
        marks.push(ghost(62), ...arrow(48, 68, 90, 68));
        break;
      case 'nothing':
        marks.push(crossed(78, 68, 9));
        break;
      case 'creeps':
        marks.push(ghost(40), ...arrow(64, 68, 78, 68));
        break;
      case 'jerks':
        marks.push(stroke('M64 68l6 -8v16l8 -16v16l8 -16v8', 2.6), ...arrow(86, 68, 97, 68));
        break;
      case 'runs-on':
        marks.push(ghost(46), ghost(62), ...arrow(64, 68, 97, 68));
        break;
      case 'reversed':
        marks.push(ghost(2), ...arrow(46, 68, 8, 68));
        break;
      case 'slow':
        marks.push(ghost(34), dashed(poly(64, 68, 84, 68)), ...arrow(84, 68, 90, 68));
        break;
      case 'fast':
        marks.push(
          ...arrow(62, 68, 97, 68),
          stroke(`${poly(6, 62, 26, 62)}${poly(10, 68, 26, 68)}${poly(6, 74, 26, 74)}`, 2),
        );
        break;
      case 'stops':
        marks.push(...arrow(62, 68, 76, 68), stroke(poly(82, 54, 82, 82), 5));
        break;
      case 'still-moves':
        marks.push(...arrow(62, 68, 97, 68), stroke(poly(72, 52, 72, 84), 4), crossed(72, 46, 5));
    }
    if (of) marks.push(...lettering(of, 50, 95, { letters: 24, lines: 1, size: 8.4 }));
    return marks;
  },
});
