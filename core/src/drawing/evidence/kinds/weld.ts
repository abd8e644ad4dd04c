import { choice, evidenceKind, fault, howMuch, line, number } from '../kind';
import {
  arc,
  box,
  closed,
  crackMarks,
  crackPath,
  ellipse,
  lettering,
  type Mark,
  rustMarks,
  shape,
  solid,
  streak,
  stroke,
  THIN,
} from '../marks';

/** A welded joint of two plates. */
export const weld = evidenceKind({
  id: 'weld',
  title: 'Weld',
  sound: 'whole under whole paint',
  surfaceAt: [78, 30, 11],
  params: {
    crack: number(
      'crack',
      'mm',
      [0, 0, 400],
      howMuch([1, 'a short crack along it'], [25, 'a crack along it'], [60, 'a long crack along it']),
    ),
    'rust-line': fault('Rust line', 'a line of rust from it'),
    paint: choice('Paint', {
      whole: '',
      cracked: 'its paint cracked',
      run: 'a run in its paint',
      scuffed: 'its paint scuffed',
    }),
    'home-made': fault('Home-made', 'a rough repair nobody signed for'),
    hole: choice('Hole', { no: '', drilled: 'a hole drilled beside it' }),
    place: line('Place', ''),
  },
  draw: (v) => {
    const marks: Mark[] = [
      shape(closed(4, 62, 96, 62, 96, 84, 4, 84), 'shade'),
      shape(box(40, 16, 20, 46), 'shade'),
    ];
    const rough = v['home-made'] === 'yes';
    const bead = rough
      ? 'M22 64Q20 50 30 56Q28 44 40 48Q44 40 50 46Q60 38 62 48Q74 44 70 56Q82 52 78 64Z'
      : 'M26 62Q40 60 40 46H60Q60 60 74 62Z';
    marks.push(
      shape(bead, 'ground'),
      ...(rough
        ? [
            stroke('M30 60l4 -8M44 58l-3 -9M56 58l5 -10M68 60l2 -6', THIN),
            solid(ellipse(24, 70, 2)),
            solid(ellipse(80, 69, 2)),
            solid(ellipse(60, 72, 1.6)),
          ]
        : [39, 45, 51, 57, 63].map((x) => stroke(arc(x - 1, 60, 3.4, 300, 60), 1.4))),
    );
    if (v.paint === 'cracked')
      marks.push(
        stroke(`${crackPath(12, 66, 22, 80)}${crackPath(66, 66, 90, 76)}${crackPath(44, 20, 48, 40)}`, 1.3),
        solid(closed(70, 66, 80, 66, 76, 74), 'ground'),
      );
    if (v.paint === 'run') marks.push(stroke('M66 64q-2 8 1 14t0 8', 2.6));
    if (v.paint === 'scuffed') marks.push(stroke('M70 70l14 -4M72 74l14 -4M70 78l16 -5', 1.3, 'quiet'));
    if (v['rust-line'] === 'yes')
      marks.push(streak(50, 62, 34), streak(44, 62, 24), streak(57, 62, 28), ...rustMarks(50, 60, 9));
    if (v.crack > 0) {
      const half = 7 + Math.min(26, v.crack * 0.3);
      marks.push(...crackMarks(50 - half, 58, 50 + half, 56, 3.2));
    }
    if (v.hole === 'drilled') marks.push(solid(ellipse(18, 73, 4.4)));
    if (v.place) marks.push(...lettering(v.place, 50, 6.5, { letters: 24, lines: 1, size: 8.4 }));
    return marks;
  },
});
