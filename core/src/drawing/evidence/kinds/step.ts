import { choice, evidenceKind } from '../kind';
import {
  box,
  closed,
  dashed,
  filledEllipse,
  type Mark,
  poly,
  shape,
  stroke,
  type Texture,
  toAndFro,
} from '../marks';

/** Steps and rail of an access. */
export const step = evidenceKind({
  id: 'step',
  title: 'Steps',
  sound: 'clean and firm',
  params: {
    tread: choice('Treads', {
      clean: '',
      greasy: 'grease on a tread',
      iced: 'ice on a tread',
      muddy: 'mud on a tread',
      wet: 'a tread wet',
      scuffed: 'a tread scuffed',
    }),
    state: choice('Step', {
      firm: '',
      bent: 'a step bent',
      loose: 'a step loose',
      missing: 'a step missing',
    }),
    rail: choice('Rail', { firm: '', loose: 'the rail loose', bent: 'the rail bent' }),
  },
  draw: ({ tread, state, rail }) => {
    const marks: Mark[] = [stroke(poly(12, 6, 12, 94), 4), stroke(poly(70, 6, 70, 94), 4)];
    [18, 44, 70].forEach((y, i) => {
      if (i === 1 && state === 'missing') marks.push(dashed(box(12, y, 58, 11)));
      else if (i === 1 && state === 'bent')
        marks.push(shape(`M12 ${y}L42 ${y + 14}L70 ${y}V${y + 10}L42 ${y + 24}L12 ${y + 10}Z`, 'shade'));
      else if (i === 1 && state === 'loose')
        marks.push(
          dashed(box(12, y, 58, 11)),
          shape(closed(12, y, 70, y + 10, 70, y + 20, 12, y + 10), 'shade'),
          ...toAndFro(78, y + 2, 78, y + 20),
        );
      else
        marks.push(
          shape(box(12, y, 58, 11, 1), 'shade'),
          ...[20, 28, 36, 44, 52, 60].map((x) => stroke(poly(x, y + 2, x + 4, y + 9), 1.4)),
        );
    });
    if (tread !== 'clean') {
      const kind = { greasy: 'oily', iced: 'bloom', muddy: 'dirty', wet: 'clear', scuffed: 'thin' }[
        tread
      ] as Texture;
      marks.push(...filledEllipse(41, 74, 24, 10, kind));
    }
    if (rail === 'firm') marks.push(stroke('M92 94V14Q92 6 84 6H70', 5));
    if (rail === 'bent') marks.push(stroke('M92 94L80 56L92 14Q92 6 84 6H70', 5));
    if (rail === 'loose')
      marks.push(dashed('M92 94V14'), stroke('M88 94L96 12Q92 4 84 6H70', 5), ...toAndFro(80, 34, 99, 34));
    return marks;
  },
});
