import { choice, evidenceKind, howMuch, number } from '../kind';
import { arrow, crossed, dashed, ellipse, type Mark, poly, shape, stroke } from '../marks';

/** A pedal under the foot. */
export const pedal = evidenceKind({
  id: 'pedal',
  title: 'Pedal',
  sound: 'firm, and comes back',
  params: {
    feel: choice('Feel', {
      firm: '',
      spongy: 'spongy',
      stuck: 'stuck down',
      sinks: 'sinks under a steady foot',
    }),
    travel: number(
      'travel left',
      'mm',
      [60, 0, 200],
      howMuch([0, 'goes to the floor'], [12, 'little travel left'], [30, '']),
    ),
    under: choice('Under it', { nothing: '', object: 'something lies under it' }),
  },
  draw: ({ feel, travel, under }) => {
    const low = feel === 'stuck' ? 70 : 26 + Math.max(0, 60 - travel) * 0.7;
    const marks: Mark[] = [stroke(poly(4, 88, 96, 88), 4), stroke(poly(14, 12, 26, 22), 7)];
    const arm = (y: number) => `M24 20Q58 ${y - 16} 76 ${y}`;
    if (feel === 'sinks' || feel === 'stuck') marks.push(dashed(arm(26)), dashed(poly(68, 20, 88, 34), 3));
    const at = feel === 'sinks' ? low + 26 : low;
    marks.push(
      stroke(arm(at), 6),
      stroke(poly(66, at - 8, 88, at + 8), 9),
      stroke(poly(66, at - 8, 88, at + 8), 4, 'shade'),
    );
    if (feel === 'spongy') marks.push(stroke(`M84 ${at + 12}q-8 3 0 6t0 6t0 6`, 2.6));
    if (feel === 'sinks') marks.push(...arrow(94, 34, 94, at + 4));
    if (feel === 'stuck') marks.push(crossed(52, 78, 6));
    if (under === 'object') marks.push(shape(ellipse(66, 78, 9, 9), 'deep'));
    return marks;
  },
});
