import type { Grade } from '../catalogue';

/**
 * How full a grade's disc is: sound hollow, watch a quarter, mend half, stop solid with a bar. Shape alone
 * carries the grade.
 */
export const GRADE_FILL: Readonly<Record<Grade, number>> = { sound: 0, watch: 0.25, mend: 0.5, stop: 1 };

const round = (x: number) => Math.round(x * 100) / 100;

/** A point on a circle about (cx, cy), `turn` from 0 to 1 clockwise from the top. */
function onCircle(cx: number, cy: number, r: number, turn: number): [number, number] {
  const angle = turn * 2 * Math.PI;
  return [round(cx + r * Math.sin(angle)), round(cy - r * Math.cos(angle))];
}

/** SVG path of a filled sector from the top, clockwise, for a share from 0 to 1; empty text for 0. */
export function sectorPath(cx: number, cy: number, r: number, share: number): string {
  if (share <= 0) return '';
  if (share >= 1) return `M${cx - r} ${cy}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
  const [x, y] = onCircle(cx, cy, r, share);
  return `M${cx} ${cy}L${cx} ${round(cy - r)}A${r} ${r} 0 ${share > 0.5 ? 1 : 0} 1 ${x} ${y}Z`;
}

/** SVG path of an open arc from `from` to `to` (turns, clockwise from the top). */
export function arcPath(cx: number, cy: number, r: number, from: number, to: number): string {
  const span = Math.min(to - from, 0.9999);
  if (span <= 0) return '';
  const [x1, y1] = onCircle(cx, cy, r, from);
  const [x2, y2] = onCircle(cx, cy, r, from + span);
  return `M${x1} ${y1}A${r} ${r} 0 ${span > 0.5 ? 1 : 0} 1 ${x2} ${y2}`;
}

/** The grade disc as a whole SVG, for print: black, so that it survives any printer. */
export function gradeDiscSvg(grade: Grade, size = 12): string {
  const fill = sectorPath(12, 12, 8.5, GRADE_FILL[grade]);
  const bar = grade === 'stop' ? '<path d="M7.5 12h9" stroke="#ffffff" stroke-width="2.6"/>' : '';
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 ` +
    '0 24 24"><circle cx="12" cy="12" r="9.5" fill="none" stroke="#12302e" ' +
    `stroke-width="2"/>${fill ? `<path d="${fill}" fill="#12302e"/>` : ''}${bar}</svg>`
  );
}
