import { SIGNATURE } from '@rounds/core/evaluation';

/** Points of one stroke of a pen, in the pixels of the field it was drawn on. */
interface Stroke {
  points: readonly { x: number; y: number }[];
}

/** Strokes as an SVG path on the signature field; '' for none. Points outside the field are set on its edge. */
export function strokesPath(strokes: readonly Stroke[], drawnOn: { width: number; height: number }): string {
  const on = (at: number, size: number, of: number) =>
    Math.min(of, Math.max(0, Math.round((at / size) * of)));
  const point = ({ x, y }: { x: number; y: number }) =>
    `${on(x, drawnOn.width, SIGNATURE.width)} ${on(y, drawnOn.height, SIGNATURE.height)}`;
  return strokes
    .filter(({ points }) => points.length > 0)
    .map(({ points }) => `M${points.map(point).join('L')}`)
    .join('');
}
