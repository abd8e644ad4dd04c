import { evidenceKind, number, places, several } from '../kind';
import { box, closed, dashed, type Mark, shape, toAndFro } from '../marks';

/** Teeth along an edge, counted from the left. */
export const teeth = evidenceKind({
  id: 'teeth',
  title: 'Teeth',
  sound: 'all there',
  params: {
    count: number('Teeth', '', [5, 2, 24], (n) => `${n} teeth`),
    missing: places('Missing', 'count', several('missing', 'missing')),
    blunt: places('Blunt', 'count', several('blunt', 'blunt')),
    loose: places('Loose', 'count', several('loose', 'loose')),
  },
  draw: ({ count, missing, blunt, loose }) => {
    const pitch = 92 / count;
    const w = pitch * 0.62;
    const marks: Mark[] = [shape(box(4, 14, 92, 26, 3), 'shade')];
    for (let i = 1; i <= count; i++) {
      const x = 4 + pitch * (i - 0.5);
      if (missing.includes(i))
        marks.push(
          shape(box(x - w * 0.3, 40, w * 0.6, 14, 1), 'ground', 2.2),
          dashed(closed(x - w / 2, 54, x + w / 2, 54, x, 92), 1.4),
        );
      else if (blunt.includes(i))
        marks.push(shape(`M${x - w / 2} 38H${x + w / 2}V58Q${x} 66 ${x - w / 2} 58Z`, 'ground', 2.4));
      else if (loose.includes(i))
        marks.push(
          dashed(closed(x - w / 2, 38, x + w / 2, 38, x, 90), 1.6),
          shape(closed(x - w / 2 + 3, 40, x + w / 2 + 3, 36, x + w * 0.5, 88), 'ground', 2.4),
          ...toAndFro(x - 5, 96, x + 7, 96),
        );
      else
        marks.push(
          shape(closed(x - w / 2, 38, x + w / 2, 38, x + w * 0.12, 90, x - w * 0.12, 90), 'ground', 2.4),
        );
    }
    return marks;
  },
});
