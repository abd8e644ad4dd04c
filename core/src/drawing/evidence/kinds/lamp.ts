import { choice, evidenceKind } from '../kind';
import { crackMarks, ellipse, filledEllipse, type Mark, onCircle, poly, shape, stroke } from '../marks';

/** A pair of lamps from the front. */
export const lamp = evidenceKind({
  id: 'lamp',
  title: 'Lamp',
  sound: '',
  params: {
    state: choice('State', { lit: 'lit', dark: 'dark', dim: 'dim', 'one-side': 'one side dark' }),
    lens: choice('Lens', { whole: '', cracked: 'its lens cracked', dirty: 'its lens dirty' }),
  },
  draw: ({ state, lens }) => {
    const one = (cx: number, lit: boolean): Mark[] => {
      const marks: Mark[] = [shape(ellipse(cx, 52, 17), lit ? 'glow' : 'deep', 4)];
      if (lit)
        for (let a = 0; a < 360; a += 45)
          marks.push(
            stroke(
              poly(...onCircle(cx, 52, 19.5, a), ...onCircle(cx, 52, state === 'dim' ? 21.5 : 26, a)),
              state === 'dim' ? 1.4 : 2.6,
            ),
          );
      if (lens === 'dirty') marks.push(...filledEllipse(cx, 52, 14, 14, 'dirty', true));
      return marks;
    };
    const marks: Mark[] = [...one(26, state !== 'dark'), ...one(74, state === 'lit' || state === 'dim')];
    if (lens === 'cracked') marks.push(...crackMarks(62, 44, 84, 62, 3), ...crackMarks(74, 38, 72, 66, 3));
    return marks;
  },
});
