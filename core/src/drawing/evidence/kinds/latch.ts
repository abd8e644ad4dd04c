import { choice, evidenceKind } from '../kind';
import { box, crackPath, dashed, ellipse, type Mark, poly, shape, stroke } from '../marks';

/** A latch or clip that holds something: a lid, a console, a tool. */
export const latch = evidenceKind({
  id: 'latch',
  title: 'Latch',
  sound: 'home',
  params: {
    state: choice('State', {
      home: '',
      half: 'half home',
      open: 'open',
      broken: 'broken',
      missing: 'missing',
    }),
    holds: choice(
      'Holds',
      { nothing: '', there: '', gone: 'what it holds is gone' },
      { there: 'what it holds is there' },
    ),
  },
  draw: ({ state, holds }) => {
    const marks: Mark[] = [
      shape(box(4, 58, 92, 34, 3), 'shade'),
      shape(box(62, 34, 20, 24, 2), 'ground'),
      shape(ellipse(20, 46, 7)),
    ];
    const bar = {
      home: 'M20 46H78',
      half: 'M20 46L74 26',
      open: 'M20 46L44 4',
      broken: 'M20 46H44',
      missing: '',
    }[state];
    if (bar) marks.push(stroke(bar, 9), stroke(bar, 4.4, 'ground'));
    if (state === 'broken') marks.push(stroke(crackPath(46, 40, 46, 52), 3), stroke(poly(56, 54, 74, 57), 6));
    if (state === 'missing') marks.push(dashed(box(20, 41, 56, 10)));
    marks.push(stroke('M68 42h8v8h-8', 3));
    if (holds === 'there') marks.push(shape(box(30, 66, 40, 18, 3), 'ground'));
    if (holds === 'gone') marks.push(dashed(box(30, 66, 40, 18, 3)));
    return marks;
  },
});
