import { choice, evidenceKind } from '../kind';
import { ellipse, type Mark, onCircle, poly, shape, solid, stroke, words } from '../marks';

const WHEN = { 'key-on': 'key on', running: 'engine running', 'key-off': 'key off' };
const DOES = { on: 'lit', off: 'dark', flash: 'flashing' };

/** Lamps by name with what each does; round and rayed is lit, rayed in dashes flashes, filled is dark. */
export const lamps = evidenceKind({
  id: 'lamps',
  title: 'Lamps',
  sound: '',
  params: {
    at: choice('When', { 'key-on': '', running: '', 'key-off': '' }),
    expected: choice('Should', { on: '', off: '', flash: '' }),
    list: { type: 'lamps', label: 'Lamps', sound: [] },
  },
  says: {
    list: ({ at, list }) =>
      `${WHEN[at]}: ${list.map((each) => `${each.name} ${DOES[each.state]}`).join(', ')}`,
  },
  draw: ({ at, list }) => {
    const gap = Math.min(15, 84 / Math.max(1, list.length));
    const r = Math.min(5, gap * 0.34);
    const marks: Mark[] = [
      words({ 'key-on': 'key on', running: 'running', 'key-off': 'key off' }[at], 50, 10, 9, { bold: true }),
      stroke(poly(4, 14, 96, 14), 1.4, 'quiet'),
    ];
    list.forEach((each, i) => {
      const y = 16 + gap * (i + 0.5);
      const ray = (a: number) => poly(...onCircle(12, y, r + 1.6, a), ...onCircle(12, y, r + 4, a));
      marks.push(
        shape(ellipse(12, y, r), each.state === 'off' ? 'deep' : each.state === 'on' ? 'glow' : 'ground', 2),
      );
      if (each.state === 'on') marks.push(...[0, 60, 120, 180, 240, 300].map((a) => stroke(ray(a), 2)));
      if (each.state === 'flash')
        marks.push(
          stroke([70, 110, 250, 290].map(ray).join(''), 2),
          solid(`M12 ${y - r}A${r} ${r} 0 0 1 12 ${y + r}Z`),
        );
      marks.push(
        ...[
          words(
            each.name.length > 23 ? `${each.name.slice(0, 22)}…` : each.name,
            22,
            y + 3,
            Math.min(9, gap * 0.75),
            { anchor: 'start' },
          ),
        ],
      );
    });
    return marks;
  },
});
