import { choice, evidenceKind, line, number } from '../kind';
import {
  arc,
  crossed,
  dashed,
  ellipse,
  lettering,
  type Mark,
  onCircle,
  poly,
  shape,
  solid,
  stroke,
  words,
} from '../marks';

/** A dial or scale with what is allowed on it; for a measured value too. */
export const gauge = evidenceKind({
  id: 'gauge',
  title: 'Gauge',
  sound: '',
  params: {
    label: line('Label', ''),
    unit: line('Unit', ''),
    value: number('Value', '', [0, -10_000, 100_000, 0.01], () => ''),
    min: number('Scale from', '', [0, -10_000, 100_000, 0.01], () => ''),
    max: number('Scale to', '', [10, -10_000, 100_000, 0.01], () => ''),
    green: { type: 'range', label: 'Allowed', sound: [0, 0] },
    red: { type: 'range', label: 'Not allowed', sound: [0, 0] },
    needle: choice('Needle', { steady: '', swinging: 'its needle swings', dead: 'its needle dead' }),
  },
  says: {
    value: ({ unit, value, min, max, green, red, needle }) => {
      const within = ([a, b]: readonly [number, number]) => a < b && value >= a && value <= b;
      const where = within(green)
        ? 'in the clear part'
        : within(red)
          ? 'in the hatched part'
          : 'between the parts';
      return [
        ...(needle === 'dead' ? [] : [`${value} ${unit}`.trim(), where]),
        `scale ${min} to ${max}`,
        green[0] < green[1] ? `clear from ${green[0]} to ${green[1]}` : '',
        red[0] < red[1] ? `hatched from ${red[0]} to ${red[1]}` : '',
      ]
        .filter(Boolean)
        .join(', ');
    },
    unit: () => '',
  },
  draw: ({ label, unit, value, min, max, green, red, needle }) => {
    const at = (n: number) => -120 + 240 * Math.max(-0.04, Math.min(1.04, (n - min) / (max - min || 1)));
    const hub: [number, number] = [50, 56];
    const marks: Mark[] = [shape(ellipse(...hub, 41), 'ground')];
    const [ga, gb] = green;
    if (ga < gb)
      marks.push(
        stroke(arc(...hub, 35, at(ga), at(gb)), 7),
        stroke(arc(...hub, 35, at(ga), at(gb)), 3.4, 'ground'),
      );
    const [ra, rb] = red;
    if (ra < rb)
      for (let a = at(ra); a <= at(rb) + 0.1; a += 7)
        marks.push(stroke(poly(...onCircle(...hub, 31, a), ...onCircle(...hub, 39, a + 3)), 2.4));
    for (let i = 0; i <= 4; i++)
      marks.push(
        stroke(poly(...onCircle(...hub, 37, -120 + i * 60), ...onCircle(...hub, 41, -120 + i * 60)), 2),
      );
    marks.push(
      words(String(min), ...onCircle(50, 60, 29, -130), 8),
      words(String(max), ...onCircle(50, 60, 29, 130), 8),
      words(unit, 50, 76, 9.5),
    );
    const swing = needle === 'swinging' ? [-22, -11, 0, 11, 22] : [0];
    for (const off of swing) {
      const to = onCircle(...hub, 30, (needle === 'dead' ? -142 : at(value)) + off);
      marks.push(off === 0 ? stroke(poly(...hub, ...to), 3.4) : dashed(poly(...hub, ...to)));
    }
    if (needle === 'dead') marks.push(crossed(50, 40, 6));
    marks.push(
      solid(ellipse(...hub, 4)),
      ...lettering(label, 50, label.length > 24 ? 8 : 7, { letters: 26, lines: 2, size: 7.4, bold: true }),
    );
    return marks;
  },
});
