import { choice, evidenceKind, howMuch, number } from '../kind';
import { ellipse, filledBox, type Mark, poly, shape, stroke } from '../marks';

/** A bucket or dump box from the side, and what has stayed in it. */
export const bucket = evidenceKind({
  id: 'bucket',
  title: 'Bucket',
  sound: 'empty',
  params: {
    fill: number(
      'filled',
      '',
      [0, 0, 1, 0.05],
      howMuch([0.02, 'a rest in it'], [0.3, 'half full'], [0.7, 'full']),
    ),
    of: choice('With', { material: '', ice: 'frozen in', people: 'somebody in it' }),
  },
  draw: ({ fill, of }) => {
    const marks: Mark[] = [
      shape('M12 22L88 22L74 82Q70 90 60 90L36 90Q20 84 12 22Z', 'shade'),
      stroke(poly(88, 22, 96, 18)),
      shape(ellipse(20, 30, 4)),
    ];
    if (of === 'people')
      return [...marks, shape(ellipse(52, 14, 8)), shape('M40 50L42 28Q52 20 62 28L64 50Z', 'deep')];
    if (fill > 0) {
      const top = 86 - fill * 62;
      marks.push(
        ...(of === 'ice'
          ? filledBox(30, top, 40, 88 - top, 'bloom')
          : filledBox(30, top, 40, 88 - top, 'dirty')),
        stroke(`M30 ${top}q10 -8 20 -2t20 2`, 2.2),
      );
    }
    return marks;
  },
});
