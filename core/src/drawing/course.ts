import type { Course } from '../teaching/course';
import { escaped } from '../text';
import { outlineDrawing } from './plan';

/** Colours of a drawing on paper, or taken from the page it stands on. */
export interface CourseInk {
  ink: string;
  quiet: string;
  ground: string;
  cone: string;
}
const PRINT: CourseInk = { ink: '#222222', quiet: '#777777', ground: '#ffffff', cone: '#555555' };

const n = (value: number) => Math.round(value * 1000) / 1000;

/** Length of the bar that shows the scale, in metres: a round part of the area's width. */
function barLength(width: number): number {
  return [50, 20, 10, 5, 2, 1].find((each) => each <= width / 3) ?? 0.5;
}

/**
 * A course as a whole SVG file to scale, one unit a metre: cones, tape, the way with its direction, the machine at its
 * start, what is measured out, and a bar of metres.
 */
export function courseSvg(
  course: Course,
  outlines: Parameters<typeof outlineDrawing>[0],
  options: { ink?: CourseInk; width?: number } = {},
): string {
  const { area, start } = course;
  const { ink, quiet, ground, cone } = options.ink ?? PRINT;
  const unit = Math.max(area.width, area.length) / 40;
  const text = unit * 1.1;
  const pad = unit * 3;
  const y = (value: number) => n(-value);
  const box = {
    x: area.left - pad,
    y: -(area.bottom + area.length) - pad,
    width: area.width + 2 * pad,
    height: area.length + 2 * pad + unit * 2.5,
  };
  const size = options.width
    ? ` width="${n(options.width)}" height="${n((options.width * box.height) / box.width)}"`
    : '';
  const line = (a: readonly number[], b: readonly number[], width: number, more = '') =>
    `<line x1="${n(a[0]!)}" y1="${y(a[1]!)}" x2="${n(b[0]!)}" y2="${y(b[1]!)}" stroke-width="${n(unit * width)}"${more}/>`;
  const drawing = outlineDrawing(outlines);
  const own = { x: drawing.box.x + drawing.box.width / 2, y: drawing.box.y + drawing.box.height / 2 };
  const label = (x: number, at: number, words: string, anchor: string) =>
    `<text x="${n(x)}" y="${n(at)}" font-size="${n(text)}" text-anchor="${anchor}" fill="${ink}" ` +
    `stroke="${ground}" stroke-width="${n(text / 3.5)}" stroke-linejoin="round" paint-order="stroke">${escaped(words)}</text>`;
  const bar = barLength(area.width);
  const foot = -area.bottom + unit * 3.2;
  const arrows = [0.2, 0.55, 0.85].map((share) => {
    const i = Math.min(course.path.length - 2, Math.floor(share * (course.path.length - 1)));
    const [a, b] = [course.path[i]!, course.path[i + 1]!];
    const turned = (Math.atan2(-(b[1] - a[1]), b[0] - a[0]) * 180) / Math.PI;
    return (
      `<path d="M${n(-unit * 0.5)} ${n(-unit * 0.45)}L${n(unit * 0.5)} 0L${n(-unit * 0.5)} ${n(unit * 0.45)}Z" ` +
      `transform="translate(${n((a[0] + b[0]) / 2)} ${y((a[1] + b[1]) / 2)}) rotate(${n(turned)})" fill="${ink}"/>`
    );
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(box.x)} ${n(box.y)} ${n(box.width)} ${n(box.height)}"${size}>`,
    `<title>${escaped(course.title)}</title>`,
    `<rect x="${n(area.left)}" y="${y(area.bottom + area.length)}" width="${n(area.width)}" height="${n(area.length)}" ` +
      `fill="none" stroke="${quiet}" stroke-width="${n(unit * 0.08)}" stroke-dasharray="${n(unit * 0.5)} ${n(unit * 0.4)}"/>`,
    `<path d="M${course.path.map((each) => `${n(each[0])} ${y(each[1])}`).join('L')}" fill="none" stroke="${ink}" ` +
      `stroke-width="${n(unit * 0.14)}" stroke-dasharray="${n(unit * 0.8)} ${n(unit * 0.45)}"/>`,
    ...arrows,
    `<g transform="translate(${n(start.at[0])} ${y(start.at[1])}) rotate(${n(start.turned)}) translate(${n(-own.x)} ${n(-own.y)})">`,
    ...drawing.paths.map(
      (each) =>
        `<path d="${each.d}" fill="${each.solid ? ground : 'none'}" stroke="${ink}" stroke-width="${n(unit * 0.07)}"/>`,
    ),
    '</g>',
    `<g stroke="${ink}">`,
    ...course.tapes.map((each) => line(each.from, each.to, 0.3)),
    '</g>',
    `<g stroke="${quiet}">`,
    ...course.measures.map((each) => line(each.from, each.to, 0.07)),
    '</g>',
    ...course.cones.map(
      ([x, at]) =>
        `<circle cx="${n(x)}" cy="${y(at)}" r="${n(unit * 0.42)}" fill="${cone}" stroke="${ink}" stroke-width="${n(unit * 0.1)}"/>`,
    ),
    ...course.measures.map(({ from, to, metres }) => {
      const upright = Math.abs(from[0] - to[0]) < Math.abs(from[1] - to[1]);
      // Nearer to one end, so that it stands clear of the machine in the middle.
      const share = upright ? 0.25 : 0.5;
      const [x, at] = [from[0] + share * (to[0] - from[0]), -(from[1] + share * (to[1] - from[1]))];
      const words = `${Number(metres.toFixed(2))} m`;
      return upright
        ? label(x + unit * 0.4, at + text / 3, words, 'start')
        : label(x, at - unit * 0.35, words, 'middle');
    }),
    `<g stroke="${ink}" stroke-width="${n(unit * 0.12)}">` +
      `<line x1="${n(area.left)}" y1="${n(foot)}" x2="${n(area.left + bar)}" y2="${n(foot)}"/>` +
      [0, bar]
        .map(
          (at) =>
            `<line x1="${n(area.left + at)}" y1="${n(foot - unit * 0.4)}" x2="${n(area.left + at)}" y2="${n(foot + unit * 0.4)}"/>`,
        )
        .join('') +
      '</g>',
    label(area.left + bar + unit * 0.6, foot + text / 3, `${bar} m`, 'start'),
    '</svg>',
  ].join('');
}

/** Scales that drawings are made to. */
const SCALES = [20, 25, 50, 100, 200, 250, 500, 1000];
const POINTS_PER_METRE = (1000 / 25.4) * 72;

/** The largest usual scale at which a course fits on paper, and how wide its drawing then is, in points. */
export function courseScale(
  course: Course,
  paper: { width: number; height: number },
): { scale: number; width: number } {
  const unit = Math.max(course.area.width, course.area.length) / 40;
  const box = { width: course.area.width + 6 * unit, height: course.area.length + 8.5 * unit };
  const scale =
    SCALES.find(
      (each) =>
        (box.width * POINTS_PER_METRE) / each <= paper.width &&
        (box.height * POINTS_PER_METRE) / each <= paper.height,
    ) ?? SCALES.at(-1)!;
  return { scale, width: (box.width * POINTS_PER_METRE) / scale };
}
