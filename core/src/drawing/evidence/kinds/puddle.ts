import { choice, evidenceKind, howMuch, line, number } from '../kind';
import {
  closed,
  drop,
  filledEllipse,
  lettering,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  type Texture,
} from '../marks';

/** What lies under a machine. */
export const puddle = evidenceKind({
  id: 'puddle',
  title: 'Ground below',
  sound: 'dry',
  params: {
    colour: choice('Colour', {
      none: '',
      amber: 'amber',
      dark: 'dark',
      green: 'green',
      clear: 'clear',
      milky: 'milky',
      rainbow: 'with a rainbow film',
      'white-bloom': 'dried to a white bloom',
    }),
    across: number('across', 'cm', [0, 0, 300], howMuch([0, 'a spot'], [12, 'a patch'], [35, 'a pool'])),
    fresh: choice('Fresh', { no: 'old and dry at its edge', yes: 'wet, a drop hanging above' }),
    under: line('Under', ''),
  },
  says: ({ colour, across, fresh, under }) =>
    colour === 'none'
      ? 'dry'
      : [
          `${across < 12 ? 'a spot' : across < 35 ? 'a patch' : 'a pool'}, about ${across} cm across, ${{ amber: 'of amber', dark: 'of dark', green: 'of green', clear: 'of clear', milky: 'of milky', rainbow: 'of rainbow-coloured', 'white-bloom': 'of white, crystal-like' }[colour]} liquid`.replace(
            'crystal-like liquid',
            'crystals',
          ),
          under ? `under: ${under}` : '',
          fresh === 'yes' ? 'wet, a drop hanging above' : 'old, dry at its edge',
        ]
          .filter(Boolean)
          .join(', '),
  draw: ({ colour, across, fresh, under }) => {
    const marks: Mark[] = [
      shape(closed(6, 4, 94, 4, 86, 30, 14, 30), 'shade'),
      stroke(poly(2, 66, 98, 66), 1.6, 'quiet'),
    ];
    if (under) marks.push(...lettering(under, 50, 16, { letters: 20, lines: 2, size: 8.4 }));
    if (colour === 'none')
      return [...marks, ...[14, 34, 54, 74].map((x) => stroke(poly(x, 82, x + 8, 82), 1.6, 'quiet'))];
    const textures: Record<Exclude<typeof colour, 'none'>, Texture> = {
      amber: 'hatch',
      dark: 'dark',
      green: 'upright',
      clear: 'clear',
      milky: 'milky',
      rainbow: 'rainbow',
      'white-bloom': 'bloom',
    };
    const rx = 9 + Math.min(36, across * 0.55);
    marks.push(...filledEllipse(50, 80, rx, Math.max(5, rx * 0.34), textures[colour], fresh === 'no'));
    if (fresh === 'yes') marks.push(solid(drop(50, 54, 4.6)), stroke(poly(50, 30, 50, 38), 2.4));
    return marks;
  },
});
