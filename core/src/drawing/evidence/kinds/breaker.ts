import { choice, evidenceKind, number } from '../kind';
import { box, closed, dashed, type Mark, poly, shape, solid, words } from '../marks';

/** A circuit breaker: where its handle stands, and what it is set to. */
export const breaker = evidenceKind({
  id: 'breaker',
  title: 'Breaker',
  sound: '',
  params: {
    handle: choice('Handle', { on: 'handle on', off: 'handle off', tripped: 'handle half way: tripped' }),
    setting: number('Set to', '', [0, 0, 5000], (n) => (n === 0 ? '' : `set to ${n} A`)),
    wanted: number('Should be set to', '', [0, 0, 5000], (n) => (n === 0 ? '' : `the plate asks for ${n} A`)),
  },
  draw: ({ handle, setting, wanted: asked }) => {
    const y = { on: 24, tripped: 42, off: 58 }[handle];
    const marks: Mark[] = [
      shape(box(24, 4, 52, setting ? 74 : 92, 5), 'shade'),
      shape(box(38, 16, 24, 52, 3), 'deep'),
      shape(box(34, y - 8, 32, 16, 3)),
      words('on', 66, 13, 8, { bold: true }),
      words('off', 65, 76, 8, { bold: true }),
    ];
    if (handle === 'tripped') marks.push(dashed(poly(30, 24, 30, 60)), solid(closed(28, 36, 34, 42, 28, 48)));
    if (setting) marks.push(words(`set ${setting} A`, 50, 88, 9.5, { bold: true }));
    if (asked) marks.push(words(`plate ${asked} A`, 50, 99, 9));
    return marks;
  },
});
