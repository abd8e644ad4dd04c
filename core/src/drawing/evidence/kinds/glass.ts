import { choice, evidenceKind } from '../kind';
import {
  arc,
  box,
  crackMarks,
  crackPath,
  dashed,
  ellipse,
  filledBox,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A pane with its mirror and wiper, where it has them. */
export const glass = evidenceKind({
  id: 'glass',
  title: 'Glass and mirror',
  sound: 'clear',
  params: {
    state: choice('Glass', { clear: '', dirty: 'dirty', cracked: 'cracked', iced: 'iced over' }),
    mirror: choice(
      'Mirror',
      {
        none: '',
        set: '',
        turned: 'its mirror turned away',
        broken: 'its mirror broken',
        missing: 'its mirror missing',
      },
      { set: 'its mirror set' },
    ),
    wiper: choice('Wiper', { none: '', whole: '', torn: 'its wiper torn' }, { whole: 'its wiper whole' }),
  },
  draw: ({ state, mirror, wiper }) => {
    const w = mirror === 'none' ? 88 : 62;
    const marks: Mark[] = [shape(box(6, 10, w, 74, 8), 'ground')];
    if (state === 'clear')
      marks.push(stroke(`${poly(14, 40, 34, 16)}${poly(14, 54, 46, 16)}`, THIN, 'quiet'));
    if (state === 'dirty') marks.push(...filledBox(10, 14, w - 8, 62, 'dirty'));
    if (state === 'iced') marks.push(...filledBox(10, 14, w - 8, 66, 'bloom'));
    if (state === 'cracked')
      marks.push(
        ...[20, 95, 160, 215, 300].flatMap((a) => {
          const [x, y] = onCircle(30, 44, 22, a);
          return [stroke(crackPath(30, 44, x, y), 2.4)];
        }),
        solid(ellipse(30, 44, 3)),
      );
    if (wiper !== 'none') marks.push(stroke(poly(20, 88, 50, 54), 3));
    if (wiper === 'whole') marks.push(stroke(poly(34, 70, 60, 40), 5));
    if (wiper === 'torn')
      marks.push(
        stroke(poly(34, 70, 46, 56), 5),
        stroke('M48 54q10 2 8 12', 4),
        stroke(poly(53, 48, 60, 40), 5),
      );
    if (mirror !== 'none') {
      marks.push(stroke(poly(68, 30, 78, 36), 4));
      if (mirror === 'set')
        marks.push(shape(ellipse(84, 50, 11, 18)), stroke(poly(78, 50, 84, 38), THIN, 'quiet'));
      if (mirror === 'turned')
        marks.push(shape(ellipse(84, 50, 4, 18), 'deep'), stroke(arc(84, 50, 22, 200, 260), 2));
      if (mirror === 'broken')
        marks.push(
          shape(ellipse(84, 50, 11, 18)),
          ...crackMarks(76, 42, 92, 60),
          ...crackMarks(90, 38, 80, 62),
        );
      if (mirror === 'missing') marks.push(dashed(ellipse(84, 50, 11, 18), 2));
    }
    return marks;
  },
});
