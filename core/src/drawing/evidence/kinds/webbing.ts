import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  arc,
  arrow,
  box,
  closed,
  crackMarks,
  crossed,
  dashed,
  ellipse,
  filledBox,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** A belt or harness strap with its buckle. */
export const webbing = evidenceKind({
  id: 'webbing',
  title: 'Belt',
  sound: 'whole, its buckle holds',
  params: {
    cut: number('cut', '% of its width', [0, 0, 100], howMuch([1, 'cut at its edge'], [18, 'cut deep'])),
    edge: choice('Edge', { clean: '', frayed: 'its edge frayed' }),
    buckle: choice('Buckle', {
      holds: '',
      slips: 'its buckle slips',
      broken: 'its buckle broken',
      jammed: 'its buckle will not open',
    }),
    stowed: choice('Stowed', { none: '', yes: '', no: 'not stowed' }),
    label: choice(
      'Label',
      {
        none: '',
        readable: '',
        'out-of-date': 'its label out of date',
        missing: 'its label missing',
      },
      { readable: 'its label readable' },
    ),
    stitching: choice('Stitching', { closed: '', pulled: 'its stitching pulled' }),
    soil: choice('Soil', { none: '', dust: 'dust on it', glazed: 'glazed by heat' }),
    reel: choice(
      'Reel',
      {
        none: '',
        locks: '',
        runs: 'its reel does not lock',
        slow: 'its reel winds slowly',
      },
      { locks: 'its reel locks' },
    ),
  },
  draw: (v) => {
    const marks: Mark[] = [
      shape(box(2, 38, 56, 22), 'shade'),
      ...[44, 49, 54].map((y) => stroke(poly(2, y, 58, y), 1, 'quiet')),
    ];
    if (v.edge === 'frayed')
      marks.push(...[8, 15, 22, 29, 36, 43].map((x) => stroke(`M${x} 60q2 5 ${x % 2 ? 6 : -2} 11`, 1.6)));
    if (v.cut > 0) {
      const deep = Math.min(19, 4 + v.cut * 0.45);
      marks.push(
        solid(closed(18, 36, 30, 36, 24, 38 + deep), 'ground'),
        stroke(poly(17, 38, 24, 38 + deep, 31, 38), 3),
      );
    }
    if (v.stitching === 'pulled')
      marks.push(stroke('M40 40l6 18M46 40l-6 18M43 36q4 -10 10 -8M44 60q3 10 9 8', 1.8));
    else marks.push(stroke('M40 42l6 14M46 42l-6 14', 1.4));
    if (v.soil === 'dust') marks.push(...filledBox(4, 40, 34, 18, 'milky'));
    if (v.soil === 'glazed') marks.push(...filledBox(4, 40, 34, 18, 'thin'));
    marks.push(stroke(box(58, 30, 32, 38, 4), 5));
    if (v.buckle === 'holds') marks.push(shape(box(50, 40, 28, 18, 2)), stroke(poly(64, 49, 76, 49), 3));
    if (v.buckle === 'slips') marks.push(shape(box(38, 40, 28, 18, 2)), ...arrow(62, 78, 36, 78));
    if (v.buckle === 'broken') marks.push(shape(box(50, 40, 28, 18, 2)), ...crackMarks(60, 28, 84, 70, 3.4));
    if (v.buckle === 'jammed') marks.push(shape(box(50, 40, 28, 18, 2), 'deep'), crossed(74, 49, 7));
    if (v.label !== 'none') {
      marks.push(
        v.label === 'missing' ? dashed(box(6, 8, 30, 20, 1)) : shape(box(6, 8, 30, 20, 1)),
        ...(v.label === 'readable' ? [stroke(`${poly(10, 15, 32, 15)}${poly(10, 21, 26, 21)}`, THIN)] : []),
      );
      if (v.label === 'out-of-date') marks.push(words('ended', 21, 21, 8.4, { bold: true }));
    }
    if (v.stowed === 'no') marks.push(stroke('M2 60Q4 92 40 90T80 96', 4));
    if (v.reel !== 'none')
      marks.push(
        shape(ellipse(86, 86, 10), 'shade'),
        ...(v.reel === 'locks'
          ? [solid(ellipse(86, 86, 4))]
          : v.reel === 'runs'
            ? [...arrow(78, 74, 60, 84), stroke(ellipse(86, 86, 4), THIN)]
            : [dashed(arc(86, 86, 5, 0, 270), 2)]),
      );
    return marks;
  },
});
