/** The field a signature is drawn on, in its own units, and the least a stroke must travel to be one. */
export const SIGNATURE = { width: 600, height: 200, leastLength: 80 } as const;

const POINT = /([ML])(\d{1,3}(?:\.\d{1,2})?) (\d{1,3}(?:\.\d{1,2})?)/g;
const WHOLE = /^(?:[ML]\d{1,3}(?:\.\d{1,2})? \d{1,3}(?:\.\d{1,2})?)+$/;

function points(path: string): { draws: boolean; x: number; y: number }[] {
  return [...path.matchAll(POINT)].map(([, command, x, y]) => ({
    draws: command === 'L',
    x: Math.min(Number(x), SIGNATURE.width),
    y: Math.min(Number(y), SIGNATURE.height),
  }));
}

/**
 * What is wrong with a drawn signature (an SVG path of M and L on a 600 x 200 field), or null: other
 * characters, points outside the field, or so little drawn that it could be a slip of the hand.
 *
 * @example signatureProblem('M10 10L20 10') // 'is too short to be a signature'
 */
export function signatureProblem(path: string): string | null {
  if (!WHOLE.test(path)) return 'is not a drawing on the signature field';
  let length = 0;
  let before: { x: number; y: number } | null = null;
  for (const [, command, left, top] of path.matchAll(POINT)) {
    const here = { x: Number(left), y: Number(top) };
    if (here.x > SIGNATURE.width || here.y > SIGNATURE.height) return 'leaves the signature field';
    if (command === 'L' && before) length += Math.hypot(here.x - before.x, here.y - before.y);
    before = here;
  }
  return length < SIGNATURE.leastLength ? 'is too short to be a signature' : null;
}

/**
 * A stored signature as a path that lies within the field whatever was stored; empty when nothing of it can
 * be drawn.
 */
export function drawableSignature(path: string): string {
  return points(path)
    .map(({ draws, x, y }, i) => `${draws && i > 0 ? 'L' : 'M'}${x} ${y}`)
    .join('');
}
