import type { Pack } from '../catalogue/schema';
import { NAME_SIZE, ringLayout } from './ringLayout';

/**
 * How a part of an outline is filled: the machine's body, its dark working parts, its light details, or
 * lines only.
 */
export type Tone = 'body' | 'deep' | 'light' | 'line';

const TONES: Readonly<Record<string, Tone>> = Object.fromEntries([
  ...toned(
    'deep',
    'wheel track roller forks fork mast carriage blade bucket reel drum auger spinner head grip handle bail',
    'tiller counterweight ripper plough wing foot box hook winch pallet-jack hitch coupler jack rib louvre',
    'float plank runway end-truck tank',
  ),
  ...toned('body', 'bridge trolley outrigger'),
  ...toned(
    'light',
    'cab glass crane-cab guard seat panel rail rotator turret slew-ring circle battery cover lever cap',
    'vehicle load',
  ),
]) as Record<string, Tone>;

function toned(tone: Tone, ...parts: string[]): [string, Tone][] {
  return parts.flatMap((line) => line.split(' ')).map((part) => [part, tone]);
}

/** The tone of a part; lines that a person can walk through are drawn as lines only. */
export function partTone(part: string, solid: boolean): Tone {
  return solid || part in TONES ? (TONES[part] ?? 'body') : 'line';
}

/**
 * A plan's outlines as SVG paths, y upward in the plan and downward on paper, with the box they need
 * (metres).
 */
export interface OutlineDrawing {
  paths: { d: string; part: string; tone: Tone; solid: boolean }[];
  box: { x: number; y: number; width: number; height: number };
}

/** Paths of a list of outlines. */
export function outlineDrawing(
  outlines: readonly { part: string; points: readonly (readonly number[])[]; solid?: boolean | undefined }[],
): OutlineDrawing {
  const points = outlines.flatMap((each) => each.points);
  const xs = points.map((p) => p[0]!);
  const ys = points.map((p) => -p[1]!);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return {
    paths: outlines.map((each) => {
      const solid = each.solid ?? true;
      return {
        part: each.part,
        solid,
        tone: partTone(each.part, solid),
        d: `M${each.points.map((p) => `${p[0]} ${-p[1]!}`).join('L')}Z`,
      };
    }),
    box: { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y },
  };
}

const PRINT_FILL: Readonly<Record<Tone, string>> = {
  body: '#e4e4e4',
  deep: '#8c8c8c',
  light: '#ffffff',
  line: 'none',
};
const escape = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * A plan as a whole SVG file in black and grey: outline, walking line, numbered stations and, with `names`,
 * the stations off the line and all names beside them. Scale: one unit is one metre.
 */
export function planSvg(
  plan: Pack['plan'],
  title: string,
  options: { names?: boolean; size?: number } = {},
): string {
  const drawing = outlineDrawing(plan.outlines);
  const names = options.names ?? false;
  const { nodes, line, unit, box } = ringLayout(
    plan,
    names ? {} : { small: true, only: plan.stations.filter((each) => each.at).map((each) => each.id) },
  );
  const n = (value: number) => Math.round(value * 1000) / 1000;
  const size = options.size ?? 600;
  const scale = size / Math.max(box.width, box.height);
  const stroke = (from: readonly number[], to: readonly number[], width: number) =>
    `<line x1="${n(from[0]!)}" y1="${n(from[1]!)}" x2="${n(to[0]!)}" y2="${n(to[1]!)}" ` +
    `stroke="#777777" stroke-width="${n(unit * width)}"/>`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(box.x)} ${n(box.y)} ` +
      `${n(box.width)} ${n(box.height)}" width="${n(box.width * scale)}" ` +
      `height="${n(box.height * scale)}">`,
    `<title>${escape(title)}</title>`,
    `<path d="M${line.map((p) => `${n(p[0])} ${n(p[1])}`).join('L')}Z" fill="none" ` +
      `stroke="#555555" stroke-width="${n(unit * 0.09)}" ` +
      `stroke-dasharray="${n(unit * 0.35)} ${n(unit * 0.25)}"/>`,
    ...drawing.paths.map(
      (path) =>
        `<path d="${path.d}" fill="${PRINT_FILL[path.tone]}" stroke="#222222" ` +
        `stroke-width="${n(unit * 0.07)}" stroke-linejoin="round"/>`,
    ),
    ...(names ? nodes.map((each) => stroke(each.anchor, each.link, each.spur ? 0.08 : 0.05)) : []),
    ...nodes.map(
      ({ at, order, name, spur }) =>
        `<circle cx="${n(at[0])}" cy="${n(at[1])}" r="${n(unit * 0.72)}" fill="#ffffff" ` +
        `stroke="#222222" stroke-width="${n(unit * 0.1)}"` +
        (spur ? ` stroke-dasharray="${n(unit * 0.2)} ${n(unit * 0.15)}"/>` : '/>') +
        `<text x="${n(at[0])}" y="${n(at[1] + unit * 0.3)}" font-size="${n(unit * 0.82)}" ` +
        'font-weight="bold" ' +
        `text-anchor="middle">${escape(String(order ?? name.slice(0, 1)))}</text>`,
    ),
    ...(names
      ? nodes.flatMap(({ label }) =>
          label.lines.map(
            (text, i) =>
              `<text x="${n(label.at[0])}" y="${n(label.heights[i]! + unit * 0.2)}" ` +
              `font-size="${n(unit * NAME_SIZE)}" ` +
              `text-anchor="${label.side < 0 ? 'end' : 'start'}">${escape(text)}</text>`,
          ),
        )
      : []),
    '</svg>',
  ].join('');
}
