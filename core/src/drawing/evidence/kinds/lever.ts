import { choice, evidenceKind } from '../kind';
import { arrow, box, dashed, ellipse, type Mark, poly, shape, stroke, toAndFro } from '../marks';

/** A lever in its gate, with its guard and mark. */
export const lever = evidenceKind({
  id: 'lever',
  title: 'Lever',
  sound: 'in its middle, returns by itself',
  params: {
    state: choice('State', {
      centred: '',
      stuck: 'stuck out of its middle',
      bent: 'bent',
      loose: 'loose',
      'off-mark': 'beside its middle mark',
      missing: 'missing',
    }),
    guard: choice('Guard', { none: '', on: '', off: 'its guard gone' }, { on: 'its guard on' }),
    mark: choice(
      'Mark',
      { none: '', readable: '', worn: 'its mark worn away' },
      { readable: 'its mark readable' },
    ),
  },
  draw: ({ state, guard, mark }) => {
    const marks: Mark[] = [shape(box(14, 66, 72, 14, 3), 'deep'), stroke(poly(50, 60, 50, 66), 2)];
    const stick = (path: string, x: number, y: number): Mark[] => [
      stroke(path, 9),
      stroke(path, 4.4, 'ground'),
      shape(ellipse(x, y, 10), 'shade'),
    ];
    switch (state) {
      case 'centred':
        marks.push(...stick(poly(50, 68, 50, 22), 50, 20));
        break;
      case 'stuck':
        marks.push(dashed(poly(50, 66, 50, 22)), ...stick(poly(50, 68, 78, 30), 80, 28));
        break;
      case 'off-mark':
        marks.push(dashed(poly(50, 66, 50, 14)), ...stick(poly(50, 68, 60, 24), 61, 22));
        break;
      case 'bent':
        marks.push(...stick('M50 68V46L76 34', 80, 32));
        break;
      case 'loose':
        marks.push(
          dashed(ellipse(26, 26, 9)),
          dashed(ellipse(74, 26, 9)),
          ...stick(poly(50, 68, 50, 22), 50, 20),
          ...toAndFro(22, 46, 78, 46),
        );
        break;
      case 'missing':
        marks.push(dashed(poly(50, 62, 50, 26), 4), dashed(ellipse(50, 20, 10)));
    }
    if (guard === 'on') marks.push(stroke('M10 66V30Q10 4 50 4T90 30V66', 2.2, 'quiet'));
    if (guard === 'off') marks.push(dashed('M10 66V30Q10 4 50 4T90 30V66', 1.6, 'quiet'));
    if (mark === 'readable')
      marks.push(
        shape(box(24, 84, 52, 14, 1), 'ground', 2),
        ...arrow(44, 91, 30, 91, 2),
        ...arrow(56, 91, 70, 91, 2),
      );
    if (mark === 'worn')
      marks.push(
        shape(box(24, 84, 52, 14, 1), 'ground', 2),
        stroke('M30 94l10 -7M38 95l14 -8M54 95l14 -8', 1.3, 'quiet'),
      );
    return marks;
  },
});
