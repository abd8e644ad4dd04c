import { choice, evidenceKind } from '../kind';
import { box, closed, ellipse, type Mark, poly, shape, solid, stroke, THIN, words } from '../marks';

/** A display: its lines, or nothing, or a fault code. */
export const display = evidenceKind({
  id: 'display',
  title: 'Display',
  sound: '',
  params: {
    state: choice('State', { reads: '', blank: 'blank', 'fault-code': 'a fault sign' }),
    lines: {
      type: 'texts',
      label: 'Lines',
      sound: [],
      says: (lines) => (lines.length ? `reads “${lines.join('; ')}”` : ''),
    },
  },
  says: {
    lines: ({ state, lines }, own) => {
      if (state === 'blank') return '';
      return lines.length === 0 && state === 'reads' ? 'lit, no message' : own;
    },
  },
  draw: ({ state, lines }) => {
    const marks: Mark[] = [
      shape(box(3, 12, 94, 76, 6), 'deep'),
      shape(box(9, 18, 82, 64, 3), state === 'blank' ? 'shade' : 'ground', 2),
    ];
    if (state === 'blank')
      return [...marks, stroke(`${poly(16, 34, 30, 22)}${poly(16, 46, 42, 22)}`, THIN, 'quiet')];
    let top = 50 - (lines.length * 13) / 2;
    if (state === 'fault-code') {
      marks.push(
        shape(closed(50, 21, 60, 38, 40, 38), 'ground', 2.4),
        stroke(poly(50, 27, 50, 32), 2.4),
        solid(ellipse(50, 35.2, 1.3)),
      );
      top = 41;
    }
    const gap = Math.min(13, (82 - top) / Math.max(1, lines.length));
    lines.forEach((text, i) =>
      marks.push(
        words(text, 50, top + gap * (i + 0.72), Math.min(10.5, gap * 0.85, 150 / Math.max(12, text.length))),
      ),
    );
    if (lines.length === 0 && state === 'reads') marks.push(stroke(poly(44, 50, 56, 50), 3, 'quiet'));
    return marks;
  },
});
