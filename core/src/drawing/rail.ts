import type { JudgedStep, Judgement, Session, SessionStep } from '../procedure';
import { timingSeconds } from '../procedure';
import { escaped, wrapped } from '../text';
import { railLanes } from './railLanes';

/** A step as it stands on the rail. Lengths in units of the drawing, y down. */
export interface RailRow {
  step: SessionStep;
  /** Where its sign stands. */
  x: number;
  y: number;
  /** How long the sign is drawn: a wait is as long as it lasts, in a scale that long waits do not break. */
  length: number;
  /** Top of the row, and how high it is. */
  top: number;
  height: number;
  lines: string[];
  judged: JudgedStep | null;
  /** Which act it was, counted from 1; null where it was not done. */
  act: number | null;
}

/** A procedure's name above its steps, where several are drawn. */
interface RailHead {
  title: string;
  y: number;
}

/** Procedures as a rail: it forks where the order is free and is tied where it is not. */
export interface RailLayout {
  rows: RailRow[];
  heads: RailHead[];
  /** Lines from step to step, as SVG paths. */
  ties: { path: string; from: string; to: string }[];
  /** Where the words begin, and how wide and high the whole is. */
  textX: number;
  width: number;
  height: number;
}

const LANE = 20;
const RADIUS = 7;
const LINE = 19;
const PAD = 9;
const HEAD = 30;
/** Units that a letter of the words takes on average, at a type size of 15. */
const LETTER = 7.6;

/** Extra length of a step's sign for the time it waits: some units for every doubling of the seconds. */
function waitLength(step: SessionStep): number {
  const { timing } = step;
  if (timing?.means !== 'dwell' && timing?.means !== 'rest') return 0;
  const seconds = timingSeconds(timing.least, timing.unit) ?? 0;
  return seconds <= 1 ? 0 : Math.min(48, Math.round(6 * Math.log2(seconds)));
}

/**
 * Lays out the steps of a session in an order that is allowed, as written where it is free. A line runs from a step
 * to each step that waits for it and for nothing in between; lines to one step share a lane. `width` is what the
 * whole may take; with a judgement each row has what came of its step.
 */
export function railLayout(session: Session, width: number, judgement?: Judgement): RailLayout {
  const { steps, order } = session;
  const place = new Map(order.base.topological().map((s, i) => [s, i]));
  // As written where that is allowed, so that people find what they know.
  const written = steps.every((step, s) =>
    steps.every((other, t) => t >= s || !order.before(step.id, other.id)),
  );
  const sequence = steps.map((_, s) => s).sort((a, b) => (written ? a - b : place.get(a)! - place.get(b)!));
  const rowOf = new Map(sequence.map((s, row) => [s, row]));
  const waits = (s: number, t: number) =>
    order.groups.some((each) => each.owner === t && each.members.includes(s)) ||
    (order.base.has(s, t) &&
      !sequence.some((between) => order.base.has(s, between) && order.base.has(between, t)));
  const lanes = railLanes(sequence.map((s) => sequence.filter((t) => waits(s, t)).map((t) => rowOf.get(t)!)));
  const count = 1 + Math.max(0, ...lanes.signs, ...lanes.ties.map((each) => each.lane));
  const xOf = (lane: number) => PAD + RADIUS + lane * LANE;
  const textX = PAD + count * LANE + 4;
  const letters = Math.max(12, Math.floor((width - textX - (judgement ? COLUMN : 4)) / LETTER));

  const rows: RailRow[] = [];
  const heads: RailHead[] = [];
  let top = 0;
  let procedure: string | null = null;
  for (const s of sequence) {
    const step = steps[s]!;
    if (session.procedures.length > 1 && step.procedure !== procedure) {
      heads.push({
        title: session.procedures.find((each) => each.id === step.procedure)!.title,
        y: top + 20,
      });
      top += HEAD;
    }
    procedure = step.procedure;
    const lines = wrapped(step.do, letters);
    const length = waitLength(step);
    const height = Math.max(lines.length * LINE, 2 * RADIUS + length) + 2 * PAD;
    const judged = judgement?.steps[s] ?? null;
    rows.push({
      step,
      x: xOf(lanes.signs[rows.length]!),
      y: top + PAD + RADIUS + 2,
      length,
      top,
      height,
      lines,
      judged,
      act: judged?.event === null || judged?.event === undefined ? null : judged.event + 1,
    });
    top += height;
  }
  const ties = lanes.ties.map(({ from, to, lane }) => ({
    from: rows[from]!.step.id,
    to: rows[to]!.step.id,
    path: tie(rows[from]!, rows[to]!, xOf(lane)),
  }));
  return { rows, heads, ties, textX, width, height: top };
}

/** Width kept at the right for what came of each step. */
const COLUMN = 84;

/** A line from one sign to another that changes lanes by a bend near its ends. */
function tie(from: RailRow, to: RailRow, lane: number): string {
  const [x1, y1, x2, y2] = [from.x, from.y + RADIUS + from.length, to.x, to.y - RADIUS];
  const bend = Math.min(14, Math.max(4, (y2 - y1) / 2));
  const out = x1 === lane ? `L${lane} ${y1}` : `C${x1} ${y1 + bend} ${lane} ${y1} ${lane} ${y1 + bend}`;
  const back =
    x2 === lane ? `L${x2} ${y2}` : `L${lane} ${y2 - bend}C${lane} ${y2} ${x2} ${y2 - bend} ${x2} ${y2}`;
  return `M${x1} ${y1}${out}${back}`;
}

/** Colours of a rail on paper or screen. */
export interface RailColours {
  ink: string;
  quiet: string;
  stop: string;
  ground: string;
}

/** The house's colours on white, for files. */
export const RAIL_COLOURS: RailColours = {
  ink: '#12302e',
  quiet: '#7c8c86',
  stop: '#a3142d',
  ground: '#ffffff',
};

/** The same in black and grey, so that any printer does. */
export const RAIL_ON_PAPER: RailColours = { ...RAIL_COLOURS, stop: '#000000' };

/** Whether something of a step did not come right. */
export function railFlawed({ judged }: Pick<RailRow, 'judged'>): boolean {
  if (!judged) return false;
  return (
    ['skipped', 'out-of-order', 'wrong'].includes(judged.state) ||
    judged.failed.length > 0 ||
    judged.times.some((each) => each.verdict === 'broken')
  );
}

/** How a step came out, as it stands beside its words. */
export function railState(row: RailRow, momentOf: (act: number) => string): string {
  const { judged, act } = row;
  if (!judged) return '';
  switch (judged.state) {
    case 'done':
      return `${momentOf(act!)}${railFlawed(row) ? ' !' : ''}`;
    case 'prompted':
      return `${momentOf(act!)} prompted`;
    case 'wrong':
      return `${momentOf(act!)} wrong`;
    case 'out-of-order':
      return `${momentOf(act!)} order`;
    case 'skipped':
      return 'left out';
    default:
      return '';
  }
}

/** The shape of a step's sign, long for a wait; filled or hollow is for who draws it. */
export function railSign({ x, y, length }: Pick<RailRow, 'x' | 'y' | 'length'>): string {
  const r = RADIUS;
  return `M${x - r} ${y}A${r} ${r} 0 0 1 ${x + r} ${y}V${y + length}A${r} ${r} 0 0 1 ${x - r} ${y + length}Z`;
}

/** A rail as an SVG of its own, for paper and for export. */
export function railSvg(
  layout: RailLayout,
  { ink, quiet, stop, ground }: RailColours,
  momentOf: (act: number) => string = () => '',
): string {
  const font = 'font-family="Atkinson Hyperlegible Next, Atkinson, sans-serif"';
  const parts = [
    ...layout.ties.map((each) => `<path d="${each.path}" fill="none" stroke="${quiet}" stroke-width="2.4"/>`),
    ...layout.heads.map(
      (each) =>
        `<text x="0" y="${each.y}" ${font} font-size="15" font-weight="700" fill="${ink}">${escaped(each.title)}</text>`,
    ),
    ...layout.rows.map((row) => {
      const tone = railFlawed(row) ? stop : ink;
      const dash = row.step.optional ? ' stroke-dasharray="3 3"' : '';
      const sign =
        `<path d="${railSign(row)}" fill="${row.step.critical ? tone : ground}" stroke="${tone}" ` +
        `stroke-width="2.4"${dash}/>`;
      const cross =
        row.judged?.state === 'skipped'
          ? `<path d="M${row.x - 11} ${row.y + 11}L${row.x + 11} ${row.y - 11}" stroke="${tone}" stroke-width="2.4"/>`
          : '';
      const words = row.lines.map(
        (line, i) =>
          `<text x="${layout.textX}" y="${row.top + PAD + 14 + i * LINE}" ${font} font-size="15" fill="${ink}">${escaped(line)}</text>`,
      );
      const state = railState(row, momentOf);
      const told = state
        ? `<text x="${layout.width}" y="${row.top + PAD + 14}" ${font} font-size="13" text-anchor="end" fill="${tone}">${escaped(state)}</text>`
        : '';
      return sign + cross + words.join('') + told;
    }),
  ];
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${layout.width} ${layout.height}" ` +
    `width="${layout.width}" height="${layout.height}">${parts.join('')}</svg>`
  );
}
