import { choice, evidenceKind, fault, howMuch, number, wanted } from '../kind';
import {
  arc,
  arrow,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A pin in its bore, with the keeper that holds it. */
export const pin = evidenceKind({
  id: 'pin',
  title: 'Pin',
  sound: 'kept, and tight in its bore',
  surfaceAt: [20, 28, 10],
  params: {
    keeper: choice(
      'Keeper',
      {
        fitted: '',
        missing: 'its keeper missing',
        bent: 'its keeper bent',
        wrong: 'the wrong thing for a keeper',
        loose: 'its keeper loose',
        none: '',
      },
      { none: 'no keeper made' },
    ),
    play: number(
      'play',
      'mm',
      [0, 0, 60, 0.5],
      howMuch([0.5, 'a little play'], [5, 'play'], [10, 'much play']),
    ),
    worn: choice('Bore', { no: '', oval: 'its bore worn oval' }),
    turned: fault('Turned', 'it has turned in its bore'),
    out: number('walked out', 'mm', [0, 0, 100], howMuch([1, 'it has walked out'])),
    dust: choice('Dust', { none: '', bright: 'bright dust round it', red: 'red dust round it' }),
    present: wanted('There', 'the pin is not there'),
  },
  draw: (v) => {
    const gap = v.play === 0 ? 0 : Math.min(9, 2.5 + v.play * 0.55);
    const marks: Mark[] = [shape('M10 94V50A40 40 0 0 1 90 50V94Z', 'shade')];
    const bore = v.worn === 'oval' ? ellipse(50, 53, 23 + gap * 0.4, 30) : ellipse(50, 50, 22 + gap);
    marks.push(shape(bore, 'deep'));
    if (v.dust !== 'none')
      marks.push(...filledEllipse(50, 82, 22, 7, v.dust === 'bright' ? 'milky' : 'gritty', true));
    if (v.present === 'no') return [...marks, dashed(ellipse(50, 50, 18), 2)];
    const y = 50 + gap;
    if (gap > 0) marks.push(...toAndFro(50, 2, 50, 20));
    marks.push(shape(ellipse(50, y, 21), 'ground'));
    if (v.out > 0)
      marks.push(
        stroke(arc(50, y, 26, 100, 200), 3),
        stroke(arc(50, y, 31, 105, 195), 2),
        ...arrow(66, y + 18, 82, y + 34),
      );
    const a = v.turned === 'yes' ? 50 : 0;
    const at = (r: number, d: number) => onCircle(50, y, r, d + a);
    switch (v.keeper) {
      case 'fitted':
        marks.push(
          stroke(poly(...at(30, 270), ...at(30, 90)), 9),
          stroke(poly(...at(30, 270), ...at(30, 90)), 4.4, 'ground'),
          solid(ellipse(...at(26, 90), 2.6)),
          solid(ellipse(...at(26, 270), 2.6)),
        );
        break;
      case 'bent':
        marks.push(stroke(`M20 ${y}H54L76 ${y - 22}`, 9), stroke(`M20 ${y}H54L76 ${y - 22}`, 4.4, 'ground'));
        break;
      case 'loose':
        marks.push(
          stroke(poly(22, y - 6, 78, y + 12), 9),
          stroke(poly(22, y - 6, 78, y + 12), 4.4, 'ground'),
          stroke(ellipse(24, y - 5, 3), 2),
          ...toAndFro(88, y - 4, 88, y + 18),
        );
        break;
      case 'wrong':
        marks.push(stroke(`M24 ${y}q12 -10 24 0t26 -2l4 -10M74 ${y - 2}l8 6`, 3.4));
        break;
      case 'missing':
        marks.push(
          solid(ellipse(...at(13, 90), 3)),
          solid(ellipse(...at(13, 270), 3)),
          dashed(poly(...at(30, 270), ...at(30, 90)), 1.6),
        );
        break;
      default:
        marks.push(stroke(ellipse(50, y, 6), THIN));
    }
    return marks;
  },
});
