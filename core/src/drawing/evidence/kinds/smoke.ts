import { choice, evidenceKind, fault, howMuch, number } from '../kind';
import {
  arrow,
  box,
  closed,
  dashed,
  ellipse,
  filledEllipse,
  type Mark,
  poly,
  shape,
  stroke,
  type Texture,
  toAndFro,
} from '../marks';

/** What comes from the exhaust. */
export const smoke = evidenceKind({
  id: 'smoke',
  title: 'Exhaust',
  sound: 'no smoke',
  params: {
    colour: choice('Colour', { none: '', white: 'white smoke', black: 'black smoke', blue: 'blue smoke' }),
    density: number('Density', '', [0, 0, 1, 0.05], howMuch([0.01, 'thin'], [0.5, 'thick'])),
    lasts: fault('Lasts', 'goes on'),
    outlet: choice('Outlet', { clear: '', packed: 'the outlet packed', loose: 'the pipe loose' }),
  },
  draw: ({ colour, density, lasts, outlet }) => {
    const marks: Mark[] = [
      shape(box(10, 56, 16, 40, 2), 'shade'),
      shape(closed(10, 56, 26, 56, 34, 44, 14, 44), 'shade'),
    ];
    if (outlet === 'packed') marks.push(...filledEllipse(24, 46, 11, 6, 'dirty'));
    if (outlet === 'loose') marks.push(...toAndFro(2, 60, 2, 80), stroke(ellipse(18, 76, 3), 2));
    if (colour === 'none' || density === 0)
      return [...marks, stroke('M40 36q6 -6 12 0M50 26q6 -6 12 0', 1.6, 'quiet')];
    const kind: Texture = colour === 'black' ? 'dark' : colour === 'blue' ? 'hatch' : 'clear';
    const n = (density > 0.5 ? 4 : 2) + (lasts === 'yes' ? 1 : 0);
    [
      [36, 36, 10],
      [52, 26, 13],
      [70, 30, 14],
      [58, 46, 12],
      [86, 16, 13],
    ]
      .slice(0, n)
      .forEach(([x, y, r]) => marks.push(...filledEllipse(x!, y!, r!, r! * 0.8, kind)));
    if (lasts === 'yes') marks.push(...arrow(72, 66, 94, 52), dashed(poly(46, 72, 72, 66)));
    return marks;
  },
});
