import { choice, evidenceKind, number } from '../kind';
import {
  arc,
  arrow,
  box,
  closed,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THICK,
  THIN,
} from '../marks';

const HAZARDS = {
  clear: '',
  people: 'a person stands there',
  wires: 'wires overhead',
  hole: 'a hole in the ground',
  gap: 'a gap between plate and floor',
  soft: 'soft ground that gives way',
  spill: 'something spilled on the ground',
  debris: 'things lying about',
  slope: 'the ground slopes',
  'low-beam': 'a low beam overhead',
  machine: 'another machine works there',
};

/** Room round the machine, and what stands in it. */
export const area = evidenceKind({
  id: 'area',
  title: 'The area',
  sound: 'nothing in the way',
  params: {
    hazard: choice('Hazard', HAZARDS),
    distance: number('distance', 'm', [0, 0, 60, 0.5], (n) =>
      n === 0 ? '' : n < 2 ? 'an arm away' : n < 6 ? 'a few steps away' : 'well away',
    ),
  },
  draw: ({ hazard, distance }) => {
    const x = 50 + 34 * Math.min(1, distance / 12);
    const slope = hazard === 'slope' ? 14 : 0;
    const marks: Mark[] = [
      stroke(poly(2, 80 - slope, 98, 80 + slope)),
      shape(box(6, 50 - slope, 28, 22, 3), 'shade'),
      shape(ellipse(13, 76 - slope, 6)),
      shape(ellipse(28, 76 - slope + 2, 6)),
    ];
    switch (hazard) {
      case 'people':
        marks.push(
          shape(ellipse(x, 38, 7)),
          shape(`M${x - 9} 79L${x - 8} 50Q${x} 44 ${x + 8} 50L${x + 9} 79Z`, 'deep'),
        );
        break;
      case 'wires':
        marks.push(
          stroke(poly(x + 8, 80, x + 8, 12)),
          stroke(poly(x - 2, 16, x + 18, 16)),
          stroke('M2 24Q50 34 98 18', THIN),
          stroke('M2 18Q50 28 98 12', THIN),
          solid(closed(x - 14, 30, x - 20, 42, x - 15, 42, x - 18, 52, x - 7, 38, x - 13, 38, x - 9, 30)),
        );
        break;
      case 'hole':
        marks.push(solid(ellipse(x, 82, 14, 6)), stroke(ellipse(x, 82, 14, 6)));
        break;
      case 'gap':
        marks.push(
          solid(box(x - 6, 76, 12, 20)),
          stroke(poly(x - 6, 76, x - 6, 96), THICK),
          stroke(poly(x + 6, 76, x + 6, 96), THICK),
        );
        break;
      case 'soft':
        marks.push(
          solid(`M${x - 18} 79Q${x} 96 ${x + 18} 79Z`, 'deep'),
          ...[-10, 0, 10].map((dx) => stroke(poly(x + dx - 4, 90, x + dx + 4, 90), THIN)),
          ...arrow(x, 50, x, 78),
        );
        break;
      case 'spill':
        marks.push(...filledEllipse(x, 84, 16, 6, 'oily'));
        break;
      case 'debris':
        marks.push(
          shape(closed(x - 14, 80, x - 8, 66, x + 2, 80), 'shade'),
          shape(box(x, 68, 13, 12), 'deep'),
          stroke(poly(x - 18, 80, x + 18, 61)),
        );
        break;
      case 'low-beam':
        marks.push(
          shape(box(2, 26, 96, 10), 'shade'),
          ...[8, 24, 40, 56, 72, 88].map((at) => stroke(poly(at, 36, at + 8, 26), THIN)),
          ...arrow(20, 48, 20, 38),
        );
        break;
      case 'machine':
        marks.push(
          shape(box(x - 14, 52, 26, 18, 3), 'deep'),
          shape(ellipse(x - 8, 74, 6)),
          shape(ellipse(x + 7, 74, 6)),
          ...arrow(x - 16, 45, x - 26, 45),
        );
        break;
      case 'slope':
        marks.push(dashed(poly(2, 94, 98, 94)));
        break;
      default:
        marks.push(dashed(`${arc(20, 80, 40, 0, 90)}${arc(20, 80, 66, 0, 90)}`));
    }
    return marks;
  },
});
