import { choice, evidenceKind, number } from '../kind';
import { filledBox, lettering, type Mark, poly, shape, stroke, type Texture, words } from '../marks';

/** A dipstick as it comes out: how high the liquid stands on it, and what kind of film it has. */
export const dipstick = evidenceKind({
  id: 'dipstick',
  title: 'Dipstick',
  sound: '',
  params: {
    level: number('Level', '', [0.7, -1, 2, 0.05], (n) =>
      n < -0.7
        ? 'nothing on the stick'
        : n < -0.02
          ? 'below the low mark'
          : n < 0.1
            ? 'at the low mark'
            : n < 0.4
              ? 'just above the low mark'
              : n < 0.8
                ? 'between the marks'
                : n <= 1.02
                  ? 'at the full mark'
                  : 'above the full mark',
    ),
    film: choice('Film', {
      clean: 'clean',
      dark: 'dark',
      milky: 'milky',
      gritty: 'grit in it',
      foamy: 'foamy',
      burnt: 'smells and looks burnt',
      'fuel-thin': 'thin as fuel',
    }),
    taken: choice('Taken', {
      level: '',
      hot: 'just after stopping',
      cold: 'cold',
      tilted: 'the machine out of level',
    }),
  },
  draw: ({ level, film, taken }) => {
    const y = (at: number) => 76 - Math.max(-1, Math.min(1.9, at)) * 32;
    const textures: Record<typeof film, Texture> = {
      clean: 'hatch',
      dark: 'dark',
      milky: 'milky',
      gritty: 'gritty',
      foamy: 'foamy',
      burnt: 'burnt',
      'fuel-thin': 'thin',
    };
    const marks: Mark[] = [
      shape('M38 2H62V90Q50 102 38 90Z'),
      ...(level < -0.7 ? [] : filledBox(39, y(level), 22, 92 - y(level), textures[film])),
      stroke('M38 2V90Q50 102 62 90V2'),
      stroke(poly(34, y(0), 66, y(0)), 4),
      stroke(poly(34, y(1), 66, y(1)), 4),
      words('low', 70, y(0) + 4, 11, { anchor: 'start', bold: true }),
      words('full', 70, y(1) + 4, 11, { anchor: 'start', bold: true }),
    ];
    if (level >= -0.7) marks.push(stroke(`M39 ${y(level)}q5.5 3 11 0t11 0`, 2.4));
    if (taken !== 'level')
      marks.push(
        ...lettering(taken === 'hot' ? 'just stopped' : taken === 'cold' ? 'cold' : 'out of level', 18, 20, {
          letters: 8,
          size: 9,
        }),
      );
    return marks;
  },
});
