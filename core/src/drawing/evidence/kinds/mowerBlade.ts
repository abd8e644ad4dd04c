import { choice, evidenceKind, fault, howMuch, number, several } from '../kind';
import {
  arc,
  closed,
  crackMarks,
  dashed,
  hexagon,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A rotary blade seen flat and on its edge. */
export const mowerBlade = evidenceKind({
  id: 'mower-blade',
  title: 'Blade',
  sound: 'straight and whole, bolt tight',
  surfaceAt: [28, 38, 9],
  params: {
    nicks: number('Nicks', '', [0, 0, 6], several('nick in its edge', 'nicks in its edge')),
    'nick-depth': number('nick', 'mm deep', [0, 0, 30], howMuch([1, 'shallow'], [6, 'deep'])),
    bent: fault('Bent', 'bent'),
    wear: number(
      'worn at the tip',
      'mm',
      [1, 0, 40],
      howMuch([0, ''], [4, 'its tips worn'], [10, 'its tips worn thin']),
    ),
    bolt: choice('Bolt', { tight: '', loose: 'its bolt loose' }),
    crack: number('crack', 'mm', [0, 0, 100], howMuch([1, 'a crack by its hole'])),
  },
  draw: (v) => {
    const thin = Math.min(12, v.wear * 0.9);
    const marks: Mark[] = [
      shape(closed(4, 26, 22, 26 + 0, 78, 26, 96, 26 + thin, 96, 52, 78, 52, 22, 52, 4, 52 - thin), 'shade'),
      stroke(`${poly(6, 31, 22, 31)}${poly(78, 47, 94, 47)}`, THIN),
    ];
    const deep = 5 + Math.min(9, v['nick-depth']);
    for (let i = 0; i < v.nicks; i++) {
      const x = 80 - i * 9;
      marks.push(
        solid(closed(x - 5, 54, x, 52 - deep, x + 4, 54), 'ground'),
        stroke(poly(x - 5, 52, x, 52 - deep, x + 4, 52), 2.4),
      );
    }
    if (v.bolt === 'loose')
      marks.push(
        dashed(hexagon(50, 39, 10)),
        shape(hexagon(52, 36, 10, 22), 'ground'),
        stroke(arc(51, 37, 15, 20, 100), 2),
      );
    else marks.push(shape(hexagon(50, 39, 10), 'ground'));
    if (v.crack > 0) marks.push(...crackMarks(58, 32, 58 + Math.min(24, 12 + v.crack * 0.3), 28, 3));
    marks.push(
      dashed(poly(2, 78, 98, 78), 1.4),
      v.bent === 'yes' ? stroke('M4 78H58Q76 78 96 92', 5) : stroke(poly(4, 78, 96, 78), 5),
    );
    return marks;
  },
});
