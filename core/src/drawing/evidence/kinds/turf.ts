import { choice, evidenceKind } from '../kind';
import { dashed, filledEllipse, type Mark, poly, stroke } from '../marks';

/** What a mower leaves behind. */
export const turf = evidenceKind({
  id: 'turf',
  title: 'The cut',
  sound: 'even',
  params: {
    cut: choice('Cut', {
      even: '',
      waves: 'in waves',
      streak: 'a streak left standing',
      torn: 'its tips torn',
      clumps: 'clumps lying on it',
      scalped: 'scalped',
    }),
  },
  draw: ({ cut }) => {
    const marks: Mark[] = [stroke(poly(2, 90, 98, 90))];
    for (let i = 0; i < 16; i++) {
      const x = 6 + i * 5.9;
      const tall = cut === 'streak' && i >= 7 && i <= 8;
      const h =
        cut === 'scalped' && i >= 5 && i <= 9
          ? 4
          : tall
            ? 62
            : cut === 'waves'
              ? 30 + 12 * Math.sin(i * 0.9)
              : 34;
      marks.push(stroke(poly(x, 90, x, 90 - h), 2.8));
      if (cut === 'torn')
        marks.push(stroke(`M${x} ${90 - h}l-2 -6M${x} ${90 - h}l2.4 -5M${x} ${90 - h}l0 -8`, 1.3));
    }
    if (cut === 'clumps')
      marks.push(...filledEllipse(32, 54, 13, 7, 'dirty'), ...filledEllipse(72, 54, 13, 7, 'dirty'));
    marks.push(dashed(poly(2, 56, 98, 56), 1.3, 'quiet'));
    return marks;
  },
});
