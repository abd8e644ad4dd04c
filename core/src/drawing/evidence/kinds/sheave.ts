import { choice, evidenceKind } from '../kind';
import {
  arc,
  closed,
  crossed,
  dashed,
  ellipse,
  type Mark,
  poly,
  rustMarks,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A rope sheave from the side and across its groove. */
export const sheave = evidenceKind({
  id: 'sheave',
  title: 'Sheave',
  sound: 'whole and turning free',
  params: {
    flange: choice('Flange', { whole: '', chipped: 'its flange chipped' }),
    groove: choice('Groove', { round: '', worn: 'its groove worn deep' }),
    turns: choice('Turns', { free: '', wobble: 'wobbles', stiff: 'turns stiffly', seized: 'does not turn' }),
    rope: choice('Rope', { in: '', off: 'the rope off the sheave' }),
  },
  draw: ({ flange, groove, turns, rope: lies }) => {
    const marks: Mark[] = [];
    if (turns === 'wobble') marks.push(dashed(ellipse(40, 46, 34)));
    marks.push(
      shape(ellipse(36, 48, 32), 'shade'),
      stroke(ellipse(36, 48, 25), THIN),
      shape(ellipse(36, 48, 6)),
    );
    if (flange === 'chipped')
      marks.push(solid(closed(58, 18, 70, 30, 54, 32), 'ground'), stroke(poly(55, 22, 55, 32, 65, 36), 3));
    marks.push(
      lies === 'in'
        ? stroke('M4 96V48A32 32 0 0 1 68 48V96', 3.4)
        : stroke('M4 96V48Q8 6 36 8L44 48V96', 3.4),
    );
    const deep = groove === 'worn' ? 22 : 11;
    marks.push(shape(`M78 22H84Q88 ${22 + deep * 2} 92 22H98V76H78Z`, 'ground'));
    if (turns === 'seized')
      marks.push(stroke(arc(36, 48, 16, 20, 110), 2.4), crossed(36, 48, 9), ...rustMarks(36, 48, 14));
    if (turns === 'stiff') marks.push(stroke(arc(36, 48, 16, 20, 70), 2.4), dashed(arc(36, 48, 16, 80, 180)));
    if (turns === 'wobble') marks.push(...toAndFro(30, 90, 50, 90));
    return marks;
  },
});
