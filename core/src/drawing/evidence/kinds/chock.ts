import { choice, evidenceKind } from '../kind';
import { closed, dashed, ellipse, type Mark, poly, shape, stroke, toAndFro } from '../marks';

/** A wheel and what keeps it from rolling. */
export const chock = evidenceKind({
  id: 'chock',
  title: 'Chocks',
  sound: 'on both sides of the wheel',
  params: {
    state: choice('State', {
      both: '',
      'one-side': 'on one side only',
      stone: 'a stone in place of a chock',
      away: 'standing away from the wheel',
      none: 'none',
    }),
  },
  draw: ({ state }) => {
    const marks: Mark[] = [
      stroke(poly(2, 84, 98, 84)),
      shape(ellipse(50, 52, 32), 'shade', 5),
      shape(ellipse(50, 52, 14)),
    ];
    const left = closed(6, 83, 26, 83, 26, 62);
    const right = closed(94, 83, 74, 83, 74, 62);
    if (state === 'both') marks.push(shape(left), shape(right));
    if (state === 'one-side') marks.push(shape(left), dashed(right));
    if (state === 'stone') marks.push(shape(left), shape('M72 83Q74 66 86 70Q96 74 94 83Z', 'deep'));
    if (state === 'away')
      marks.push(
        shape(closed(0, 83, 12, 83, 12, 68)),
        shape(closed(100, 83, 88, 83, 88, 68)),
        ...toAndFro(14, 92, 30, 92),
      );
    if (state === 'none') marks.push(dashed(left), dashed(right), ...toAndFro(30, 92, 70, 92));
    return marks;
  },
});
