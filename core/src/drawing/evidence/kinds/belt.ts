import { choice, evidenceKind, fault, howMuch, number, several, wanted } from '../kind';
import { arc, arrow, dashed, ellipse, type Mark, poly, shape, solid, stroke, THIN } from '../marks';

/** A drive belt between two pulleys, pressed in the middle. */
export const belt = evidenceKind({
  id: 'belt',
  title: 'Drive belt',
  sound: 'whole, and gives as little as it should',
  params: {
    deflection: number(
      'deflection',
      'mm',
      [12, 0, 60],
      howMuch([0, 'tight'], [6, ''], [18, 'gives far when pressed'], [32, 'hangs slack']),
    ),
    cracks: number('Cracks', '', [0, 0, 5], several('crack across it', 'cracks across it')),
    edge: choice('Edge', { clean: '', frayed: 'its edge frayed' }),
    glazed: fault('Glazed', 'its face glazed'),
    present: wanted('There', 'not there'),
  },
  draw: ({ deflection, cracks, edge, glazed, present }) => {
    const marks: Mark[] = [];
    const sag = Math.min(34, deflection * 0.8);
    const upper = `M24 34Q50 ${34 + 2 * sag} 76 34`;
    if (present === 'yes') {
      marks.push(
        stroke(`M24 74L76 74${arc(76, 54, 20, 0, 180)}${arc(24, 54, 20, 180, 360)}`, 9),
        stroke(upper, 9),
      );
      marks.push(
        stroke(`M24 74L76 74${arc(76, 54, 20, 0, 180)}${arc(24, 54, 20, 180, 360)}`, 4, 'shade'),
        stroke(upper, 4, 'shade'),
      );
    } else
      marks.push(dashed(`M24 74L76 74${arc(76, 54, 20, 0, 180)}M24 34L76 34${arc(24, 54, 20, 180, 360)}`, 2));
    marks.push(
      shape(ellipse(24, 54, 15)),
      shape(ellipse(76, 54, 15)),
      solid(ellipse(24, 54, 3)),
      solid(ellipse(76, 54, 3)),
    );
    if (present === 'no') return marks;
    for (let i = 0; i < cracks; i++) {
      const x = 32 + i * 9;
      marks.push(stroke(poly(x - 2, 68, x + 2, 80), 2.4));
    }
    if (edge === 'frayed')
      for (const x of [30, 38, 46, 54, 62, 70]) marks.push(stroke(`M${x} 78q3 4 ${x % 4 ? 6 : -2} 12`, THIN));
    if (glazed === 'yes')
      marks.push(
        stroke(`${poly(28, 74, 36, 74)}${poly(44, 74, 52, 74)}${poly(60, 74, 68, 74)}`, 3, 'glow'),
        stroke(`${poly(30, 64, 34, 58)}${poly(46, 64, 50, 58)}${poly(62, 64, 66, 58)}`, THIN),
      );
    marks.push(...arrow(50, 8, 50, 26 + sag));
    return marks;
  },
});
