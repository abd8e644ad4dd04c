import type { Pack } from '../catalogue';
import type { Desk } from '../machine';

/** A place of a desk on the plan, in metres. */
export interface DeskSpot {
  id: string;
  x: number;
  y: number;
}

/** Parts of a plan that a place is at, by a word in its id or name; the first that is drawn counts. */
const AT: readonly [word: RegExp, parts: readonly string[]][] = [
  [/crane-cab/, ['crane-cab']],
  [/carrier-cab/, ['cab']],
  [/\b(seat|cab|compartment|on the machine)\b/i, ['cab', 'seat', 'guard', 'body']],
  [/\b(basket|platform)\b/i, ['platform']],
  [/\b(tiller|grip)\b/i, ['grip', 'tiller']],
  [/\bhandle\b/i, ['handle']],
  [/\bstance\b/i, ['grip', 'handle']],
  [/\b(hitch|pivot)\b/i, ['hitch', 'push-link', 'coupler', 'drawbar']],
  [/\bcoupler\b/i, ['coupler']],
  [/\bhook-place\b/i, ['boom']],
  [/\b(module|engine bay|service doors)\b/i, ['power', 'engine', 'louvre']],
  [/\bpanel\b/i, ['panel', 'control']],
  [/\b(hopper)\b/i, ['hopper']],
  [/\b(spreader)\b/i, ['spinner']],
  [/\bwing\b/i, ['wing']],
  [/\b(stairhead|stairway foot)\b/i, ['stairway']],
  [/\b(deck|walkway)\b/i, ['deck', 'frame', 'body', 'carrier']],
];

type Outline = Pack['plan']['outlines'][number];

function middle({ points }: Pick<Outline, 'points'>): { x: number; y: number } {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 };
}

/** The box round a plan's outlines, in metres. */
export function planBox(plan: Pick<Pack['plan'], 'outlines'>) {
  const points = plan.outlines.flatMap((each) => each.points);
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

/**
 * Where the places of a desk are on the plan: where the desk says so, else at the part that they are named after, else
 * round the machine. No two lie on each other.
 */
export function deskSpots(desk: Pick<Desk, 'places'>, plan: Pick<Pack['plan'], 'outlines'>): DeskSpot[] {
  const box = planBox(plan);
  const centre = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const apart = Math.max(box.width, box.height) * 0.16;
  const round = desk.places.filter((each) => !each.spot && !named(each, plan));
  const spots: DeskSpot[] = [];
  for (const place of desk.places) {
    const own = place.spot ? { x: place.spot[0], y: place.spot[1] } : named(place, plan);
    const turn = (round.indexOf(place) / Math.max(1, round.length)) * 2 * Math.PI + 0.75 * Math.PI;
    const at = own ?? {
      x: centre.x + (box.width / 2 + apart * 0.9) * Math.cos(turn),
      y: centre.y + (box.height / 2 + apart * 0.9) * Math.sin(turn),
    };
    // Pushed on, in a spiral, until nothing is under it.
    let [x, y] = [at.x, at.y];
    for (let t = 1; spots.some((each) => Math.hypot(each.x - x, each.y - y) < apart) && t < 60; t++) {
      x = at.x + 0.12 * t * apart * Math.cos(t * 2.4);
      y = at.y + 0.12 * t * apart * Math.sin(t * 2.4);
    }
    spots.push({ id: place.id, x, y });
  }
  return spots;
}

function named(
  { id, name }: Desk['places'][number],
  plan: Pick<Pack['plan'], 'outlines'>,
): { x: number; y: number } | null {
  // Under or beside something one is not in it.
  if (/^(under|beside|on the ground|on the floor|behind)\b/i.test(name)) return null;
  for (const [word, parts] of AT)
    if (word.test(id) || word.test(name))
      for (const part of parts) {
        const outline = plan.outlines.find((each) => each.part === part);
        if (outline) return middle(outline);
      }
  return null;
}
