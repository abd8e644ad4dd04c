import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  box,
  drop,
  ellipse,
  filledEllipse,
  type Mark,
  rustMarks,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

const SURFACES = { clean: '', rusty: 'the disc rusty', scored: 'the disc scored', oily: 'oil on the disc' };

/** A brake disc with its pad. */
export const brakeDisc = evidenceKind({
  id: 'brake-disc',
  title: 'Brake disc',
  sound: 'clean',
  params: {
    surface: choice('Surface', SURFACES),
    lining: number(
      'lining',
      'mm',
      [12, 0, 40, 0.5],
      howMuch([0, 'no lining left'], [1, 'the lining thin'], [4, '']),
    ),
  },
  draw: ({ surface, lining }) => {
    const marks: Mark[] = [shape(ellipse(42, 52, 38), 'shade'), stroke(ellipse(42, 52, 20), THIN)];
    if (surface === 'scored') marks.push(...[24, 28, 31, 35].map((r) => stroke(ellipse(42, 52, r), 1.5)));
    if (surface === 'rusty') marks.push(...rustMarks(42, 52, 30), ...rustMarks(40, 54, 25));
    if (surface === 'oily') marks.push(...filledEllipse(28, 72, 13, 9, 'oily'), solid(drop(28, 92, 3)));
    const thick = Math.min(22, lining * 1.1);
    marks.push(shape(ellipse(42, 52, 11)), solid(ellipse(42, 52, 3)), shape(box(86, 32, 8, 40), 'deep'));
    if (lining > 0) marks.push(shape(box(86 - thick, 34, thick, 36), 'ground'));
    return marks;
  },
});
