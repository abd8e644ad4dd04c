import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  arc,
  box,
  crackMarks,
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
} from '../marks';

/** A lifting hook: its throat, latch, neck and surface. */
export const hook = evidenceKind({
  id: 'hook',
  title: 'Hook',
  sound: 'its throat closed by its latch',
  surfaceAt: [36, 78, 10],
  params: {
    opening: number(
      'wider by',
      '%',
      [1, 0, 100, 0.5],
      howMuch([0, ''], [4, 'its throat a little wide'], [12, 'its throat wide open']),
    ),
    latch: choice('Latch', {
      closes: '',
      bent: 'its latch bent',
      missing: 'its latch missing',
      weak: 'its latch stays open',
      'none-made': 'made without a latch',
    }),
    crack: number('crack', 'mm', [0, 0, 100], howMuch([1, 'a crack in it'])),
    twist: number('twist', '°', [0, 0, 60], howMuch([1, 'twisted'])),
    swivel: choice('Swivel', { free: '', seized: 'its swivel seized' }),
    hangs: choice('Hangs on', {
      hook: '',
      anchor: 'on the marked anchor',
      rail: 'on a rail',
      nothing: 'on nothing',
    }),
  },
  draw: (v) => {
    const wide = v.opening <= 1 ? 0 : Math.min(16, 2 + v.opening * 0.55);
    const lean = v.twist * 0.8;
    const tipX = 72 + wide;
    const marks: Mark[] = [];
    if (v.hangs !== 'hook')
      marks.push(
        v.hangs === 'anchor'
          ? stroke('M40 2a10 10 0 1 0 20 0', 4)
          : v.hangs === 'rail'
            ? stroke(poly(4, 4, 96, 4), 6)
            : crossed(50, 4, 4),
      );
    marks.push(shape(box(38, 4, 24, 14, 3), 'shade'), shape(box(44, 18, 12, 10)));
    const body = `M50 28V40Q30 46 26 62Q26 88 50 90Q ${70 + wide * 0.6} 88 ${tipX} 58`;
    if (lean > 0) marks.push(dashed('M50 28V40Q30 46 26 62Q26 88 50 90Q70 88 72 58', 2));
    const twisted = `M50 28L${50 + lean * 0.2} 40Q${30 + lean} 46 ${26 + lean * 0.8} 62Q26 88 ${50 - lean * 0.4} 90Q ${70 - lean} 88 ${tipX - lean} 58`;
    const path = lean > 0 ? twisted : body;
    marks.push(stroke(path, 14), stroke(path, 8.5, 'ground'));
    if (wide > 0) marks.push(dashed(poly(72, 46, 72, 70)));
    const end = tipX - lean;
    switch (v.latch) {
      case 'closes':
        marks.push(stroke(poly(46, 44, end - 2, 58), 4));
        break;
      case 'bent':
        marks.push(stroke(`M46 44Q68 36 ${end - 12} 72`, 4));
        break;
      case 'weak':
        marks.push(stroke(poly(46, 44, 52, 74), 4), stroke(arc(46, 44, 22, 110, 160), THIN));
        break;
      case 'missing':
        marks.push(solid(ellipse(46, 44, 2.6)), stroke(`${poly(40, 40, 42, 50)}`, 2));
        break;
      default:
    }
    if (v.crack > 0) marks.push(...crackMarks(28, 70, 28 + Math.min(20, 8 + v.crack * 0.6), 80));
    if (v.swivel === 'seized')
      marks.push(stroke(arc(50, 22, 18, 40, 130), 2.4), crossed(76, 22, 5), ...rustMarks(50, 18, 9));
    return marks;
  },
});
