import { choice, evidenceKind } from '../kind';
import {
  box,
  closed,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  poly,
  rustMarks,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A grease nipple at a joint, with what stands at the joint's edge. */
export const greasePoint = evidenceKind({
  id: 'grease-point',
  title: 'Grease point',
  sound: 'fresh grease at the joint',
  params: {
    state: choice('State', {
      fresh: '',
      dry: 'dry and bare',
      dirty: 'dirt on it',
      missing: 'its nipple missing',
    }),
    collar: choice('Collar', { thin: '', thick: 'a thick collar of grease' }),
    boot: choice('Boot', { none: '', on: '', off: 'its boot off' }, { on: 'its boot on' }),
  },
  draw: ({ state, collar, boot }) => {
    const marks: Mark[] = [shape(box(12, 56, 76, 30, 4), 'shade'), shape(box(30, 48, 40, 10, 2), 'ground')];
    if (state === 'fresh') {
      const fat = collar === 'thick' ? 9 : 5;
      marks.push(shape(`M24 58q${-fat} -${fat} 4 -${fat + 4}h44q${fat + 6} 4 4 ${fat + 4}z`, 'glow', 2));
    }
    if (state === 'dry')
      marks.push(
        ...[18, 30, 44, 58, 72].map((x, i) => stroke(poly(x, 62, x + 6, 70 + (i % 2) * 5), THIN, 'quiet')),
        ...rustMarks(30, 54, 9),
        ...rustMarks(68, 54, 9),
      );
    if (state === 'missing')
      marks.push(solid(ellipse(50, 47, 5, 3)), dashed(closed(44, 46, 44, 32, 56, 32, 56, 46)));
    else marks.push(shape(closed(43, 48, 45, 36, 55, 36, 57, 48), 'ground'), shape(ellipse(50, 32, 6)));
    if (state === 'dirty') marks.push(...filledEllipse(50, 34, 16, 13, 'dirty'));
    if (boot === 'on') marks.push(stroke('M36 48V24Q36 14 50 14T64 24V48', 3, 'quiet'));
    if (boot === 'off') marks.push(shape('M76 44V30Q76 20 86 20T96 30V44Z', 'shade', 2));
    return marks;
  },
});
