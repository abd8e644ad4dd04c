import { choice, evidenceKind } from '../kind';
import {
  arrow,
  box,
  crackMarks,
  crossed,
  dashed,
  ellipse,
  type Mark,
  poly,
  shape,
  stroke,
  THIN,
} from '../marks';

/** A stop or push button from the side. */
export const button = evidenceKind({
  id: 'button',
  title: 'Button',
  sound: 'out and whole',
  params: {
    state: choice('State', {
      out: '',
      in: 'pressed in',
      cracked: 'its head cracked',
      stuck: 'stuck half way',
      blocked: 'something lies across it',
    }),
    cover: choice('Cover', { none: '', on: '', off: 'its cover gone' }, { on: 'its cover on' }),
    light: choice('Light', { none: '', lit: 'its light lit', dark: 'its light dark' }),
  },
  draw: ({ state, cover, light }) => {
    const y = { out: 24, in: 48, cracked: 24, stuck: 38, blocked: 24 }[state];
    const tip = state === 'stuck' ? 5 : 0;
    const marks: Mark[] = [
      shape(box(38, y + 14, 24, 64 - y, 0), 'shade'),
      shape(`M18 ${y + 20 + tip}Q18 ${y + tip} 50 ${y}Q82 ${y - tip} 82 ${y + 20 - tip}Z`),
      shape(box(14, 72, 72, 18, 3), 'deep'),
    ];
    if (state === 'cracked') marks.push(...crackMarks(44, 24, 52, 44));
    if (state === 'in') marks.push(...arrow(50, 14, 50, 42));
    if (state === 'stuck') marks.push(...arrow(36, 10, 36, 30), crossed(66, 18, 6));
    if (state === 'blocked')
      marks.push(stroke(poly(4, 30, 96, 12), 8), stroke(poly(4, 30, 96, 12), 4, 'shade'));
    if (cover === 'on') marks.push(stroke('M8 72V30Q8 6 50 6Q92 6 92 30V72', 2.2, 'quiet'));
    if (cover === 'off') marks.push(dashed('M8 72V30Q8 6 50 6Q92 6 92 30V72', 1.6, 'quiet'));
    if (light !== 'none') marks.push(shape(ellipse(50, 96, 3.4), light === 'lit' ? 'glow' : 'deep', THIN));
    if (light === 'lit') marks.push(stroke(`${poly(42, 96, 36, 96)}${poly(58, 96, 64, 96)}`, THIN));
    return marks;
  },
});
