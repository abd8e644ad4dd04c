import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  box,
  closed,
  crackMarks,
  dashed,
  ellipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** An air filter with its indicator. */
export const filter = evidenceKind({
  id: 'filter',
  title: 'Filter',
  sound: 'clean, whole and seated',
  params: {
    indicator: choice(
      'Indicator',
      {
        none: '',
        green: '',
        amber: 'its indicator half way',
        red: 'its indicator at the top',
        tripped: 'its indicator has tripped',
      },
      { green: 'its indicator low' },
    ),
    dust: number('Dust', '', [0.1, 0, 1, 0.05], howMuch([0, ''], [0.4, 'dusty'], [0.75, 'choked with dust'])),
    shell: choice('Shell', { whole: '', dented: 'its shell dented', holed: 'its shell holed' }),
    seal: choice('Seal', { seated: '', torn: 'its seal torn', flattened: 'its seal flattened' }),
    valve: choice(
      'Dust valve',
      { none: '', whole: '', missing: 'its dust valve missing' },
      { whole: 'its dust valve whole' },
    ),
  },
  draw: ({ indicator, dust, shell, seal, valve }) => {
    const x = indicator === 'none' ? 20 : 36;
    const marks: Mark[] = [shape(box(x, 18, 58, 70, 6), 'shade')];
    for (let at = x + 6; at < x + 56; at += 6) marks.push(stroke(poly(at, 28, at, 80), THIN, 'quiet'));
    const dots = Math.round(dust * 40);
    for (let i = 0; i < dots; i++)
      marks.push(solid(ellipse(x + 5 + ((i * 23) % 48), 28 + ((i * 31) % 52), 1.5 + dust)));
    if (seal === 'seated') marks.push(shape(box(x - 3, 12, 64, 10, 5), 'deep'));
    if (seal === 'torn')
      marks.push(
        shape(box(x - 3, 12, 24, 10, 5), 'deep'),
        shape(closed(x + 34, 8, x + 61, 12, x + 61, 22, x + 38, 22), 'deep'),
        ...crackMarks(x + 22, 10, x + 32, 24),
      );
    if (seal === 'flattened') marks.push(shape(box(x - 3, 17, 64, 4, 2), 'deep'));
    if (shell === 'dented')
      marks.push(
        solid(`M${x + 59} 40Q${x + 38} 54 ${x + 59} 68Z`, 'ground'),
        stroke(`M${x + 58} 38Q${x + 36} 54 ${x + 58} 70`, 3),
      );
    if (shell === 'holed')
      marks.push(solid(closed(x + 24, 46, x + 34, 42, x + 42, 50, x + 36, 62, x + 25, 58)));
    if (valve === 'whole')
      marks.push(shape(closed(x + 22, 88, x + 36, 88, x + 32, 98, x + 26, 98), 'deep', 2));
    if (valve === 'missing') marks.push(dashed(closed(x + 22, 88, x + 36, 88, x + 32, 98, x + 26, 98), 2));
    if (indicator !== 'none') {
      const high = { green: 10, amber: 34, red: 58, tripped: 58 }[indicator];
      marks.push(
        shape(box(6, 20, 18, 68, 4)),
        shape(box(8.5, 86 - high, 13, high, 1), indicator === 'green' ? 'shade' : 'deep', 2),
        ...[37, 61].map((y) => stroke(poly(2, y, 8, y), 2)),
      );
      if (indicator === 'tripped')
        marks.push(
          shape(box(5, 8, 20, 14, 3), 'ink'),
          words('!', 15, 19, 12, { bold: true, tone: 'ground' }),
        );
    }
    return marks;
  },
});
