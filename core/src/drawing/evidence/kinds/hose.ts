import { choice, evidenceKind, fault } from '../kind';
import {
  arrow,
  box,
  closed,
  crackPath,
  dashed,
  drop,
  ellipse,
  filledEllipse,
  hexagon,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A hose with its fitting. */
export const hose = evidenceKind({
  id: 'hose',
  title: 'Hose',
  sound: 'whole and dry',
  surfaceAt: [82, 66, 9],
  params: {
    cover: choice('Cover', {
      whole: '',
      chafed: 'its cover chafed',
      cut: 'its cover cut',
      braid: 'its wire braid showing',
      bulge: 'a bulge in it',
      kinked: 'kinked',
      browned: 'its cover browned and crazed',
      dusty: 'dust on it',
    }),
    leak: choice('Leak', {
      dry: '',
      damp: 'damp',
      seep: 'wet',
      drip: 'dripping',
      run: 'running',
      spray: 'spraying',
      bubbles: 'bubbles',
      frost: 'frost',
      water: 'beads of clear water',
    }),
    at: choice('Where', { fitting: '', middle: '' }),
    clamp: choice('Clamp', { tight: '', loose: 'its clamp loose', missing: 'its clamp missing' }),
    soft: fault('Soft', 'soft under the finger'),
  },
  says: {
    leak: ({ at }, own) => own && `${own} ${at === 'fitting' ? 'at the fitting' : 'along its length'}`,
  },
  draw: ({ cover, leak, at, clamp, soft }) => {
    const path = cover === 'kinked' ? 'M26 40H50L58 60L70 46Q84 44 98 76' : 'M26 40H52Q78 40 98 76';
    const marks: Mark[] = [
      stroke(path, 19),
      stroke(path, 13.5, 'shade'),
      shape(box(4, 30, 14, 20, 2)),
      shape(hexagon(20, 40, 12), 'ground'),
    ];
    if (cover === 'bulge')
      marks.push(
        shape('M44 32Q56 14 70 36Q74 46 66 54Q50 54 44 48Z', 'shade'),
        stroke('M50 30q6 -5 12 0', THIN),
      );
    if (cover === 'chafed')
      marks.push(
        ...[46, 50, 54, 58, 62].map((x) =>
          stroke(poly(x, 33 + (x - 46) * 0.2, x + 5, 46 + (x - 46) * 0.2), THIN),
        ),
        solid('M46 30q8 4 18 4l-2 -4z', 'ground'),
      );
    if (cover === 'cut')
      marks.push(solid(closed(48, 28, 62, 31, 54, 46), 'ground'), stroke(poly(46, 30, 54, 47, 64, 33), 3));
    if (cover === 'braid') marks.push(...filledEllipse(56, 41, 13, 8, 'burnt'));
    if (cover === 'browned')
      marks.push(...[44, 52, 60, 68].map((x) => stroke(crackPath(x, 33, x + 4, 48), 1.4)));
    if (cover === 'dusty') marks.push(...filledEllipse(56, 41, 15, 6, 'milky', true));
    if (clamp === 'tight') marks.push(shape(box(32, 27, 8, 26, 1), 'ground', 2.4));
    if (clamp === 'loose')
      marks.push(
        shape(closed(32, 22, 40, 27, 40, 56, 32, 51), 'ground', 2.4),
        stroke(poly(36, 22, 44, 14), 3),
        ...toAndFro(28, 62, 46, 62),
      );
    if (clamp === 'missing') marks.push(dashed(box(32, 27, 8, 26, 1)));
    const [x, y] = at === 'fitting' ? [24, 52] : [66, 54];
    switch (leak) {
      case 'damp':
        marks.push(...filledEllipse(x, y - 6, 10, 6, 'milky', true));
        break;
      case 'seep':
        marks.push(shape(`M${x - 10} ${y - 4}q10 6 20 0q2 14 -9 14t-11 -14z`, 'deep', 2));
        break;
      case 'drip':
        marks.push(stroke(poly(x, y - 2, x, y + 8), 3), solid(drop(x, y + 24, 5)));
        break;
      case 'run':
        marks.push(stroke(`M${x} ${y - 2}q4 12 0 22t2 26`, 6), ...filledEllipse(x + 2, 95, 15, 4, 'dark'));
        break;
      case 'spray':
        marks.push(
          ...[-46, -24, 0, 24, 46].map((a) => {
            const [px, py] = onCircle(x, y, 40, 180 + a);
            const [qx, qy] = onCircle(x, y, 9, 180 + a);
            return dashed(poly(qx, qy, px, py), 2.4);
          }),
        );
        break;
      case 'bubbles':
        marks.push(
          ...[
            [0, 0, 5],
            [8, -6, 3.4],
            [-8, -5, 4],
            [3, -13, 3],
          ].map(([dx, dy, r]) => shape(ellipse(x + dx!, y - 18 + dy!, r!), 'ground', THIN)),
        );
        break;
      case 'frost':
        marks.push(...filledEllipse(x, y - 10, 14, 11, 'bloom'));
        break;
      case 'water':
        marks.push(
          ...[-8, 0, 8].map((dx) => shape(drop(x + dx, y + 8 + Math.abs(dx) * 0.4, 3), 'ground', THIN)),
        );
        break;
      default:
    }
    if (soft === 'yes')
      marks.push(
        solid('M66 26q8 12 18 12l4 -8z', 'ground'),
        stroke('M64 34q9 14 20 16', 3),
        ...arrow(88, 12, 76, 34),
      );
    return marks;
  },
});
