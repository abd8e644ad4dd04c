import { choice, evidenceKind, number, several } from '../kind';
import {
  arrow,
  box,
  closed,
  crackMarks,
  dashed,
  ellipse,
  filledBox,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  toAndFro,
} from '../marks';

/** A crawler track from the side. */
export const track = evidenceKind({
  id: 'track',
  title: 'Track',
  sound: 'whole, hangs as it should',
  params: {
    sag: number('sag', 'mm', [20, 0, 400], (n) => (n < 6 ? 'drum-tight' : n < 60 ? '' : 'hangs slack')),
    pad: choice('Pad', { whole: '', cracked: 'a pad cracked', missing: 'a pad missing' }),
    'bolts-missing': number('Bolts missing', '', [0, 0, 8], several('bolt missing', 'bolts missing')),
    object: choice('In it', { none: '', stone: 'a stone in it', mud: 'packed with mud' }),
    idler: choice('Idler', { on: '', off: 'off its idler' }),
  },
  draw: (v) => {
    const sag = Math.min(26, v.sag * 0.16);
    const up = v.idler === 'off' ? 10 : 0;
    const marks: Mark[] = [
      shape(ellipse(20, 52, 15), 'shade'),
      shape(ellipse(80, 52, 15), 'shade'),
      shape(ellipse(38, 62, 7)),
      shape(ellipse(50, 62, 7)),
      shape(ellipse(62, 62, 7)),
    ];
    const belt = `M20 ${32}Q50 ${32 + 2 * sag} 80 ${32 - up}A20 20 0 0 1 80 ${72 - up * 0.4}H20A20 20 0 0 1 20 32`;
    marks.push(stroke(belt, 8), stroke(belt, 2.6, 'ground'));
    for (let x = 22; x <= 78; x += 8) {
      if (x === 46 && v.pad === 'missing')
        marks.push(solid(box(43, 66, 8, 12), 'ground'), dashed(box(43, 68, 8, 9), 1.4));
      else marks.push(shape(box(x - 3, 72, 6, 8), 'deep', 1.6));
    }
    for (let i = 0; i < v['bolts-missing']; i++) marks.push(shape(ellipse(22 + i * 8, 70, 2.4), 'ground', 2));
    if (v.pad === 'cracked') marks.push(...crackMarks(42, 66, 52, 84, 3));
    if (v.object === 'stone') marks.push(shape(closed(62, 54, 72, 48, 76, 58, 68, 66), 'deep'));
    if (v.object === 'mud') marks.push(...filledBox(30, 48, 40, 20, 'dirty'));
    if (sag > 6) marks.push(dashed(poly(20, 30, 80, 30), 1.4), ...arrow(50, 12, 50, 30 + sag * 0.8));
    if (sag < 1) marks.push(...toAndFro(14, 16, 86, 16));
    return marks;
  },
});
