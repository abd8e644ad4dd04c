/**
 * What evidence drawings are made of: marks on a square of 100 by 100, y down. A state is told by shape; tones only
 * help, so that a drawing reads in every theme and in black and white.
 */

import { wrapped } from '../../text';

/** Names of colours; what they are is for whoever shows the drawing. `glow` is light: a lit lamp, a shining tip. */
export type Tone = 'ink' | 'quiet' | 'ground' | 'shade' | 'deep' | 'glow';

export interface PathMark {
  d: string;
  stroke?: Tone;
  fill?: Tone;
  width?: number;
  /** Lengths of dash and gap. */
  dash?: string;
}
export interface TextMark {
  text: string;
  x: number;
  y: number;
  size: number;
  anchor: 'start' | 'middle' | 'end';
  bold?: boolean;
  tone: Tone;
}
export type Mark = PathMark | TextMark;

/** Side of the square that a drawing is made in. */
export const SIDE = 100;
/** Usual widths of lines: outlines, and what lies on them. */
export const THICK = 3;
export const THIN = 1.8;

const r2 = (x: number) => Math.round(x * 100) / 100;

/** A line of the drawing. */
export const stroke = (d: string, width = THICK, tone: Tone = 'ink'): PathMark => ({
  d,
  stroke: tone,
  width,
});
export const dashed = (d: string, width = THIN, tone: Tone = 'ink'): PathMark => ({
  d,
  stroke: tone,
  width,
  dash: '4 3',
});
/** A filled shape with its outline. */
export const shape = (d: string, fill: Tone = 'ground', width = THICK, tone: Tone = 'ink'): PathMark => ({
  d,
  fill,
  stroke: tone,
  width,
});
/** A filled shape without an outline. */
export const solid = (d: string, fill: Tone = 'ink'): PathMark => ({ d, fill });

export const words = (
  text: string,
  x: number,
  y: number,
  size = 10,
  options: { anchor?: TextMark['anchor']; bold?: boolean; tone?: Tone } = {},
): TextMark => ({
  text,
  x: r2(x),
  y: r2(y),
  size,
  anchor: options.anchor ?? 'middle',
  ...(options.bold ? { bold: true } : {}),
  tone: options.tone ?? 'ink',
});

// ---------------------------------------------------------------- paths

/** A path through points, given as x1, y1, x2, y2 ... */
export function poly(...xy: number[]): string {
  let d = '';
  for (let i = 0; i + 1 < xy.length; i += 2) d += `${i === 0 ? 'M' : 'L'}${r2(xy[i]!)} ${r2(xy[i + 1]!)}`;
  return d;
}
export const closed = (...xy: number[]): string => `${poly(...xy)}Z`;

export function ellipse(cx: number, cy: number, rx: number, ry = rx): string {
  return (
    `M${r2(cx - rx)} ${r2(cy)}a${r2(rx)} ${r2(ry)} 0 1 0 ${r2(2 * rx)} 0` +
    `a${r2(rx)} ${r2(ry)} 0 1 0 ${r2(-2 * rx)} 0Z`
  );
}

/** A box with rounded corners. */
export function box(x: number, y: number, w: number, h: number, r = 0): string {
  const c = Math.min(r, w / 2, h / 2);
  if (c <= 0) return closed(x, y, x + w, y, x + w, y + h, x, y + h);
  return (
    `M${r2(x + c)} ${r2(y)}H${r2(x + w - c)}a${c} ${c} 0 0 1 ${c} ${c}V${r2(y + h - c)}` +
    `a${c} ${c} 0 0 1 ${-c} ${c}H${r2(x + c)}a${c} ${c} 0 0 1 ${-c} ${-c}V${r2(y + c)}` +
    `a${c} ${c} 0 0 1 ${c} ${-c}Z`
  );
}

/** A point on a circle; `degrees` clockwise from the top. */
export function onCircle(cx: number, cy: number, r: number, degrees: number): [number, number] {
  const a = (degrees * Math.PI) / 180;
  return [r2(cx + r * Math.sin(a)), r2(cy - r * Math.cos(a))];
}

/** An open arc from one angle to another, degrees clockwise from the top; it may run across the top. */
export function arc(cx: number, cy: number, r: number, from: number, to: number): string {
  const span = Math.min(359.9, to < from ? to + 360 - from : to - from);
  const [x1, y1] = onCircle(cx, cy, r, from);
  const [x2, y2] = onCircle(cx, cy, r, from + span);
  return `M${x1} ${y1}A${r} ${r} 0 ${span > 180 ? 1 : 0} 1 ${x2} ${y2}`;
}

/** A zigzag between two points, as a crack runs. */
export function crackPath(x1: number, y1: number, x2: number, y2: number): string {
  const length = Math.hypot(x2 - x1, y2 - y1);
  const n = Math.max(3, Math.round(length / 6));
  const [nx, ny] = [-(y2 - y1) / (length || 1), (x2 - x1) / (length || 1)];
  const points: number[] = [];
  for (let i = 0; i <= n; i++) {
    const t = i / n;
    const off = i === 0 || i === n ? 0 : (i % 2 ? 2.6 : -2.2) + (i % 3) * 0.5;
    points.push(x1 + (x2 - x1) * t + nx * off, y1 + (y2 - y1) * t + ny * off);
  }
  return poly(...points);
}
/** A crack, black with a light line beside it, so that it shows on steel and on white. */
export const crackMarks = (x1: number, y1: number, x2: number, y2: number, width = 2.6): Mark[] => [
  stroke(crackPath(x1 + 1.4, y1 + 1, x2 + 1.4, y2 + 1), width + 1, 'ground'),
  stroke(crackPath(x1, y1, x2, y2), width),
];

/** An arrow from one point to another. */
export function arrow(x1: number, y1: number, x2: number, y2: number, width = 2.4): Mark[] {
  const length = Math.hypot(x2 - x1, y2 - y1) || 1;
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length];
  const head = Math.min(7, length * 0.6);
  const [bx, by] = [x2 - ux * head, y2 - uy * head];
  const w = head * 0.6;
  return [
    stroke(poly(x1, y1, bx, by), width),
    solid(closed(x2, y2, bx - uy * w, by + ux * w, bx + uy * w, by - ux * w)),
  ];
}
/** An arrow both ways: something moves to and fro, which should not. */
export function toAndFro(x1: number, y1: number, x2: number, y2: number): Mark[] {
  const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
  return [...arrow(mx, my, x1, y1, 2), ...arrow(mx, my, x2, y2, 2)];
}
/** A cross over something that is not there. */
export const crossed = (cx: number, cy: number, r: number): PathMark =>
  stroke(`${poly(cx - r, cy - r, cx + r, cy + r)}${poly(cx + r, cy - r, cx - r, cy + r)}`, 2.2);

export function drop(cx: number, cy: number, r: number): string {
  return (
    `M${r2(cx)} ${r2(cy - 1.9 * r)}C${r2(cx + r * 0.4)} ${r2(cy - r)} ${r2(cx + r)} ${r2(cy - r * 0.4)} ${r2(cx + r)} ` +
    `${r2(cy)}A${r2(r)} ${r2(r)} 0 1 1 ${r2(cx - r)} ${r2(cy)}C${r2(cx - r)} ${r2(cy - r * 0.4)} ` +
    `${r2(cx - r * 0.4)} ${r2(cy - r)} ${r2(cx)} ${r2(cy - 1.9 * r)}Z`
  );
}

/** Hexagonal head of a bolt or nut, turned by some degrees. */
export function hexagon(cx: number, cy: number, r: number, turned = 0): string {
  return closed(...[0, 60, 120, 180, 240, 300].flatMap((each) => onCircle(cx, cy, r, each + turned)));
}

/** Specks of rust: small rough blots, always in the same places. */
export function rustMarks(cx: number, cy: number, r: number): Mark[] {
  return [0, 70, 130, 200, 265, 320].map((degrees, i) => {
    const [x, y] = onCircle(cx, cy, r * (0.75 + 0.25 * ((i * 37) % 3)), degrees);
    return solid(ellipse(x, y, 1.6 + (i % 2)), 'deep');
  });
}

/** A line streaked down from somewhere, as rust or a leak runs. */
export const streak = (x: number, y: number, length: number): PathMark =>
  stroke(`M${r2(x)} ${r2(y)}c1 ${r2(length / 3)} -2 ${r2(length / 2)} 0 ${r2(length)}`, THIN, 'deep');

// ---------------------------------------------------------------- textures

/** What something is filled with: told by its texture. */
export type Texture =
  | 'clear'
  | 'hatch'
  | 'dark'
  | 'milky'
  | 'foamy'
  | 'gritty'
  | 'burnt'
  | 'thin'
  | 'dirty'
  | 'oily'
  | 'upright'
  | 'rainbow'
  | 'bloom';

type Inside = (x: number, y: number) => boolean;
interface Bounds {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Parts of a straight line that lie inside a shape. */
function clippedLine(inside: Inside, x1: number, y1: number, x2: number, y2: number): string {
  const n = Math.ceil(Math.hypot(x2 - x1, y2 - y1) / 0.5);
  let d = '';
  let from: [number, number] | null = null;
  let last: [number, number] | null = null;
  for (let i = 0; i <= n; i++) {
    const x = x1 + ((x2 - x1) * i) / n;
    const y = y1 + ((y2 - y1) * i) / n;
    if (inside(x, y)) {
      from ??= [x, y];
      last = [x, y];
    } else if (from && last) {
      d += poly(...from, ...last);
      from = null;
    }
  }
  if (from && last) d += poly(...from, ...last);
  return d;
}

function slanted({ x, y, w, h }: Bounds, inside: Inside, gap: number, lean: 1 | -1): string {
  let d = '';
  for (let at = -h; at < w + h; at += gap)
    d +=
      lean === 1
        ? clippedLine(inside, x + at, y + h, x + at + h, y)
        : clippedLine(inside, x + at, y, x + at + h, y + h);
  return d;
}
function level({ x, y, w, h }: Bounds, inside: Inside, gap: number): string {
  let d = '';
  for (let at = gap / 2; at < h; at += gap) d += clippedLine(inside, x, y + at, x + w, y + at);
  return d;
}
function plumb({ x, y, w, h }: Bounds, inside: Inside, gap: number): string {
  let d = '';
  for (let at = gap / 2; at < w; at += gap) d += clippedLine(inside, x + at, y, x + at, y + h);
  return d;
}
/** Points of a staggered grid inside a shape. */
function grid({ x, y, w, h }: Bounds, inside: Inside, gap: number, margin: number): [number, number][] {
  const points: [number, number][] = [];
  for (let row = 0, at = gap / 2; at < h; at += gap, row++)
    for (let to = row % 2 ? gap : gap / 2; to < w; to += gap) {
      const [px, py] = [x + to, y + at];
      const clear = [
        [0, 0],
        [margin, 0],
        [-margin, 0],
        [0, margin],
        [0, -margin],
      ].every(([dx, dy]) => inside(px + dx!, py + dy!));
      if (clear) points.push([px, py]);
    }
  return points;
}

function texture(bounds: Bounds, inside: Inside, kind: Texture): Mark[] {
  const rings = (gap: number, r: number) =>
    grid(bounds, inside, gap, r).map(([x, y]) => shape(ellipse(x, y, r), 'ground', 1.3));
  switch (kind) {
    case 'clear':
      return grid(bounds, inside, 13, 3).map(([x, y]) => stroke(poly(x - 3, y, x + 3, y), 1.2, 'quiet'));
    case 'hatch':
      return [stroke(slanted(bounds, inside, 6, 1), 1.2)];
    case 'dark':
      return [];
    case 'milky':
      return grid(bounds, inside, 6, 1).map(([x, y]) => solid(ellipse(x, y, 1.2)));
    case 'foamy':
      return rings(7, 2.8);
    case 'gritty':
      return grid(bounds, inside, 8, 2).map(([x, y]) =>
        solid(closed(x - 2.2, y + 1.8, x, y - 2.2, x + 2.2, y + 1.8), 'ground'),
      );
    case 'burnt':
      return [stroke(slanted(bounds, inside, 5, 1), 1.2), stroke(slanted(bounds, inside, 5, -1), 1.2)];
    case 'thin':
      return [stroke(level(bounds, inside, 7), 1)];
    case 'dirty':
      return [
        stroke(slanted(bounds, inside, 9, 1), 1),
        ...grid(bounds, inside, 9, 2).map(([x, y]) => solid(ellipse(x, y, 1.9))),
      ];
    case 'oily':
      return grid(bounds, inside, 12, 4).flatMap(([x, y]) => [
        shape(ellipse(x, y, 4, 2.6), 'ground', 1.2),
        solid(ellipse(x, y, 1.3, 0.9)),
      ]);
    case 'upright':
      return [stroke(plumb(bounds, inside, 6), 1.2)];
    case 'rainbow':
      return [4, 9, 14, 19].map((r) =>
        stroke(
          ellipse(bounds.x + bounds.w / 2, bounds.y + bounds.h / 2, (r * bounds.w) / 44, (r * bounds.h) / 44),
          1.3,
        ),
      );
    case 'bloom':
      return grid(bounds, inside, 9, 3).map(([x, y]) =>
        stroke(
          `${poly(x - 3, y, x + 3, y)}${poly(x - 1.5, y - 2.6, x + 1.5, y + 2.6)}${poly(x + 1.5, y - 2.6, x - 1.5, y + 2.6)}`,
          1.2,
        ),
      );
  }
}

const BED: Partial<Record<Texture, Tone>> = {
  hatch: 'glow',
  dark: 'deep',
  gritty: 'deep',
  burnt: 'deep',
  dirty: 'shade',
  thin: 'shade',
  upright: 'shade',
};

/** A box filled with something. */
export function filledBox(x: number, y: number, w: number, h: number, kind: Texture): Mark[] {
  if (w <= 0 || h <= 0) return [];
  const inside: Inside = (px, py) => px > x + 0.4 && px < x + w - 0.4 && py > y + 0.4 && py < y + h - 0.4;
  return [solid(box(x, y, w, h), BED[kind] ?? 'ground'), ...texture({ x, y, w, h }, inside, kind)];
}

/** An ellipse filled with something, and its outline. */
export function filledEllipse(
  cx: number,
  cy: number,
  rx: number,
  ry: number,
  kind: Texture,
  dry = false,
): Mark[] {
  const inside: Inside = (x, y) => ((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 < 0.94;
  const edge = ellipse(cx, cy, rx, ry);
  return [
    solid(edge, BED[kind] ?? 'ground'),
    ...texture({ x: cx - rx, y: cy - ry, w: 2 * rx, h: 2 * ry }, inside, kind),
    dry ? dashed(edge, 2) : stroke(edge, 2.2),
  ];
}

/** Words in lines of at most so many letters, at most so many lines; what is left over ends in dots. */
export function lettering(
  text: string,
  cx: number,
  cy: number,
  {
    size = 9,
    letters = 16,
    lines = 5,
    bold = false,
  }: { size?: number; letters?: number; lines?: number; bold?: boolean } = {},
): Mark[] {
  const rows = wrapped(text, letters);
  const shown = rows.slice(0, lines);
  if (rows.length > lines) shown[lines - 1] = `${shown[lines - 1]!.slice(0, letters - 1)}…`;
  const top = cy - ((shown.length - 1) * size * 1.15) / 2 + size * 0.35;
  return shown.map((line, i) => words(line, cx, top + i * size * 1.15, size, { bold }));
}
