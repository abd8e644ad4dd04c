import type { StandingStatus } from '@rounds/core/certification';
import { arcStrokes } from './arcStrokes';

const STEPS = 48;
const SIDE = 24;
const images = new Map<string, string>();

/**
 * The sign of a standing as a CSS image of 24 pixels, for a screen of many hundreds, which a browser scrolls evenly only as
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
