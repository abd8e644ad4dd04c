import { choice, evidenceKind, wanted } from '../kind';
import {
  arc,
  box,
  dashed,
  ellipse,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** A fire extinguisher on its bracket. */
export const extinguisher = evidenceKind({
  id: 'extinguisher',
  title: 'Fire extinguisher',
  sound: 'charged, sealed, in date, strapped',
  params: {
    needle: choice('Needle', { green: '', low: 'its needle low' }),
    tag: choice('Tag', { 'in-date': '', 'out-of-date': 'its tag out of date' }),
    pin: choice('Pin', { sealed: '', missing: 'its pin missing' }),
    strap: choice('Strap', { tight: '', loose: 'its strap loose' }),
    present: wanted('There', 'its bracket empty'),
  },
  draw: ({ needle, tag, pin, strap, present }) => {
    const bracket = stroke(poly(14, 14, 14, 94, 66, 94), 4, 'quiet');
    if (present === 'no')
      return [bracket, dashed(box(24, 36, 34, 56, 8), 2.2), stroke('M14 58H4M14 70H4', 3, 'quiet')];
    const marks: Mark[] = [
      bracket,
      shape(box(24, 36, 34, 56, 8), 'shade'),
      shape(box(34, 22, 14, 14, 2)),
      stroke('M34 24L60 16M34 18L62 8', 4),
      stroke('M48 30Q72 30 70 60', 5),
    ];
    marks.push(
      shape(ellipse(80, 30, 16)),
      stroke(arc(80, 30, 11, 30, 110), 4),
      ...(needle === 'green'
        ? [stroke(poly(80, 30, ...onCircle(80, 30, 11, 70)), 2.6)]
        : [stroke(poly(80, 30, ...onCircle(80, 30, 11, 250)), 2.6)]),
    );
    marks.push(pin === 'sealed' ? stroke('M38 20a5 5 0 1 1 -8 -4', 2.4) : stroke(ellipse(38, 20, 2), THIN));
    if (pin === 'sealed') marks.push(solid(box(26, 12, 6, 6, 1)));
    marks.push(
      shape(box(66, 66, 28, 24, 2)),
      stroke('M58 60L70 66', THIN),
      words(tag === 'in-date' ? 'valid' : 'ended', 80, 76, 7),
      stroke(
        tag === 'in-date' ? poly(73, 82, 78, 86, 87, 79) : `${poly(73, 79, 87, 87)}${poly(87, 79, 73, 87)}`,
        2.4,
      ),
    );
    marks.push(strap === 'tight' ? stroke(poly(14, 62, 60, 62), 5) : stroke('M14 60Q20 84 40 72', 5));
    return marks;
  },
});
