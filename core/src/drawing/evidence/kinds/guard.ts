import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  arc,
  box,
  closed,
  crackMarks,
  dashed,
  ellipse,
  filledBox,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  toAndFro,
} from '../marks';

/** A guard over a part that turns. */
export const guard = evidenceKind({
  id: 'guard',
  title: 'Guard',
  sound: 'fitted and whole',
  surfaceAt: [28, 30, 12],
  params: {
    state: choice('State', {
      fitted: '',
      loose: 'loose',
      cracked: 'cracked',
      missing: 'missing',
      'tied-up': 'tied up out of the way',
      folded: 'folded for transport',
      bent: 'bent',
      iced: 'frozen stiff',
      worn: 'worn thin',
      torn: 'torn',
    }),
    gap: number(
      'gap',
      'mm',
      [0, 0, 1000],
      howMuch([1, 'a narrow gap beside it'], [30, 'a gap beside it'], [100, 'it stands open']),
    ),
  },
  draw: ({ state, gap }) => {
    const marks: Mark[] = [
      shape(ellipse(50, 54, 26), 'deep'),
      ...[0, 60, 120].map((a) =>
        stroke(poly(...onCircle(50, 54, 26, a), ...onCircle(50, 54, 26, a + 180)), 2, 'ground'),
      ),
      shape(ellipse(50, 54, 5)),
      stroke(poly(4, 94, 96, 94), 4),
    ];
    const open = gap === 0 ? 0 : Math.min(40, 5 + gap * 0.12);
    const frame = (x: number, y: number, w: number, tilt = 0): Mark[] => {
      const top = closed(x, y, x + w, y + tilt, x + w, y + tilt + 72, x, y + 72);
      const bars: Mark[] = [];
      for (let at = 12; at < w; at += 12)
        bars.push(stroke(poly(x + at, y + (tilt * at) / w, x + at, y + 72 + (tilt * at) / w), 2.2));
      return [stroke(top, 4), ...bars];
    };
    switch (state) {
      case 'missing':
        return [
          ...marks,
          dashed(box(12, 18, 76, 74), 2.2),
          ...[16, 84].map((x) => stroke(ellipse(x, 90, 2.4), 2)),
        ];
      case 'tied-up':
        return [
          ...marks,
          shape(closed(12, 22, 88, 2, 90, 10, 14, 30), 'shade'),
          stroke('M80 6Q94 18 86 40q-6 6 -8 -2', 2.4),
        ];
      case 'folded':
        return [...marks, shape(box(2, 16, 10, 76, 2), 'shade'), stroke(arc(12, 90, 30, 10, 60), 2)];
      default:
    }
    marks.push(...frame(12, 18, 76 - open, state === 'loose' ? 8 : 0));
    if (open > 0)
      marks.push(dashed(poly(88, 18, 88, 92)), ...(open > 8 ? toAndFro(88 - open + 2, 12, 88, 12) : []));
    const pins = [16, 84 - open];
    if (state === 'loose') marks.push(stroke(ellipse(pins[1]!, 90, 2.6), 2), ...toAndFro(94, 30, 94, 56));
    else marks.push(...pins.map((x) => solid(ellipse(x, 90, 3))));
    if (state === 'cracked') marks.push(...crackMarks(20, 26, 66, 74, 3.4));
    if (state === 'bent')
      marks.push(solid(closed(40, 14, 62, 14, 51, 32), 'ground'), stroke(poly(38, 18, 51, 34, 64, 18), 4));
    if (state === 'iced') marks.push(...filledBox(14, 64, 70 - open, 26, 'bloom'));
    if (state === 'worn')
      marks.push(...filledBox(26, 70, 48 - open, 20, 'thin'), stroke(`M24 92q12 -14 24 0t24 -2`, 2));
    if (state === 'torn')
      marks.push(solid(closed(40, 94, 48, 50, 58, 94), 'ground'), stroke(poly(38, 92, 48, 48, 60, 92), 3));
    return marks;
  },
});
