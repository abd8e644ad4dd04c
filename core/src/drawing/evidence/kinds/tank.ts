import { choice, evidenceKind, number } from '../kind';
import {
  arc,
  box,
  closed,
  dashed,
  drop,
  ellipse,
  filledBox,
  filledEllipse,
  lettering,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  type Texture,
  THIN,
  words,
} from '../marks';

/** A tank one can see into, with its cap. */
export const tank = evidenceKind({
  id: 'tank',
  title: 'Tank',
  sound: '',
  params: {
    level: number('Level', '', [0.7, 0, 1, 0.01], () => ''),
    low: number('Low mark', '', [0.15, 0, 1, 0.01], () => ''),
    high: number('High mark', '', [0.95, 0, 1, 0.01], () => ''),
    liquid: choice('Liquid', {
      fuel: 'fuel',
      coolant: 'coolant',
      oil: 'oil',
      'exhaust-fluid': 'exhaust fluid',
      brake: 'brake fluid',
      washer: 'washer water',
      brine: 'brine',
      grease: 'grease',
    }),
    cap: choice('Cap', { on: '', off: 'its cap off', wrong: 'the wrong cap', loose: 'its cap loose' }),
    tint: choice('Tint', { clean: '', dirty: 'dirty', oily: 'oil floating in it' }),
    leak: choice('Neck', { dry: '', streak: 'a streak down from the neck', crust: 'a crust at the neck' }),
    layer: choice('Below', { none: '', water: 'water below', specks: 'specks below' }),
  },
  says: {
    liquid: ({ level, low, high }, own) => {
      const where =
        level <= 0.02
          ? 'gone'
          : level < low * 0.6
            ? 'far below the low mark'
            : level < low - 0.005
              ? 'below the low mark'
              : level > high + 0.005
                ? 'above the high mark'
                : level < low + (high - low) * 0.25
                  ? 'just above the low mark'
                  : 'between the marks';
      return `${own} ${where}, ${Math.round(level * 20) * 5} % full`;
    },
  },
  draw: ({ level, low, high, liquid, cap, tint, leak, layer }) => {
    const y = (at: number) => 94 - at * 66;
    const plain: Texture = {
      fuel: 'clear',
      coolant: 'upright',
      oil: 'hatch',
      'exhaust-fluid': 'clear',
      brake: 'hatch',
      washer: 'clear',
      brine: 'thin',
      grease: 'hatch',
    }[liquid] as Texture;
    const kind: Texture = tint === 'clean' ? plain : tint;
    const marks: Mark[] = [
      shape(box(12, 24, 60, 72, 6)),
      ...(level > 0.01 ? filledBox(14, y(level), 56, 94.5 - y(level), kind) : []),
      stroke(box(12, 24, 60, 72, 6)),
      shape(box(32, 16, 20, 9)),
    ];
    if (level > 0.01) marks.push(stroke(`M14 ${y(level)}q14 4 28 0t28 0`, 2.6));
    if (layer === 'water')
      marks.push(...filledBox(14, 84, 56, 10.5, 'thin'), stroke(poly(14, 84, 70, 84), 2));
    if (layer === 'specks')
      marks.push(...[20, 28, 36, 44, 52, 60].map((x, i) => solid(ellipse(x, 90 - (i % 2) * 4, 2.4))));
    marks.push(
      stroke(poly(72, y(low), 77, y(low)), 4),
      stroke(poly(72, y(high), 77, y(high)), 4),
      words('low', 100, y(low) + 2.6, 8, { anchor: 'end', bold: true }),
      words('high', 100, y(high) + 2.6, 8, { anchor: 'end', bold: true }),
      ...lettering(liquid.replace('-', ' '), 87, 62, { letters: 7, size: 7.6, lines: 2 }),
    );
    if (cap === 'on') marks.push(shape(box(28, 8, 28, 10, 3), 'deep'));
    if (cap === 'off')
      marks.push(dashed(box(28, 8, 28, 10, 3)), shape(closed(70, 6, 92, 14, 88, 22, 66, 14), 'deep'));
    if (cap === 'wrong')
      marks.push(shape('M26 17q6 -14 14 -8t12 -2t10 10z', 'ground'), stroke('M34 15l4 -5M44 14l5 -4', THIN));
    if (cap === 'loose')
      marks.push(shape(closed(28, 8, 56, 2, 58, 11, 30, 17), 'deep'), stroke(arc(60, 10, 8, 20, 130), 2));
    if (leak === 'streak') marks.push(stroke('M34 24q-3 14 0 26t-2 22', 4, 'ink'), solid(drop(32, 80, 3)));
    if (leak === 'crust') marks.push(...filledEllipse(42, 24, 16, 6, 'bloom'));
    return marks;
  },
});
