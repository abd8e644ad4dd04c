import { choice, evidenceKind } from '../kind';
import {
  arc,
  box,
  crackMarks,
  dashed,
  ellipse,
  lettering,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  THIN,
  words,
} from '../marks';

/** The battery or power isolator. */
export const isolator = evidenceKind({
  id: 'isolator',
  title: 'Isolator',
  sound: '',
  params: {
    handle: choice('Handle', {
      on: 'handle on',
      off: 'handle off',
      loose: 'its handle turns without stopping',
      cracked: 'its handle cracked',
    }),
    key: choice('Key', { none: '', in: 'key in', out: 'key out' }),
    lock: choice('Lock', { none: '', mine: 'my lock on it', anothers: "somebody else's lock on it" }),
    power: choice('Power', { none: '', dark: 'power dark', live: 'power live' }),
  },
  draw: ({ handle, key, lock, power }) => {
    const turn = handle === 'off' ? 90 : 0;
    const marks: Mark[] = [
      shape(box(8, 8, 84, 74, 8), 'shade'),
      shape(ellipse(50, 46, 28)),
      words('on', 50, 16.5, 8.5, { bold: true }),
      words('off', 84.5, 49, 8.5, { bold: true }),
    ];
    const a = onCircle(50, 46, 25, turn);
    const b = onCircle(50, 46, 18, turn + 180);
    marks.push(
      stroke(poly(...a, ...b), 12),
      stroke(poly(...a, ...b), 6, 'ground'),
      solid(ellipse(50, 46, 4)),
    );
    if (handle === 'loose')
      marks.push(
        stroke(arc(50, 46, 33, 20, 80), 2),
        stroke(arc(50, 46, 33, 200, 330), 2),
        dashed(poly(...onCircle(50, 46, 25, 45), ...onCircle(50, 46, 18, 225)), 3),
      );
    if (handle === 'cracked') marks.push(...crackMarks(43, 32, 58, 56));
    if (key !== 'none')
      marks.push(key === 'in' ? stroke('M20 72h14m-5 0v5', 3.4) : dashed('M20 72h14m-5 0v5', 2));
    if (key !== 'none') marks.push(shape(ellipse(18, 72, 5), key === 'in' ? 'ink' : 'ground', 2));
    if (lock !== 'none')
      marks.push(
        stroke('M64 66v-6a7 7 0 0 1 14 0v6', 3),
        shape(box(60, 66, 22, 18, 2), 'ground'),
        ...lettering(lock === 'mine' ? 'mine' : 'not mine', 71, 75, { size: 6.6, letters: 6 }),
      );
    if (power !== 'none')
      marks.push(
        shape(ellipse(22, 20, 6), power === 'live' ? 'glow' : 'deep', 2),
        ...(power === 'live'
          ? [
              stroke(
                `${poly(10, 20, 14, 20)}${poly(22, 9, 22, 12)}${poly(30, 20, 34, 20)}${poly(22, 28, 22, 31)}`,
                THIN,
              ),
            ]
          : []),
      );
    marks.push(stroke(poly(20, 92, 80, 92), 3));
    return marks;
  },
});
