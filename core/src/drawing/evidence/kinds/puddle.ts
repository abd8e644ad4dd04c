import { choice, evidenceKind, line, number } from '../kind';
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
      amber: 'of amber liquid',
      dark: 'of dark liquid',
      green: 'of green liquid',
      clear: 'of clear liquid',
      milky: 'of milky liquid',
      rainbow: 'of rainbow-coloured liquid',
      'white-bloom': 'of white crystals',
    }),
    across: number('across', 'cm', [0, 0, 300], () => ''),
    fresh: choice('Fresh', { no: 'old, dry at its edge', yes: 'wet, a drop hanging above' }),
    under: line('Under', ''),
  },
  says: {
    colour: ({ colour, across }, own) => {
      if (colour === 'none') return '';
      const size = across < 12 ? 'a spot' : across < 35 ? 'a patch' : 'a pool';
      return `${size}, about ${across} cm across, ${own}`;
    },
    fresh: ({ colour }, own) => (colour === 'none' ? '' : own),
    under: ({ colour, under }) => (colour === 'none' || !under ? '' : `under: ${under}`),
  },
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
