import { choice, evidenceKind, fault, howMuch, number } from '../kind';
import {
  arc,
  closed,
  crackMarks,
  crackPath,
  crossed,
  dashed,
  drop,
  ellipse,
  filledEllipse,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A depth as an eye tells it. */
const nearly = (mm: number) => (mm < 6 ? Math.round(mm) : Math.round(mm / 2) * 2);

/** A wheel from the side, and its tread cut across. */
export const tyre = evidenceKind({
  id: 'tyre',
  title: 'Tyre',
  sound: 'whole, tread even',
  surfaceAt: [36, 14, 8],
  params: {
    type: choice('Type', {
      pneumatic: '',
      solid: 'solid rubber',
      cushion: 'a cushion tyre',
      foam: 'filled with foam',
    }),
    tread: number('tread', 'mm', [20, 0, 100, 0.5], (n) =>
      n < 1.6 ? 'no tread left' : `tread about ${nearly(n)} mm deep`,
    ),
    cut: number('cut', 'mm', [0, 0, 200], howMuch([1, 'a fine crack'], [5, 'a cut'], [20, 'a deep cut'])),
    cord: fault('Cord', 'its cord showing'),
    wear: choice('Wear', {
      even: '',
      inner: 'worn on its inner side',
      outer: 'worn on its outer side',
      centre: 'worn in its middle',
      'flat-spot': 'a flat spot',
    }),
    object: choice('In it', {
      none: '',
      nail: 'a nail in it',
      stone: 'a stone in it',
      film: 'plastic wound on it',
    }),
    bar: number('pressure', 'bar', [0, 0, 15, 0.05], () => ''),
    wanted: number('asked for', 'bar', [0, 0, 15, 0.05], () => ''),
    bulge: fault('Bulge', 'a bulge in its wall'),
    valve: choice('Valve', {
      capped: '',
      bare: 'its valve without a cap',
      weeping: 'its valve weeps',
      low: 'its valve at the bottom',
      crust: 'a crust on its valve',
    }),
    turns: choice('Turns', { free: '', drags: 'drags', seized: 'does not turn', wobbles: 'wobbles' }),
    rim: choice('Rim', { whole: '', cracked: 'its rim cracked', lifting: 'its tread lifting from the rim' }),
    side: choice('Inner side', {
      dry: '',
      stain: 'a dry stain on its inner side',
      fan: 'a wet fan on its inner side',
    }),
  },
  says: {
    bar: ({ bar, wanted: asked }) => {
      const share = asked > 0 ? bar / asked : 1;
      if (share <= 0.05) return 'flat';
      if (share < 0.65) return 'its wall squashed at the ground';
      return share < 0.97 ? 'a little squashed at the ground' : '';
    },
  },
  draw: (v) => {
    const low = v.wanted > 0 ? Math.max(0, Math.min(1, v.bar / v.wanted)) : 1;
    const flat = v.type === 'pneumatic' || v.wanted > 0 ? (1 - low) * 17 : 0;
    const [cx, r] = [36, 33];
    const cy = 52;
    const ground = cy + r;
    const bottom = ground - flat;
    const half = Math.sqrt(Math.max(0, r * r - (bottom - cy) ** 2));
    const marks: Mark[] = [stroke(poly(0, bottom, 74, bottom), 2, 'quiet')];
    const outline =
      flat > 0.4
        ? `M${cx - half - flat * 0.35} ${bottom}Q${cx - r - 3} ${cy + 12} ${cx - r} ${cy}A${r} ${r} 0 1 1 ${cx + r} ${cy}Q${cx + r + 3} ${cy + 12} ${cx + half + flat * 0.35} ${bottom}Z`
        : v.wear === 'flat-spot'
          ? `M${cx - 26} ${cy - 20.3}A${r} ${r} 0 1 0 ${cx + 4} ${cy - 32.8}Z`
          : ellipse(cx, cy, r);
    if (v.wear === 'flat-spot') marks.push(dashed(arc(cx, cy, r, 308, 367)));
    marks.push(
      shape(outline, 'deep', 4),
      shape(ellipse(cx, cy, v.type === 'solid' || v.type === 'cushion' ? 20 : 17), 'ground'),
      shape(ellipse(cx, cy, 5), 'shade', 2),
    );
    // A cushion tyre is pressed on: its band shows.
    if (v.type === 'cushion') marks.push(stroke(ellipse(cx, cy, 25), THIN));
    if (v.type === 'foam') marks.push(...filledEllipse(cx, cy, 13, 13, 'foamy'));
    if (v.bulge === 'yes')
      marks.push(
        shape(ellipse(cx + 25, cy - 14, 9, 7), 'ground'),
        stroke(arc(cx + 25, cy - 14, 4.5, 280, 80), THIN),
      );
    if (v.cut > 0) {
      const long = Math.min(26, 7 + v.cut * 0.4);
      marks.push(
        stroke(
          crackPath(cx - 29, cy + 4, cx - 29 + long * 0.35, cy + 4 + long * 0.75),
          v.cut < 5 ? 2.6 : 6,
          'ground',
        ),
        stroke(crackPath(cx - 29, cy + 4, cx - 29 + long * 0.35, cy + 4 + long * 0.75), v.cut < 5 ? 1 : 2.2),
      );
    }
    if (v.cord === 'yes') marks.push(...filledEllipse(cx - 23, cy + 16, 8, 7, 'burnt'));
    if (v.object === 'nail')
      marks.push(
        stroke(poly(cx + 15, cy - 39, cx + 10, cy - 24), 3),
        stroke(poly(cx + 10, cy - 41, cx + 20, cy - 37), 3),
      );
    if (v.object === 'stone')
      marks.push(
        shape(closed(cx + 24, cy + 16, cx + 33, cy + 14, cx + 34, cy + 25, cx + 25, cy + 26), 'ground'),
      );
    if (v.object === 'film')
      marks.push(
        ...[-8, -3, 2, 7].map((d) =>
          stroke(`M${cx - 34} ${cy + d}Q${cx} ${cy + d * 2.6 - 12} ${cx + 34} ${cy + d}`, 2, 'ground'),
        ),
        stroke(`M${cx + 30} ${cy + 6}q8 6 4 16`, 2),
      );
    const [vx, vy] = onCircle(cx, cy, 14, v.valve === 'low' ? 180 : 45);
    marks.push(shape(ellipse(vx, vy, 2.6), v.valve === 'bare' ? 'deep' : 'ground', THIN));
    if (v.valve === 'weeping') marks.push(solid(drop(vx + 5, vy + 6, 2.6)));
    if (v.valve === 'crust') marks.push(...filledEllipse(vx, vy, 6, 5, 'bloom'));
    if (v.rim === 'cracked') marks.push(...crackMarks(cx - 15, cy - 8, cx + 2, cy + 4));
    if (v.rim === 'lifting') marks.push(stroke(arc(cx, cy, 20, 200, 280), 4, 'ground'));
    if (v.side === 'stain') marks.push(dashed(`M${cx} ${cy}L${cx - 6} ${cy + 28}H${cx + 8}Z`, 2, 'ground'));
    if (v.side === 'fan')
      marks.push(
        shape(closed(cx, cy, cx - 9, cy + 29, cx + 11, cy + 29), 'ground', 2),
        solid(drop(cx, 97, 3)),
      );
    if (v.turns === 'seized') marks.push(stroke(arc(cx, cy, 10, 20, 110), 2.4), crossed(cx, cy, 8));
    if (v.turns === 'drags')
      marks.push(stroke(arc(cx, cy, 10, 20, 60), 2.4), dashed(arc(cx, cy, 10, 70, 200)));
    if (v.turns === 'wobbles')
      marks.push(dashed(ellipse(cx + 3, cy, r)), ...toAndFro(cx - 10, 8, cx + 14, 8));
    // The tread cut across, outer side above.
    const deep = Math.min(22, v.tread * 0.8);
    const worn = (i: number) =>
      (v.wear === 'outer' && i < 2) || (v.wear === 'inner' && i > 2) || (v.wear === 'centre' && i === 2);
    let edge = 'M76 14';
    for (let i = 0; i < 5; i++) {
      const x = 78 + (worn(i) ? Math.min(deep, 2) : deep);
      const y = 14 + i * 15;
      edge += `H${x}V${y + 9}H78V${y + (i < 4 ? 15 : 9)}`;
    }
    marks.push(shape(`${edge}H72V14Z`, 'deep', 2.2));
    return marks;
  },
});
