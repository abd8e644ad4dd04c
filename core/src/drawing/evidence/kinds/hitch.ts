import { choice, evidenceKind, howMuch, number } from '../kind';
import {
  box,
  closed,
  crossed,
  dashed,
  ellipse,
  type Mark,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  toAndFro,
} from '../marks';

/** A coupling on its ball, with what else joins the two. */
export const hitch = evidenceKind({
  id: 'hitch',
  title: 'Hitch',
  sound: 'seated and locked',
  params: {
    ball: choice('Ball', {
      seated: '',
      high: 'the coupler rides on top of the ball',
      'other-size': 'a ball of another size',
    }),
    latch: choice('Latch', { locked: '', open: 'the latch open' }),
    pin: choice('Pin', { none: '', fitted: '', missing: 'its pin missing' }, { fitted: 'its pin fitted' }),
    chains: choice(
      'Chains',
      {
        none: '',
        crossed: '',
        straight: 'the chains not crossed',
        'one-loose': 'one chain hangs loose',
        missing: 'the chains missing',
      },
      { crossed: 'its chains crossed' },
    ),
    plug: choice('Plug', { none: '', in: '', out: 'the plug out' }, { in: 'its plug in' }),
    breakaway: choice(
      'Breakaway line',
      {
        none: '',
        vehicle: '',
        chain: 'the breakaway line on a chain',
        loose: 'the breakaway line loose',
        missing: 'the breakaway line missing',
      },
      { vehicle: 'its breakaway line on the vehicle' },
    ),
    wobble: number('wobble', 'mm', [0, 0, 40], howMuch([1, 'wobbles on the ball'])),
    socket: choice('Socket', { greased: '', dry: 'its socket dry', grooved: 'its socket grooved' }),
  },
  draw: (v) => {
    const up = v.ball === 'high' ? 12 : 0;
    const r = v.ball === 'other-size' ? 7 : 11;
    const marks: Mark[] = [
      shape(box(2, 62, 46, 12, 2), 'shade'),
      shape(closed(30, 62, 34, 52, 42, 52, 46, 62), 'shade'),
      shape(ellipse(38, 42, r)),
      shape(
        `M22 ${40 - up}Q22 ${22 - up} 40 ${22 - up}H98V${36 - up}H54V${48 - up}H48V${40 - up}Q46 ${32 - up} 38 ${32 - up}T28 ${40 - up}V${48 - up}H22Z`,
        'ground',
      ),
    ];
    if (up) marks.push(dashed('M22 40Q22 22 40 22H70'));
    marks.push(
      v.latch === 'locked' ? stroke(poly(50, 20 - up, 74, 20 - up), 5) : stroke(poly(52, 22 - up, 68, 4), 5),
    );
    if (v.pin === 'fitted')
      marks.push(stroke(poly(62, 12 - up, 62, 40 - up), 3), stroke(ellipse(62, 10 - up, 3), 2));
    if (v.pin === 'missing') marks.push(solid(ellipse(62, 29 - up, 2.6)), dashed(poly(62, 4, 62, 16)));
    if (v.socket === 'dry') marks.push(...[30, 38, 46].map((x) => stroke(poly(x, 26, x + 3, 30), THIN)));
    if (v.socket === 'grooved') marks.push(stroke('M28 38q10 -10 20 0M28 42q10 -10 20 0', THIN));
    if (v.chains === 'crossed')
      marks.push(dashed('M10 78Q50 104 92 40', 3.4), dashed('M22 78Q50 92 92 52', 3.4));
    if (v.chains === 'straight')
      marks.push(dashed('M10 76Q52 86 92 44', 3.4), dashed('M10 84Q54 96 94 50', 3.4));
    if (v.chains === 'one-loose') marks.push(dashed('M10 78Q50 104 92 40', 3.4), dashed('M88 40V96', 3.4));
    if (v.chains === 'missing')
      marks.push(stroke(ellipse(12, 80, 4), 2), stroke(ellipse(24, 80, 4), 2), crossed(54, 86, 7));
    if (v.plug === 'in') marks.push(shape(box(4, 46, 12, 12, 2), 'deep'), stroke('M16 50Q30 56 90 40', 2));
    if (v.plug === 'out')
      marks.push(
        shape(box(4, 46, 12, 12, 2)),
        stroke('M90 40Q70 60 74 92', 2),
        shape(box(69, 90, 11, 9, 2), 'deep'),
      );
    if (v.breakaway === 'vehicle') marks.push(stroke('M6 60Q30 8 84 12', 1.6));
    if (v.breakaway === 'chain') marks.push(stroke('M60 82Q70 40 84 12', 1.6));
    if (v.breakaway === 'loose') marks.push(stroke('M84 12Q96 40 88 98', 1.6));
    if (v.breakaway === 'missing') marks.push(crossed(86, 12, 5));
    if (v.wobble > 0) marks.push(...toAndFro(14, 14, 14, 34));
    return marks;
  },
});
