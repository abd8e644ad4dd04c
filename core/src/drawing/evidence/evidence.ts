import { escaped } from '../../text';
import { EVIDENCE_KINDS } from './catalogue';
import {
  type EvidenceKind,
  type EvidenceParam,
  type EvidenceParams,
  fullParams,
  type ValuesOf,
} from './kind';
import { type Mark, SIDE, type Tone } from './marks';

/** A drawing as a pack names it: the kind, and what differs from the sound one. */
export interface Evidence {
  kind: string;
  params: Readonly<Record<string, unknown>>;
}

/** A drawing ready to be shown: its marks on a square of 100, a line of figures below, and the same in words. */
export interface EvidenceDrawing {
  marks: Mark[];
  /** Figures in words, as "tread 12 mm"; empty where nothing was measured. */
  figures: string[];
  title: string;
  text: string;
}

function phraseOf(param: EvidenceParam, values: ValuesOf<EvidenceParams>, key: string): string {
  const value = values[key];
  switch (param.type) {
    case 'choice':
      return param.says[value as string] ?? '';
    case 'number':
      return param.says(value as number);
    case 'places':
      return param.says((value as readonly number[]).length);
    case 'text':
      return param.says(value as string);
    case 'texts':
      return param.says(value as readonly string[]);
    case 'range':
    case 'lamps':
      return '';
  }
}

function figuresOf(kind: EvidenceKind, values: ValuesOf<EvidenceParams>): string[] {
  return Object.entries(kind.params).flatMap(([key, param]) => {
    const value = values[key];
    if (param.type !== 'number' || param.unit === '' || value === 0) return [];
    const unit = param.unit === '°' ? '°' : ` ${param.unit}`;
    return [`${param.label} ${String(value)}${unit}`];
  });
}

/**
 * Draws a kind of evidence with given parameters; what is left out is sound. With `figures` what was measured stands
 * below it in numbers. Null where the kind is not known.
 */
export function drawEvidence(evidence: Evidence, { figures = false } = {}): EvidenceDrawing | null {
  const kind = EVIDENCE_KINDS.get(evidence.kind);
  if (!kind) return null;
  const values = fullParams(kind, evidence.params);
  const params = Object.entries(kind.params);
  const said = params.map(([key, param]) => {
    const own = phraseOf(param, values, key);
    return kind.says?.[key]?.(values, own) ?? own;
  });
  const also = params.map(([key, param]) =>
    param.type === 'choice' ? (param.also?.[values[key] as string] ?? '') : '',
  );
  const measured = figures ? figuresOf(kind, values) : [];
  const seen = [said.filter(Boolean).join(', ') || kind.sound, ...also].filter(Boolean).join(', ');
  return {
    marks: kind.draw(values),
    figures: measured,
    title: kind.title,
    text: `${kind.title}: ${[seen, ...measured].filter(Boolean).join(', ')}`,
  };
}

/** Colours of a drawing on paper or screen. */
export type EvidenceColours = Readonly<Record<Tone, string>>;

/** Black, white and greys, so that any printer does. */
export const EVIDENCE_ON_PAPER: EvidenceColours = {
  ink: '#000000',
  quiet: '#5c5c5c',
  ground: '#ffffff',
  shade: '#e4e4e4',
  deep: '#8f8f8f',
  glow: '#cfcfcf',
};

/** Height of a line of figures below a drawing. */
export const FIGURE_LINE = 12;

/** The type size of figures: as large as the longest line lets it be. */
export function figureSize(figures: readonly string[]): number {
  return Math.min(10.5, 190 / Math.max(1, ...figures.map((each) => each.length)));
}

/** A drawing as an SVG of its own, for paper and for export; `size` is its width. */
export function evidenceSvg(
  drawing: EvidenceDrawing,
  colours: EvidenceColours = EVIDENCE_ON_PAPER,
  size = 200,
): string {
  const font = 'font-family="Atkinson Hyperlegible Next, Atkinson, sans-serif"';
  const { figures } = drawing;
  const height = SIDE + figures.length * FIGURE_LINE;
  const marks = drawing.marks.map((mark) =>
    'text' in mark
      ? `<text x="${mark.x}" y="${mark.y}" ${font} font-size="${mark.size}" text-anchor="${mark.anchor}"` +
        `${mark.bold ? ' font-weight="700"' : ''} fill="${colours[mark.tone]}">${escaped(mark.text)}</text>`
      : `<path d="${mark.d}" fill="${mark.fill ? colours[mark.fill] : 'none'}"` +
        (mark.stroke
          ? ` stroke="${colours[mark.stroke]}" stroke-width="${mark.width}" stroke-linejoin="round" stroke-linecap="round"`
          : '') +
        `${mark.dash ? ` stroke-dasharray="${mark.dash}"` : ''}/>`,
  );
  const told = figures.map(
    (line, i) =>
      `<text x="50" y="${SIDE + 9 + i * FIGURE_LINE}" ${font} font-size="${figureSize(figures)}" ` +
      `text-anchor="middle" fill="${colours.ink}">${escaped(line)}</text>`,
  );
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-2 -2 ${SIDE + 4} ${height + 4}" width="${size}" ` +
    `height="${Math.round((size * (height + 4)) / (SIDE + 4))}"><title>${escaped(drawing.text)}</title>${marks.join('')}${told.join('')}</svg>`
  );
}
