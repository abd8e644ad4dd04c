import { evidenceKind } from '../kind';
import { box, dashed, ellipse, lettering, type Mark, poly, shape, stroke } from '../marks';

/** What a person wears for the work. */
export const ppe = evidenceKind({
  id: 'ppe',
  title: 'What is worn',
  sound: 'everything that is asked for',
  params: {
    worn: {
      type: 'texts',
      label: 'Worn',
      sound: [],
      says: (lines) => (lines.length ? `worn: ${lines.join(', ')}` : 'nothing worn'),
    },
    missing: {
      type: 'texts',
      label: 'Not worn',
      sound: [],
      says: (lines) => (lines.length ? `not worn: ${lines.join(', ')}` : ''),
    },
  },
  draw: ({ worn, missing }) => {
    const rows = [
      ...worn.map((text) => [text, true] as const),
      ...missing.map((text) => [text, false] as const),
    ];
    const gap = Math.min(16, 92 / Math.max(1, rows.length));
    const marks: Mark[] = [
      shape(ellipse(14, 14, 8)),
      shape('M4 96L6 34Q14 22 22 34L24 96H17L14 62L11 96Z', 'shade'),
    ];
    rows.forEach(([text, there], i) => {
      const y = 4 + gap * (i + 0.5);
      marks.push(there ? shape(box(30, y - 4, 8, 8, 1), 'ink', 1.6) : dashed(box(30, y - 4, 8, 8, 1), 1.8));
      if (there) marks.push(stroke(poly(31.5, y, 33.5, y + 2.2, 36.8, y - 2.2), 1.6, 'ground'));
      marks.push(...lettering(text, 70, y, { letters: 14, lines: 2, size: Math.min(8.4, gap * 0.52) }));
    });
    return marks;
  },
});
