import { choice, evidenceKind } from '../kind';
import {
  box,
  closed,
  crackMarks,
  dashed,
  filledEllipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** A cable with its plug and socket. */
export const cable = evidenceKind({
  id: 'cable',
  title: 'Cable',
  sound: 'whole, plugged home and carried',
  params: {
    sheath: choice('Sheath', {
      whole: '',
      chafed: 'its sheath chafed',
      cut: 'cut into',
      bare: 'bare strands showing',
      pinched: 'pinched',
      taped: 'mended with tape',
    }),
    plug: choice('Plug', {
      home: '',
      'half-out': 'its plug half out',
      burnt: 'its plug burnt',
      corroded: 'its plug corroded',
      cracked: 'its plug cracked',
      missing: 'its plug missing',
      unplugged: 'unplugged',
    }),
    support: choice('Support', { carried: '', hanging: 'hanging free', loop: 'a slack loop in it' }),
    mark: choice(
      'Mark',
      { none: '', matches: '', crossed: 'its mark is not that of the socket' },
      { matches: 'its mark is that of the socket' },
    ),
  },
  draw: ({ sheath, plug, support, mark }) => {
    const path = {
      carried: 'M2 40H58',
      hanging: 'M2 30C20 100 40 96 58 40',
      loop: 'M2 40C26 40 34 78 24 78S22 40 58 40',
    }[support];
    const marks: Mark[] = [stroke(path, 11), stroke(path, 6, 'shade')];
    if (support === 'carried') marks.push(stroke('M44 20V40M37 47a7 7 0 0 0 14 0', 2.2));
    const [x, y] = support === 'hanging' ? [30, 80] : [22, 40];
    if (sheath === 'chafed')
      marks.push(...[-8, -4, 0, 4, 8].map((dx) => stroke(poly(x + dx - 2, y - 5, x + dx + 2, y + 5), THIN)));
    if (sheath === 'cut')
      marks.push(
        solid(closed(x - 3, y - 7, x + 4, y - 7, x, y + 3), 'ground'),
        stroke(poly(x - 4, y - 7, x, y + 3, x + 5, y - 7), 2.2),
      );
    if (sheath === 'bare')
      marks.push(
        solid(box(x - 9, y - 7, 18, 14), 'ground'),
        ...[-3, 0, 3].map((dy) => stroke(`M${x - 10} ${y + dy}q5 ${dy * 1.6} 10 0t10 0`, THIN)),
      );
    if (sheath === 'pinched')
      marks.push(
        solid(closed(x - 7, y - 8, x + 7, y - 8, x, y - 1), 'ground'),
        solid(closed(x - 7, y + 8, x + 7, y + 8, x, y + 1), 'ground'),
        stroke(
          `${poly(x - 7, y - 6, x, y - 1, x + 7, y - 6)}${poly(x - 7, y + 6, x, y + 1, x + 7, y + 6)}`,
          2.4,
        ),
      );
    if (sheath === 'taped')
      marks.push(
        shape(box(x - 11, y - 8, 22, 16, 2)),
        ...[-6, 0, 6].map((dx) => stroke(poly(x + dx - 3, y + 8, x + dx + 3, y - 8), THIN)),
      );
    const out = plug === 'half-out' ? 8 : plug === 'unplugged' ? 13 : 0;
    if (plug !== 'missing')
      marks.push(
        shape(box(56 - out, 28, 22, 24, 3), plug === 'burnt' ? 'deep' : 'ground'),
        stroke(`${poly(78 - out, 35, 86 - out, 35)}${poly(78 - out, 45, 86 - out, 45)}`, 2.6),
      );
    else marks.push(dashed(box(56, 28, 22, 24, 3)));
    marks.push(
      shape(box(80, 22, 16, 36, 2), 'shade'),
      ...(out > 8 || plug === 'missing' ? [solid(box(84, 34, 8, 3)), solid(box(84, 44, 8, 3))] : []),
    );
    if (plug === 'burnt')
      marks.push(
        ...filledEllipse(68, 40, 12, 9, 'burnt'),
        stroke('M66 26q-4 -6 0 -10t0 -10M76 26q-4 -6 0 -10t0 -10', THIN),
      );
    if (plug === 'corroded') marks.push(...filledEllipse(78, 40, 8, 11, 'bloom'));
    if (plug === 'cracked') marks.push(...crackMarks(60, 30, 74, 50));
    if (mark !== 'none')
      marks.push(
        words(mark === 'matches' ? '1' : '2', 66 - out, 68, 12, { bold: true }),
        words('1', 88, 72, 12, { bold: true }),
      );
    return marks;
  },
});
