import { choice, evidenceKind, line, number } from '../kind';
import {
  box,
  closed,
  crossed,
  dashed,
  filledEllipse,
  lettering,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

const STATES = {
  current: 'in order',
  expired: 'out of date',
  missing: 'not there',
  'other-machine': 'for another machine',
  'open-stop': 'a stop in it is still open',
  unsigned: 'not signed',
  unreadable: 'cannot be read',
};

/** A sheet, card, permit or book. */
export const document = evidenceKind({
  id: 'document',
  title: 'Document',
  sound: 'in order',
  params: {
    title: line('Title', ''),
    state: choice('State', { ...STATES, current: '' }),
    days: number('Days left', '', [0, -5000, 5000], (n) =>
      n === 0 ? '' : n < 0 ? `ran out ${-n} days ago` : `valid ${n} days more`,
    ),
  },
  draw: ({ title, state, days }) => {
    const sheet = 'M16 4H70L84 18V96H16Z';
    const heading = lettering(title, 50, 26, { letters: 13, lines: 3, size: 8.4, bold: true });
    if (state === 'missing') return [dashed(sheet, 2.2), ...heading, crossed(50, 66, 14)];
    const marks: Mark[] = [shape(sheet), stroke('M70 4V18H84', THIN), ...heading];
    if (state === 'unreadable') marks.push(...filledEllipse(50, 62, 26, 18, 'dirty'));
    else marks.push(...[48, 55, 62].map((y) => stroke(poly(24, y, y === 62 ? 60 : 76, y), THIN, 'quiet')));
    if (days !== 0)
      marks.push(words(days < 0 ? `ended ${-days} d ago` : `${days} days left`, 50, 74, 8.6, { bold: true }));
    if (state === 'expired') marks.push(stroke(poly(22, 76, 78, 66), 2.6), stroke(box(22, 65, 56, 12), 2));
    if (state === 'unsigned') marks.push(dashed(poly(24, 90, 76, 90), 2));
    else
      marks.push(stroke(poly(24, 91, 76, 91), 1.3, 'quiet'), stroke('M30 89q4 -12 8 -3t8 -3t8 2t10 -4', 2));
    if (state === 'other-machine')
      marks.push(
        shape(box(20, 40, 60, 20, 2), 'ground', 2),
        words('no. 2 ≠ no. 1', 50, 53, 7.6, { bold: true }),
      );
    if (state === 'open-stop')
      marks.push(
        solid(closed(38, 42, 62, 42, 70, 54, 62, 66, 38, 66, 30, 54)),
        stroke(poly(38, 54, 62, 54), 5, 'ground'),
      );
    return marks;
  },
});
