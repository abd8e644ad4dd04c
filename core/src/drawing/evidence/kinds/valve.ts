import { choice, evidenceKind } from '../kind';
import {
  box,
  dashed,
  drop,
  ellipse,
  filledBox,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  type Texture,
} from '../marks';

/** A drain or shut-off valve. */
export const valve = evidenceKind({
  id: 'valve',
  title: 'Valve',
  sound: '',
  params: {
    handle: choice('Handle', {
      across: 'shut: handle across',
      along: 'open: handle along',
      half: 'half open',
      missing: 'its handle missing',
    }),
    outlet: choice('Outlet', { dry: '', drip: 'dripping', run: 'running' }),
    comes: choice('What comes', {
      nothing: '',
      clean: 'it comes clean',
      water: 'water comes',
      oil: 'oil comes',
      rust: 'rusty water comes',
    }),
    seal: choice('Seal', { none: '', whole: '', broken: 'its seal broken' }, { whole: 'its seal whole' }),
  },
  draw: ({ handle, outlet, comes, seal }) => {
    const marks: Mark[] = [
      shape(box(4, 38, 64, 18, 2), 'shade'),
      shape('M68 38H82V66H64V56H68Z', 'shade'),
      shape(ellipse(38, 47, 14)),
      solid(ellipse(38, 47, 3)),
    ];
    const a = { across: 0, along: 90, half: 45, missing: 0 }[handle];
    if (handle === 'missing') marks.push(dashed(poly(38, 47, 38, 12), 3));
    else
      marks.push(
        stroke(poly(38, 47, ...onCircle(38, 47, 36, a)), 8),
        stroke(poly(38, 47, ...onCircle(38, 47, 36, a)), 3.4, 'ground'),
      );
    if (outlet === 'drip') marks.push(solid(drop(73, 84, 4.6)));
    if (outlet === 'run') marks.push(stroke('M73 66q3 12 0 18t1 14', 6));
    if (comes !== 'nothing')
      marks.push(
        ...filledBox(
          60,
          78,
          28,
          18,
          { clean: 'clear', water: 'thin', oil: 'hatch', rust: 'gritty' }[comes] as Texture,
        ),
        stroke(poly(58, 74, 60, 97, 88, 97, 90, 74), 2.4),
      );
    if (seal === 'whole') marks.push(stroke('M26 58Q20 74 30 74T34 60', 2));
    if (seal === 'broken') marks.push(stroke('M26 58Q20 70 24 74M36 70Q38 66 34 60', 2));
    return marks;
  },
});
