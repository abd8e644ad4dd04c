import { evidenceKind, howMuch, number, places, several } from '../kind';
import {
  arc,
  dashed,
  ellipse,
  hexagon,
  type Mark,
  onCircle,
  rustMarks,
  shape,
  solid,
  streak,
  stroke,
  THIN,
} from '../marks';

/** A bolted joint seen on its heads; places clockwise from the top. */
export const bolts = evidenceKind({
  id: 'bolts',
  title: 'Bolts',
  sound: 'all there and tight',
  surfaceAt: [50, 50, 13],
  params: {
    count: number('Bolts', '', [4, 2, 48], (n) => `${n} bolts`),
    missing: places('Missing', 'count', several('missing', 'missing')),
    loose: places('Loose', 'count', several('loose', 'loose')),
    rust: places('Rust', 'count', several('with rust running from it', 'with rust running from them')),
    gap: number('gap', 'mm', [0, 0, 30, 0.5], howMuch([0.1, 'a gap between the bolted parts'])),
  },
  draw: ({ count, missing, loose, rust, gap }) => {
    const r = Math.min(9, 92 / count + 2.4);
    const marks: Mark[] = [shape(ellipse(50, 50, 46), 'shade'), shape(ellipse(50, 50, 20))];
    if (gap > 0)
      marks.push(
        stroke(ellipse(50, 50, 46), 4.5),
        stroke(arc(50, 50, 42.5, 95, 200), 3.4),
        stroke(arc(50, 50, 42.5, 95, 200), 1, 'ground'),
      );
    for (let i = 1; i <= count; i++) {
      const [x, y] = onCircle(50, 50, 33, ((i - 1) * 360) / count);
      if (rust.includes(i)) marks.push(...rustMarks(x, y, r * 1.3), streak(x, y + r, 10));
      if (missing.includes(i))
        marks.push(solid(ellipse(x, y, r * 0.65)), stroke(ellipse(x, y, r * 0.65), THIN));
      else if (loose.includes(i))
        marks.push(
          dashed(hexagon(x, y, r, 0)),
          shape(hexagon(x + 1.5, y - 2, r, 25), 'ground', 2),
          stroke(arc(x, y, r + 3.5, 20, 110), THIN),
          stroke(arc(x, y, r + 3.5, 200, 290), THIN),
        );
      else marks.push(shape(hexagon(x, y, r), 'ground', 2), stroke(ellipse(x, y, r * 0.45), 1.2));
    }
    return marks;
  },
});
