import { choice, evidenceKind, number, places, several } from '../kind';
import {
  arc,
  closed,
  dashed,
  drop,
  ellipse,
  hexagon,
  type Mark,
  onCircle,
  poly,
  rustMarks,
  shape,
  solid,
  streak,
  stroke,
} from '../marks';

/** A wheel's nuts; places clockwise from the top. */
export const wheelNuts = evidenceKind({
  id: 'wheel-nuts',
  title: 'Wheel nuts',
  sound: 'all there, none turned',
  params: {
    count: number('Nuts', '', [10, 3, 40], (n) => `${n} nuts`),
    missing: places('Missing', 'count', several('missing', 'missing')),
    rust: places('Rust', 'count', several('with rust running from it', 'with rust running from them')),
    shiny: places('Shiny', 'count', several('with a bright rubbed rim', 'with a bright rubbed rim')),
    turned: places('Turned', 'count', several('turned against its mark', 'turned against their marks')),
    ring: choice(
      'Ring',
      {
        none: '',
        seated: '',
        gap: 'a gap at the lock ring',
        absent: 'the lock ring missing',
      },
      { seated: 'the lock ring seated' },
    ),
    seal: choice('Hub', { dry: '', stain: 'a dry stain from the hub', fan: 'a wet fan from the hub' }),
    hole: choice('Holes', { round: '', oval: 'a hole worn oval' }),
  },
  draw: ({ count, missing, rust, shiny, turned, ring, seal, hole }) => {
    const r = Math.min(8, 78 / count + 1.6);
    const marks: Mark[] = [shape(ellipse(50, 50, 47), 'deep'), shape(ellipse(50, 50, 40), 'shade')];
    if (ring === 'seated') marks.push(stroke(ellipse(50, 50, 44), 2.4, 'ground'));
    if (ring === 'absent') marks.push(dashed(ellipse(50, 50, 44), 1.6, 'ground'));
    if (ring === 'gap')
      marks.push(
        stroke(arc(50, 50, 44, 30, 345), 2.4, 'ground'),
        solid(
          closed(
            ...onCircle(50, 50, 40, 346),
            ...onCircle(50, 50, 48, 346),
            ...onCircle(50, 50, 48, 388),
            ...onCircle(50, 50, 40, 388),
          ),
          'ground',
        ),
        stroke(poly(...onCircle(50, 50, 39, 346), ...onCircle(50, 50, 48, 346)), 2.6),
        stroke(poly(...onCircle(50, 50, 39, 28), ...onCircle(50, 50, 48, 28)), 2.6),
      );
    marks.push(shape(ellipse(50, 50, 14)));
    if (seal === 'stain') marks.push(dashed(closed(50, 52, 38, 90, 62, 90), 2));
    if (seal === 'fan')
      marks.push(shape(closed(50, 52, 37, 90, 63, 90), 'ground', 2), solid(drop(50, 96, 2.6)));
    for (let i = 1; i <= count; i++) {
      const angle = ((i - 1) * 360) / count;
      const [x, y] = onCircle(50, 50, 28, angle);
      if (rust.includes(i)) marks.push(...rustMarks(x, y, r * 1.3), streak(x, y + r, 12));
      if (missing.includes(i)) {
        marks.push(
          solid(hole === 'oval' ? ellipse(x, y, r * 0.5, r * 0.95) : ellipse(x, y, r * 0.55)),
          stroke(ellipse(x, y, r * 0.85), 1.4),
        );
        continue;
      }
      if (hole === 'oval' && i === 1) marks.push(shape(ellipse(x, y, r * 1.1, r * 1.6), 'deep', 2));
      if (shiny.includes(i))
        marks.push(stroke(ellipse(x, y, r + 2.6), 3, 'ground'), stroke(ellipse(x, y, r + 4.2), 1.2));
      const off = turned.includes(i) ? 30 : 0;
      marks.push(shape(hexagon(x, y, r, off), 'ground', 2), stroke(ellipse(x, y, r * 0.4), 1.2));
      const mark = (from: number, to: number, a: number) =>
        poly(...onCircle(x, y, from, a), ...onCircle(x, y, to, a));
      marks.push(
        stroke(mark(r * 0.45, r * 0.95, angle + off * 2), 2.6),
        stroke(mark(r * 1.1, r * 1.65, angle), 2.6),
      );
    }
    return marks;
  },
});
