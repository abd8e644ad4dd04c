import type { Pack } from '../catalogue/schema';
import { walkingLine } from '../round/walkingLine';

/** How a part of an outline is filled: the machine's body, its dark working parts, its light details, or lines only. */
export type Tone = 'body' | 'deep' | 'light' | 'line';

const TONES: Readonly<Record<string, Tone>> = Object.fromEntries([
  ...'wheel track roller forks fork mast carriage blade bucket reel drum auger spinner head grip handle bail tiller counterweight ripper plough wing foot box hook winch pallet-jack hitch coupler jack rib louvre float plank runway end-truck tank column box'
    .split(' ')
    .map((part) => [part, 'deep']),
  ...'bridge trolley outrigger'.split(' ').map((part) => [part, 'body']),
  ...'cab glass crane-cab guard seat panel rail rotator turret slew-ring circle battery cover lever cap vehicle load'.split(' ').map((part) => [part, 'light']),
]) as Record<string, Tone>;

/** The tone of a part; lines that a person can walk through are drawn as lines only. */
export function partTone(part: string, solid: boolean): Tone {
  return solid || part in TONES ? (TONES[part] ?? 'body') : 'line';
}

/** A plan's outlines as SVG paths, y upward in the plan and downward on paper, with the box they need (metres). */
export interface OutlineDrawing {
  paths: { d: string; part: string; tone: Tone; solid: boolean }[];
  box: { x: number; y: number; width: number; height: number };
}

/** Paths of a list of outlines. */
export function outlineDrawing(outlines: readonly { part: string; points: readonly (readonly number[])[]; solid?: boolean | undefined }[]): OutlineDrawing {
  const points = outlines.flatMap((each) => each.points);
  const xs = points.map((p) => p[0]!);
  const ys = points.map((p) => -p[1]!);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return {
    paths: outlines.map((each) => {
      const solid = each.solid ?? true;
      return { part: each.part, solid, tone: partTone(each.part, solid), d: `M${each.points.map((p) => `${p[0]} ${-p[1]!}`).join('L')}Z` };
    }),
    box: { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y },
  };
}

const PRINT_FILL: Readonly<Record<Tone, string>> = { body: '#e4e4e4', deep: '#8c8c8c', light: '#ffffff', line: 'none' };
const escape = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * A plan as a whole SVG file in black and grey: outline, walking line, numbered stations and, with `names`, their names beside them.
 * Scale: one unit is one metre.
 */
export function planSvg(plan: Pack['plan'], title: string, options: { names?: boolean; size?: number } = {}): string {
  const drawing = outlineDrawing(plan.outlines);
  const line = walkingLine(plan);
  const ring = line.ring.map((each, i) => ({ station: each, order: i + 1, at: line.positions.get(each.id)! }));
  const xs = [drawing.box.x, drawing.box.x + drawing.box.width, ...ring.map((each) => each.at[0])];
  const ys = [drawing.box.y, drawing.box.y + drawing.box.height, ...ring.map((each) => -each.at[1])];
  const reach = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const unit = reach / 22;
  const side = options.names ? unit * 7 : unit * 1.6;
  const x = Math.min(...xs) - side;
  const y = Math.min(...ys) - unit * 1.6;
  const width = Math.max(...xs) - x + side;
  const height = Math.max(...ys) - y + unit * 1.6;
  const n = (value: number) => Math.round(value * 1000) / 1000;
  const middle = (Math.min(...xs) + Math.max(...xs)) / 2;
  const hull = line.hull.length > 2 ? line.hull : ring.map((each) => each.at);
  const size = options.size ?? 600;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(x)} ${n(y)} ${n(width)} ${n(height)}" width="${n((size * width) / Math.max(width, height))}" height="${n((size * height) / Math.max(width, height))}">`,
    `<title>${escape(title)}</title>`,
    `<path d="M${hull.map((p) => `${n(p[0])} ${n(-p[1])}`).join('L')}Z" fill="none" stroke="#555555" stroke-width="${n(unit * 0.09)}" stroke-dasharray="${n(unit * 0.35)} ${n(unit * 0.25)}"/>`,
    ...drawing.paths.map((path) => `<path d="${path.d}" fill="${PRINT_FILL[path.tone]}" stroke="#222222" stroke-width="${n(unit * 0.07)}" stroke-linejoin="round"/>`),
    ...ring.map(({ station, order, at }) => {
      const right = at[0] >= middle;
      const label = options.names
        ? `<text x="${n(at[0] + (right ? unit : -unit))}" y="${n(-at[1] + unit * 0.25)}" font-size="${n(unit * 0.72)}" text-anchor="${right ? 'start' : 'end'}">${escape(station.name)}</text>`
        : '';
      return `<circle cx="${n(at[0])}" cy="${n(-at[1])}" r="${n(unit * 0.72)}" fill="#ffffff" stroke="#222222" stroke-width="${n(unit * 0.1)}"/><text x="${n(at[0])}" y="${n(-at[1] + unit * 0.3)}" font-size="${n(unit * 0.82)}" font-weight="bold" text-anchor="middle">${order}</text>${label}`;
    }),
    '</svg>',
  ].join('');
}
