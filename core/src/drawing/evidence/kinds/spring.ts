import { choice, evidenceKind, fault } from '../kind';
import {
  box,
  crackMarks,
  dashed,
  ellipse,
  type Mark,
  rustMarks,
  shape,
  streak,
  stroke,
  toAndFro,
} from '../marks';

/** A coil or leaf spring. */
export const spring = evidenceKind({
  id: 'spring',
  title: 'Spring',
  sound: 'whole',
  params: {
    type: choice('Type', { coil: '', leaf: 'leaves' }),
    state: choice('State', { whole: '', cracked: 'cracked', broken: 'broken', unhooked: 'off its hook' }),
    'rust-line': fault('Rust line', 'a line of rust across it'),
    bolt: choice('Bolt', { there: '', missing: 'its bolt missing' }),
  },
  draw: ({ type, state, 'rust-line': rust, bolt }) => {
    const marks: Mark[] = [];
    if (type === 'leaf') {
      marks.push(
        stroke('M8 46Q50 84 92 46', 6),
        state === 'broken'
          ? stroke('M18 60Q36 80 46 80M58 84Q72 80 82 60', 6)
          : stroke('M18 60Q50 92 82 60', 6),
        shape(box(42, 62, 16, 28, 1), 'shade'),
        shape(ellipse(8, 44, 6)),
        bolt === 'missing' ? dashed(ellipse(92, 44, 6)) : shape(ellipse(92, 44, 6)),
      );
      if (state === 'cracked') marks.push(...crackMarks(28, 60, 38, 82));
      if (state === 'unhooked') marks.push(...toAndFro(92, 22, 92, 36));
      if (rust === 'yes') marks.push(...rustMarks(30, 70, 8));
      return marks;
    }
    const gap = state === 'broken' ? 10 : 0;
    marks.push(
      shape(box(4, 40, 10, 20, 1), 'deep'),
      state === 'unhooked' ? dashed(box(88, 40, 10, 20, 1)) : shape(box(88, 40, 10, 20, 1), 'deep'),
    );
    for (let i = 0; i < 8; i++) {
      const x = 14 + i * 9.3 + (i > 3 ? gap : 0) - (state === 'unhooked' ? 4 : 0);
      if (gap && i === 4) continue;
      marks.push(stroke(`M${x} 66q-2 -32 4.6 -32t4.6 32`, 4));
    }
    if (state === 'cracked') marks.push(...crackMarks(46, 36, 54, 58, 3));
    if (rust === 'yes') marks.push(...rustMarks(50, 50, 11), streak(50, 60, 20));
    if (bolt === 'missing') marks.push(dashed(ellipse(9, 50, 5)));
    return marks;
  },
});
