import { choice, evidenceKind, fault } from '../kind';
import {
  box,
  closed,
  crackMarks,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  shape,
  solid,
  stroke,
  toAndFro,
} from '../marks';

/** A board or plate that one stands on, or that the load does. */
export const deck = evidenceKind({
  id: 'deck',
  title: 'Deck',
  sound: 'whole and fixed',
  params: {
    board: choice('Boards', {
      whole: '',
      split: 'a board split',
      rotten: 'a board rotten',
      missing: 'a board missing',
      loose: 'a board loose',
    }),
    lying: choice('On it', {
      nothing: '',
      rag: 'a rag on it',
      mud: 'mud on it',
      pool: 'a pool on it',
      tools: 'tools loose on it',
    }),
    hole: fault('Drilled', 'a hole drilled in it'),
  },
  draw: ({ board, lying, hole }) => {
    const marks: Mark[] = [];
    [10, 30, 50, 70].forEach((y, i) => {
      const bad = i === 2;
      if (bad && board === 'missing') marks.push(dashed(box(6, y, 88, 18)));
      else if (bad && board === 'loose')
        marks.push(
          shape(closed(6, y, 94, y - 8, 94, y + 10, 6, y + 18), 'ground'),
          ...toAndFro(97, y - 6, 97, y + 14),
        );
      else
        marks.push(
          shape(box(6, y, 88, 18), 'shade', 2.2),
          solid(ellipse(12, y + 9, 2)),
          solid(ellipse(88, y + 9, 2)),
        );
      if (bad && board === 'split') marks.push(...crackMarks(20, y + 5, 86, y + 12, 3));
      if (bad && board === 'rotten') marks.push(...filledEllipse(52, y + 9, 26, 8, 'dirty', true));
    });
    if (lying === 'rag')
      marks.push(shape('M28 32q10 -10 18 0t14 4q4 12 -8 12t-22 0q-8 -8 -2 -16z', 'ground', 2));
    if (lying === 'mud') marks.push(...filledEllipse(48, 38, 26, 13, 'dirty'));
    if (lying === 'pool') marks.push(...filledEllipse(48, 38, 28, 13, 'clear'));
    if (lying === 'tools') marks.push(stroke('M26 46L60 30M58 24a7 7 0 1 0 8 8', 4));
    if (hole === 'yes') marks.push(solid(ellipse(30, 79, 4)));
    return marks;
  },
});
