import { choice, evidenceKind, howMuch, number, wanted } from '../kind';
import { closed, crackMarks, ellipse, type Mark, poly, shape, stroke, THICK, toAndFro } from '../marks';

/** One column of a lift with its fork under a wheel. */
export const column = evidenceKind({
  id: 'column',
  title: 'Column and wheel',
  sound: 'fork centred under the wheel, lock engaged, floor firm',
  params: {
    fork: choice('Fork', {
      centred: '',
      'one-side': 'the fork under one side of the wheel only',
      high: 'the fork too high on the wheel',
    }),
    match: wanted('Fits the wheel', 'the fork does not fit the wheel'),
    lock: choice('Lock', { engaged: '', half: 'the lock half engaged', released: 'the lock released' }),
    floor: choice('Floor', { firm: '', cracked: 'the floor cracked' }),
    lean: number('lean', '°', [0, 0, 15, 0.5], howMuch([0.5, 'the column leans'])),
    gap: number('gap', 'mm', [0, 0, 100], howMuch([1, 'a gap between fork and tyre'])),
  },
  draw: (v) => {
    const lean = Math.min(14, v.lean * 2);
    const r = v.match === 'no' ? 17 : 25;
    const cy = 78 - 25 - (v.gap > 0 ? 6 : 0) + (v.match === 'no' ? 2 : 0);
    const forkY = v.fork === 'high' ? 50 : 74;
    const cx = v.fork === 'one-side' ? 73 : 62;
    const marks: Mark[] = [
      stroke(poly(2, 90, 98, 90), THICK),
      shape(closed(8 + lean, 6, 26 + lean, 6, 26, 90, 8, 90), 'shade'),
      ...[18, 30, 42, 54, 66, 78].map((y) =>
        stroke(poly(20 + lean * (1 - y / 90), y, 26 + lean * (1 - y / 90), y), 2),
      ),
      shape(ellipse(cx, cy, r), 'shade', 5),
      shape(ellipse(cx, cy, r * 0.45)),
      stroke(`M26 ${forkY}H${cx - 13}V${forkY + 8}M${cx - 13} ${forkY}h26v8`, 5),
    ];
    const tooth = { engaged: 0, half: 4, released: 10 }[v.lock];
    marks.push(shape(closed(26 + tooth, 24, 40 + tooth, 18, 40 + tooth, 32), 'deep', 2));
    if (v.floor === 'cracked') marks.push(...crackMarks(14, 90, 46, 99), ...crackMarks(20, 91, 8, 99));
    else marks.push(...[10, 26, 42, 58, 74, 90].map((x) => stroke(poly(x, 98, x + 6, 91), 1.3, 'quiet')));
    if (v.gap > 0) marks.push(...toAndFro(94, 71, 94, 82));
    return marks;
  },
});
