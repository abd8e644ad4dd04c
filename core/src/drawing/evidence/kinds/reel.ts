import { choice, evidenceKind, number, several } from '../kind';
import { box, closed, dashed, type Mark, poly, shape, solid, stroke, toAndFro } from '../marks';

/** A cutting reel against its bottom blade. */
export const reel = evidenceKind({
  id: 'reel',
  title: 'Reel',
  sound: 'keen, straight, nothing wound on it',
  surfaceAt: [24, 36, 9],
  params: {
    nicks: number('Nicks', '', [0, 0, 6], several('nick in a blade', 'nicks in a blade')),
    gap: number('gap', 'mm', [0.04, 0, 5, 0.01], (n) =>
      n === 0 ? 'reel and bottom blade touch' : n < 0.1 ? '' : 'a gap to the bottom blade',
    ),
    edge: choice('Edge', { keen: '', dull: 'its edge dull', bent: 'a blade bent' }),
    wrapped: choice('Wound', { no: '', wire: 'wire wound on it', twine: 'twine wound on it' }),
    contact: choice('Contact', { even: '', 'one-side': 'touches on one side only' }),
  },
  draw: ({ nicks, gap, edge, wrapped, contact }) => {
    const marks: Mark[] = [
      shape(box(8, 20, 84, 46, 4), 'ground'),
      solid(box(2, 38, 8, 10)),
      solid(box(90, 38, 8, 10)),
    ];
    for (let x = 12; x < 88; x += 13)
      marks.push(
        edge === 'bent' && x === 51
          ? stroke(`M${x} 64L${x + 12} 48L${x + 3} 40L${x + 20} 22`, 3.4)
          : stroke(poly(x, 64, Math.min(90, x + 20), 22), edge === 'dull' ? 5.5 : 2.6),
      );
    for (let i = 0; i < nicks; i++)
      marks.push(
        solid(closed(22 + i * 13, 66, 26 + i * 13, 56, 31 + i * 13, 66), 'ground'),
        stroke(poly(22 + i * 13, 66, 26 + i * 13, 56, 31 + i * 13, 66), 2.2),
      );
    const drop = gap === 0 ? -1.5 : gap < 0.1 ? 2 : Math.min(12, 5 + gap * 8);
    marks.push(
      shape(
        contact === 'one-side' ? closed(4, 68, 96, 78, 96, 90, 4, 80) : box(4, 67 + drop, 92, 12, 1),
        'shade',
      ),
    );
    if (gap >= 0.1) marks.push(...toAndFro(97, 64, 97, 70 + drop));
    if (gap === 0) marks.push(...[24, 44, 64, 84].map((x) => stroke(`M${x} 66l-3 -5M${x} 66l3 -5`, 2)));
    if (wrapped !== 'no')
      marks.push(
        ...[36, 42, 48, 54].map((x) =>
          wrapped === 'wire' ? stroke(poly(x, 18, x + 3, 68), 2.6) : dashed(poly(x, 18, x + 3, 68), 2.6),
        ),
        stroke(wrapped === 'wire' ? 'M57 20q14 -12 24 -8' : 'M57 20q8 -14 14 -4t12 -6', 2.2),
      );
    return marks;
  },
});
