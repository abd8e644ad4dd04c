import type { StandingStatus } from '@rounds/core/certification';
import { arcPath } from '@rounds/core/drawing';

/** One stroke of the sign of a standing, on a 24 grid: the pale rest of the ring, or the standing's own colour. */
export interface ArcStroke {
  d: string;
  width: number;
  pale?: boolean;
}

const RING = 'M12 3a9 9 0 1 0 0 18a9 9 0 0 0 0-18';
const BROKEN: readonly ArcStroke[] = [
  { d: arcPath(12, 12, 9, 0.08, 0.42), width: 3 },
  { d: arcPath(12, 12, 9, 0.58, 0.92), width: 3 },
];
const BAR: ArcStroke = { d: 'M7 12h10', width: 3 };

/**
 * What is left of a certificate: an arc that shrinks from full as `share` (0 to 1, null for full) falls; a broken
 * ring when nothing is left, with a bar when it was taken.
 */
export function arcStrokes(status: StandingStatus, share: number | null): readonly ArcStroke[] {
  const ring = (part: number): ArcStroke[] => [
    { d: RING, width: 2, pale: true },
    { d: arcPath(12, 12, 9, 0, part), width: 4 },
  ];
  switch (status) {
    case 'valid':
    case 'due':
      return ring(Math.max(0.04, Math.min(1, share ?? 1)));
    case 'in-training':
      return ring(0.06);
    case 'suspended':
    case 'withdrawn':
      return [...BROKEN, BAR];
    case 'lapsed':
    case 'in-grace':
      return BROKEN;
    default:
      return [{ d: RING, width: 2, pale: true }];
  }
}

const STEPS = 48;
const SIDE = 24;
const images = new Map<string, string>();

/**
 * The same sign as a CSS image of 24 pixels, for a screen of many hundreds, which a browser scrolls evenly only as
 * pixels. `own` and `pale` are its colours as CSS has them; the share is drawn in 48 steps. `none` where the browser
 * draws no pixels.
 */
export function arcImage(
  status: StandingStatus,
  share: number | null,
  { own, pale }: { own: string; pale: string },
): string {
  const step = share === null ? null : Math.round(Math.max(0, Math.min(1, share)) * STEPS);
  const scale = Math.max(2, Math.ceil(window.devicePixelRatio));
  const key = [status, step, own, pale, scale].join(' ');
  const kept = images.get(key);
  if (kept) return kept;
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = SIDE * scale;
  const pen = canvas.getContext('2d');
  if (!pen) return 'none';
  pen.scale(scale, scale);
  for (const stroke of arcStrokes(status, step === null ? null : step / STEPS)) {
    pen.strokeStyle = stroke.pale ? pale : own;
    pen.lineWidth = stroke.width;
    pen.stroke(new Path2D(stroke.d));
  }
  const image = `url(${canvas.toDataURL()})`;
  images.set(key, image);
  return image;
}
