import { choice, evidenceKind } from '../kind';
import {
  crackMarks,
  dashed,
  ellipse,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  toAndFro,
} from '../marks';

/** The cutting head of a trimmer from below. */
export const lineTrimmer = evidenceKind({
  id: 'line-trimmer',
  title: 'Cutting head',
  sound: 'seated, both lines even, guard on',
  params: {
    head: choice('Head', { seated: '', loose: 'the head loose', cracked: 'the head cracked' }),
    line: choice('Line', {
      even: '',
      'one-side': 'line on one side only',
      out: 'no line left',
      wire: 'wire in place of line',
    }),
    guard: choice('Guard', {
      fitted: '',
      missing: 'the guard missing',
      cracked: 'the guard cracked',
      scuffed: 'the guard scuffed',
    }),
  },
  draw: ({ head, line: string, guard }) => {
    const marks: Mark[] = [];
    if (guard === 'missing') marks.push(dashed('M10 60A42 42 0 0 1 90 60L74 60A26 26 0 0 0 26 60Z', 2));
    else marks.push(shape('M10 60A42 42 0 0 1 90 60L74 60A26 26 0 0 0 26 60Z', 'shade'));
    if (guard === 'cracked') marks.push(...crackMarks(30, 26, 42, 40));
    if (guard === 'scuffed') marks.push(stroke('M26 34l10 -8M32 40l10 -10M60 26l10 6', 1.4, 'quiet'));
    if (head === 'loose')
      marks.push(
        dashed(ellipse(50, 60, 17)),
        shape(ellipse(53, 64, 17), 'ground'),
        ...toAndFro(76, 74, 88, 84),
      );
    else marks.push(shape(ellipse(50, 60, 17), 'ground'));
    if (head === 'cracked') marks.push(...crackMarks(38, 52, 62, 72, 3));
    marks.push(solid(ellipse(50, 60, 4)));
    const ends = { even: [180 + 70, 70], 'one-side': [70], out: [], wire: [250, 70] }[string];
    for (const a of ends) {
      const from = onCircle(50, 60, 17, a + 30);
      const to = onCircle(50, 60, 46, a + 30);
      marks.push(stroke(poly(...from, ...to), string === 'wire' ? 6 : 2.4));
      if (string === 'wire')
        marks.push(stroke(poly(...from, ...to), 2.6, 'ground'), dashed(poly(...from, ...to), 2));
    }
    if (string === 'one-side' || string === 'out')
      marks.push(solid(ellipse(...onCircle(50, 60, 17, 280), 2.4)));
    return marks;
  },
});
