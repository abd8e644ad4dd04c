import { type EffectivePack, faultEvidence, METHOD_WORDS, raisedWords } from '@rounds/core/catalogue';
import { gradeDiscSvg } from '@rounds/core/drawing';
import { drawEvidence, evidenceSvg } from '@rounds/core/drawing/evidence';
import { GRADE_WORDS } from '@rounds/core/grading';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { INK, QUIET } from '../print/pdf';
import type { PaperSubject } from './paperDocuments';

/** Cards across and down a sheet. */
const ACROSS = 2;
const DOWN = 4;
const WIDTH = 262;
const HEIGHT = 188;
const PICTURE = 92;

type Margins = [number, number, number, number];

interface Card {
  front: Content[];
  back: Content[];
}

/** Two sides of a finding: what is shown of it, and what it is. */
function card({ pack }: PaperSubject, fault: EffectivePack['faults'][number], number: number): Card {
  const check = pack.checkpoints.find((each) => each.id === fault.checkpoint)!;
  const found = faultEvidence(check, fault);
  const raised = raisedWords(pack, fault);
  const drawing = found && drawEvidence(found.evidence, { figures: found.figures });
  const head = (): Content => ({
    columns: [
      { text: check.part, bold: true, fontSize: 9.5 },
      { text: String(number), width: 24, alignment: 'right', color: QUIET, fontSize: 8 },
    ],
  });
  return {
    front: [
      head(),
      {
        columns: [
          ...(drawing ? [{ svg: evidenceSvg(drawing, undefined, PICTURE), width: PICTURE + 8 }] : []),
          {
            width: '*',
            stack: fault.cues.map((cue): Content => ({
              text: [{ text: `${METHOD_WORDS[cue.method]}: `, color: QUIET }, cue.shows],
              fontSize: 9,
              margin: [0, 0, 0, 3],
            })),
          },
        ],
        columnGap: 8,
        margin: [0, 5, 0, 0],
      },
    ],
    back: [
      head(),
      {
        columns: [
          { svg: gradeDiscSvg(fault.grade, 22), width: 28 },
          { text: GRADE_WORDS[fault.grade], bold: true, fontSize: 14, margin: [0, 1, 0, 0] },
        ],
        margin: [0, 4, 0, 4],
      },
      { text: fault.title, bold: true, fontSize: 9.5 },
      { text: fault.do, fontSize: 9, margin: [0, 3, 0, 0] },
      { text: fault.why, fontSize: 8.5, color: QUIET, margin: [0, 3, 0, 0] },
      ...(raised ? [{ text: raised, fontSize: 8, margin: [0, 3, 0, 0] as Margins }] : []),
      ...(fault.until
        ? [
            {
              text: fault.until.says,
              fontSize: 8.5,
              margin: [0, 3, 0, 0] as Margins,
            },
          ]
        : []),
    ],
  };
}

/** Sheets of cards; every second page is the other side, its columns turned, so that it is printed on both sides. */
export function findingCards(subject: PaperSubject): TDocumentDefinitions {
  const cards = subject.pack.faults.map((fault, i) => card(subject, fault, i + 1));
  const sheets = Array.from({ length: Math.ceil(cards.length / (ACROSS * DOWN)) }, (_, i) =>
    cards.slice(i * ACROSS * DOWN, (i + 1) * ACROSS * DOWN),
  );
  const page = (own: readonly Card[], side: keyof Card, first: boolean): Content => ({
    ...(first ? {} : { pageBreak: 'before' as const }),
    table: {
      widths: Array.from({ length: ACROSS }, () => WIDTH - 16),
      heights: HEIGHT - 14,
      dontBreakRows: true,
      body: Array.from({ length: Math.ceil(own.length / ACROSS) }, (_, row): TableCell[] => {
        const cells = Array.from({ length: ACROSS }, (_, at): TableCell => {
          const found = own[row * ACROSS + at];
          return found ? { stack: found[side] } : '';
        });
        return side === 'back' ? cells.reverse() : cells;
      }),
    },
    layout: {
      hLineWidth: () => 0.4,
      vLineWidth: () => 0.4,
      hLineColor: () => INK,
      vLineColor: () => INK,
      hLineStyle: () => ({ dash: { length: 3, space: 3 } }),
      vLineStyle: () => ({ dash: { length: 3, space: 3 } }),
      paddingLeft: () => 8,
      paddingRight: () => 8,
      paddingTop: () => 7,
      paddingBottom: () => 7,
    },
  });
  return {
    info: { title: `Finding cards: ${subject.pack.title}` },
    pageSize: 'A4',
    pageMargins: [35, 34, 35, 34],
    footer: {
      text: `${subject.pack.title}, revision ${subject.pack.revision}, ${subject.printed}. Print on both sides, turned along the long edge, and cut.`,
      fontSize: 6.5,
      color: QUIET,
      margin: [35, 10, 35, 0],
    },
    content: sheets.flatMap((own, i) => [page(own, 'front', i === 0), page(own, 'back', false)]),
  };
}
