import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  closed,
  crackMarks,
  dashed,
  ellipse,
  type Mark,
  poly,
  rustMarks,
  shape,
  solid,
  stroke,
} from '../marks';

/** Two strands of chain side by side, with a hook end where there is one. */
export const chain = evidenceKind({
  id: 'chain',
  title: 'Chain',
  sound: 'even, its links whole',
  surfaceAt: [50, 50, 12],
  params: {
    elongation: number('longer by', '%', [1, 0, 20, 0.1], howMuch([2, 'stretched'], [5, 'stretched far'])),
    tension: choice('Tension', { even: '', slack: 'both strands slack', uneven: 'one strand slack' }),
    link: choice('Links', {
      whole: '',
      cracked: 'a link cracked',
      stiff: 'a link stiff',
      rusty: 'rusty',
      twisted: 'twisted',
      thin: 'a link worn thin',
      gouged: 'a link gouged',
    }),
    'hook-end': choice(
      'Hook end',
      { none: '', closed: '', open: 'its hook end open' },
      { closed: 'its hook end closed' },
    ),
    film: choice('Film', { oiled: '', dry: 'dry' }),
  },
  draw: (v) => {
    const marks: Mark[] = [];
    const pitch = 14 * (1 + Math.min(0.18, Math.max(0, v.elongation - 1) * 0.026));
    const strand = (x: number, slack: boolean, first: boolean) => {
      for (let i = 0; i < 6; i++) {
        const off = slack ? 12 * Math.sin((Math.PI * i) / 5) : 0;
        const cy = 9 + i * pitch;
        let cx = x + (first ? -off : off);
        if (first && v.link === 'stiff' && i === 3) cx -= 9;
        const thin = first && v.link === 'thin' && i === 2;
        const wide = v.link === 'twisted' && first ? 3 + 5 * Math.abs(Math.cos(i)) : i % 2 ? 3 : 8;
        marks.push(
          shape(ellipse(cx, cy, wide, pitch * 0.62), 'ground', thin ? 1.4 : v.film === 'dry' ? 3 : 4),
        );
        if (first && v.link === 'cracked' && i === 2)
          marks.push(...crackMarks(cx + 2, cy - 5, cx + 14, cy + 3));
        if (first && v.link === 'gouged' && i === 2)
          marks.push(solid(closed(cx + 4, cy - 5, cx + 12, cy, cx + 4, cy + 5)));
        if (v.link === 'rusty' && i % 2 === 0) marks.push(...rustMarks(cx, cy, 8));
      }
    };
    strand(32, v.tension === 'slack', true);
    strand(68, v.tension !== 'even', false);
    marks.push(dashed(poly(2, 79, 98, 79), 1.4, 'quiet'));
    if (v['hook-end'] !== 'none')
      marks.push(
        stroke(
          v['hook-end'] === 'closed' ? 'M76 84c8 0 16 4 16 9s-12 7 -16 1l10 -4' : 'M76 84c8 0 18 2 20 8',
          4,
        ),
      );
    if (v.film === 'dry')
      marks.push(...[20, 40, 60].map((y) => stroke(`M46 ${y}l4 3l-4 3l4 3`, 1.2, 'quiet')));
    return marks;
  },
});
