import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  arrow,
  box,
  dashed,
  drop,
  ellipse,
  filledBox,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
} from '../marks';

/** A ram: its rod, its seal, and whether it holds. */
export const cylinder = evidenceKind({
  id: 'cylinder',
  title: 'Ram',
  sound: 'rod bright, seal dry, holds',
  surfaceAt: [26, 50, 12],
  params: {
    rod: choice('Rod', {
      bright: '',
      dusty: 'dust on its rod',
      filmed: 'a film of oil on its rod',
      scored: 'its rod scored',
      pitted: 'its rod pitted',
      bent: 'its rod bent',
    }),
    seal: choice('Seal', {
      dry: '',
      ring: 'a ring of oil at its seal',
      wet: 'wet at its seal',
      run: 'oil runs from its seal',
    }),
    drift: number('drift', 'mm a minute', [0, 0, 1000], howMuch([1, 'creeps'], [100, 'runs in fast'])),
  },
  draw: ({ rod, seal, drift }) => {
    const run = drift === 0 ? 0 : Math.min(20, 8 + drift * 0.03);
    const end = 90 - run;
    const marks: Mark[] = [];
    if (drift > 0) marks.push(dashed(ellipse(90, 50, 8)), ...arrow(90, 70, end - 2, 70));
    if (rod === 'bent')
      marks.push(
        stroke(`M54 50Q74 50 ${end} 30`, 14),
        stroke(`M54 50Q74 50 ${end} 30`, 8.5, 'ground'),
        shape(ellipse(end, 28, 8)),
      );
    else {
      marks.push(
        shape(box(52, 43, end - 52, 14), 'ground'),
        shape(ellipse(end, 50, 8)),
        solid(ellipse(end, 50, 3)),
      );
      const xs = [60, 65, 70, 75].filter((x) => x < end - 7);
      if (rod === 'bright') marks.push(stroke(poly(58, 47, end - 12, 47), THIN, 'quiet'));
      if (rod === 'dusty') marks.push(...filledBox(56, 44.5, end - 66, 11, 'milky'));
      if (rod === 'filmed') marks.push(...filledBox(56, 44.5, end - 66, 11, 'clear'));
      if (rod === 'scored')
        marks.push(
          stroke(`${poly(56, 46, end - 9, 47)}${poly(58, 50, end - 10, 50)}${poly(56, 54, end - 12, 53)}`, 2),
        );
      if (rod === 'pitted')
        marks.push(
          ...xs.flatMap((x, i) => [
            solid(ellipse(x, 46 + (i % 2) * 6, 2.2)),
            solid(ellipse(x + 2, 53 - (i % 3) * 3, 1.5)),
          ]),
        );
    }
    marks.push(
      shape(box(6, 34, 42, 32, 3), 'shade'),
      shape(box(46, 36, 8, 28, 2), 'deep'),
      shape(ellipse(8, 50, 6)),
    );
    if (seal === 'ring') marks.push(shape(box(54, 40, 6, 20, 3), 'deep', 2));
    if (seal === 'wet')
      marks.push(
        shape(box(54, 40, 6, 20, 3), 'deep', 2),
        shape(`M60 57q10 2 18 0q-6 9 -12 5z`, 'deep', THIN),
      );
    if (seal === 'run')
      marks.push(
        shape(box(54, 40, 6, 20, 3), 'deep', 2),
        stroke('M56 60q3 8 -1 14t1 12', 4),
        solid(drop(56, 94, 4)),
      );
    return marks;
  },
});
