import { choice, evidenceKind, howMuch, number } from '../kind';
import { box, dashed, ellipse, type Mark, poly, rustMarks, shape, solid, stroke } from '../marks';

/** A wire rope, and how it lies on its drum. */
export const rope = evidenceKind({
  id: 'rope',
  title: 'Wire rope',
  sound: 'whole and of even thickness',
  surfaceAt: [50, 26, 11],
  params: {
    broken: number(
      'broken wires',
      'in a lay',
      [0, 0, 200],
      howMuch([1, 'a wire stands out'], [3, 'wires stand out'], [10, 'many wires stand out']),
    ),
    loss: number('thinner by', '%', [0, 0, 40, 0.5], howMuch([0, ''], [3, 'thinner'], [7, 'much thinner'])),
    shape: choice('Shape', {
      whole: '',
      kinked: 'kinked',
      'bird-caged': 'its strands stand open like a cage',
      flattened: 'flattened',
      corroded: 'rusted through its strands',
    }),
    lay: choice(
      'On its drum',
      { none: '', tight: '', crossed: 'crossed on its drum' },
      { tight: 'tight on its drum' },
    ),
    wraps: number('Turns left', '', [0, 0, 40], (n) =>
      n === 0 ? '' : n === 1 ? 'one turn left on the drum' : `${n} turns left on the drum`,
    ),
    tension: choice('Tension', { even: '', slack: 'slack' }),
  },
  draw: (v) => {
    const drum = v.lay !== 'none' || v.wraps > 0;
    const end = drum ? 50 : 96;
    const w = 15 * (1 - Math.min(0.4, v.loss * 0.03));
    const marks: Mark[] = [];
    const path =
      v.shape === 'kinked'
        ? `M4 34H40L50 14L60 34H${96}`
        : v.tension === 'slack'
          ? `M4 20Q50 66 96 20`
          : 'M4 28H96';
    const flat = v.shape === 'flattened' ? 1.5 : 1;
    marks.push(stroke(path, w * flat), stroke(path, w * flat - 5.5, 'ground'));
    if (v.shape !== 'kinked' && v.tension !== 'slack') {
      for (let x = 8; x < 94; x += 8)
        marks.push(stroke(poly(x, 28 + (w * flat) / 2 - 2, x + 7, 28 - (w * flat) / 2 + 2), 2));
    } else
      for (const x of [10, 18, 26, 74, 82, 90])
        marks.push(stroke(poly(x, v.shape === 'kinked' ? 39 : 36, x + 5, v.shape === 'kinked' ? 29 : 26), 2));
    if (v.loss > 2) marks.push(dashed(`${poly(4, 20, 96, 20)}${poly(4, 36, 96, 36)}`, 1.3, 'quiet'));
    if (v.shape === 'bird-caged')
      marks.push(
        solid(ellipse(50, 28, 19, 15), 'ground'),
        ...[-14, -7, 0, 7, 14].map((dy) => stroke(`M32 28Q50 ${28 + dy * 1.9} 68 28`, 2.6)),
      );
    if (v.shape === 'flattened') marks.push(stroke(`${poly(36, 15, 64, 15)}${poly(36, 41, 64, 41)}`, 3));
    if (v.shape === 'corroded')
      marks.push(...rustMarks(30, 28, 10), ...rustMarks(50, 28, 11), ...rustMarks(72, 28, 10));
    const shown = Math.min(14, v.broken);
    for (let i = 0; i < shown; i++) {
      const x = 12 + ((i * 29) % 78);
      const up = i % 2 ? -1 : 1;
      marks.push(stroke(poly(x, 28 + up * 6, x + 6, 28 + up * (16 + (i % 3) * 2)), 2.6));
    }
    if (drum) {
      marks.push(
        shape(box(4, end + 8, 6, 40, 1), 'deep'),
        shape(box(90, end + 8, 6, 40, 1), 'deep'),
        shape(box(10, end + 14, 80, 28), 'shade'),
      );
      const n = v.wraps > 0 ? Math.min(9, v.wraps) : 9;
      for (let i = 0; i < n; i++)
        marks.push(stroke(poly(14 + i * 8.4, end + 42, 18 + i * 8.4, end + 14), 4.6));
      if (v.lay === 'crossed')
        marks.push(
          stroke(poly(16, end + 16, 78, end + 42), 7, 'ground'),
          stroke(poly(16, end + 16, 78, end + 42), 4),
        );
    }
    return marks;
  },
});
