import { choice, evidenceKind, line } from '../kind';
import {
  box,
  dashed,
  ellipse,
  filledEllipse,
  lettering,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** A plate or label and what it says. */
export const plate = evidenceKind({
  id: 'plate',
  title: 'Plate',
  sound: '',
  params: {
    state: choice('State', {
      readable: '',
      worn: 'worn',
      missing: 'missing',
      covered: 'covered by dirt',
      'other-machine': 'of another machine',
    }),
    says: line('Says', ''),
  },
  says: {
    says: ({ state, says }) => {
      if (state === 'missing') return '';
      if (says) return `reads “${says}”`;
      return state === 'readable' ? 'can be read' : '';
    },
  },
  draw: ({ state, says }) => {
    const edge = box(4, 20, 92, 60, 4);
    if (state === 'missing')
      return [dashed(edge, 2.4), ...[11, 89].flatMap((x) => [27, 73].map((y) => solid(ellipse(x, y, 2.6))))];
    const marks: Mark[] = [
      shape(edge),
      ...[11, 89].flatMap((x) => [27, 73].map((y) => stroke(ellipse(x, y, 2), THIN))),
    ];
    if (says) marks.push(...lettering(says, 50, 50, { letters: 17, lines: 4, size: 9.4 }));
    else marks.push(...[38, 48, 58].map((y) => stroke(poly(22, y, y === 58 ? 60 : 78, y), 3)));
    if (state === 'worn')
      marks.push(
        ...[0, 1, 2, 3, 4].map((i) => stroke(`M${14 + i * 16} 66l14 -34`, 4, 'ground')),
        stroke('M12 60l22 -26M30 66l26 -34M56 68l28 -36', 1.4, 'quiet'),
      );
    if (state === 'covered') marks.push(...filledEllipse(54, 52, 36, 21, 'dirty'));
    if (state === 'other-machine')
      marks.push(shape(box(52, 8, 46, 18, 2), 'ground', 2.4), words('≠ no. 1', 75, 20.5, 9, { bold: true }));
    return marks;
  },
});
