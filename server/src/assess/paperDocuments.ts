import { localDate, localTime } from '@rounds/core/calendar';
import type { EffectivePack } from '@rounds/core/catalogue';
import { longDate } from '@rounds/core/calendar';
import { gradeDiscSvg } from '@rounds/core/drawing';
import {
  appraise,
  correctionWords,
  drawableSignature,
  type EvaluationRecord,
  faultName,
  foldEvaluation,
  judgedSequence,
  OUTCOME_WORDS,
  overrideWords,
  RECORDING_WORDS,
  type RecordedEvent,
  type Signature,
} from '@rounds/core/evaluation';
import { roundWords } from '@rounds/core/round';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { INK, QUIET } from '../print/pdf';
import { sequenceContent } from './sequencePaper';

/** What the report of an evaluation is made from. */
export interface ReportSubject {
  purpose: 'evaluation' | 'practice';
  pack: EffectivePack;
  events: RecordedEvent[];
  earlierStarts: string[];
  conditions: string;
  createdAt: string;
  person: { name: string; payroll: string; team: string; site: string };
  /** Who prepared it; those who decided and signed are named by their events. */
  preparedBy: string;
  /** Whether the evaluator was calibrated that day, in a sentence; empty where nobody asks. */
  calibration: string;
  machine: string;
  zone: string;
  organisation: string;
}

const when = (at: string, zone: string) => `${longDate(localDate(at, zone))}, ${localTime(at, zone)}`;

function drawnOrTyped(signed: Signature | undefined): Content {
  if (!signed) return { text: 'not signed', italics: true, margin: [0, 22, 0, 22] };
  if (signed.typed !== null)
    return {
      text: [{ text: signed.typed, fontSize: 14, italics: true }, '  signed by name and password'],
      margin: [0, 18, 0, 18],
    };
  const path = drawableSignature(signed.strokes ?? '');
  return {
    svg:
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 200" width="180" ' +
      `height="60"><path d="${path || 'M0 0'}" fill="none" stroke="${INK}" ` +
      'stroke-width="5"/></svg>',
  };
}

function signature(
  record: EvaluationRecord,
  role: 'trainer' | 'operator',
  name: string,
  zone: string,
): Content {
  const signed = record.signatures.get(role);
  return {
    stack: [
      drawnOrTyped(signed),
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 200, y2: 0, lineWidth: 0.7, lineColor: INK }] },
      {
        text:
          `${role === 'trainer' ? 'Trainer' : 'Operator'}: ` +
          `${name}${signed ? `, ${when(signed.at, zone)}` : ''}`,
        fontSize: 8,
        color: QUIET,
      },
    ],
  };
}

const lightLines = {
  hLineWidth: () => 0.5,
  vLineWidth: () => 0,
  hLineColor: () => '#b9c4bf',
  paddingTop: () => 2.5,
  paddingBottom: () => 2.5,
};

/** Minutes between a tap and its arrival from which the report says so. */
const LATE_MINUTES = 15;

function lateWords(events: readonly RecordedEvent[], zone: string): string[] {
  const late = events.filter(
    (each) => each.receivedAt && Date.parse(each.receivedAt) - Date.parse(each.at) > LATE_MINUTES * 60_000,
  );
  const last = late.at(-1);
  if (!last) return [];
  return [
    `${late.length} of ${events.length} entries were made without a connection and ` +
      `reached the server later, the last ${when(last.receivedAt!, zone)}`,
  ];
}

/** The report of a practice of start and stop: who, on what, then each session as the judge says it. */
function practiceDocument(subject: ReportSubject): TDocumentDefinitions {
  const { pack, person, zone } = subject;
  const { sequences, notes } = foldEvaluation(subject.events);
  const judged = sequences.flatMap((each) =>
    each.endedAt === null ? [] : (judgedSequence(pack, each) ?? []),
  );
  return a4(person.name, [
    { text: subject.organisation, color: QUIET },
    { text: `Practice of start and stop: ${pack.title}`, bold: true, fontSize: 17, margin: [0, 2, 0, 4] },
    { text: person.name, bold: true, fontSize: 13 },
    `Payroll ${person.payroll}, ${person.team}, ${person.site}`,
    {
      text: `Machine ${subject.machine}. ${when(subject.createdAt, zone)}, with ${subject.preparedBy}. ${subject.conditions}`,
      color: QUIET,
      margin: [0, 0, 0, 8],
    },
    ...(judged.length === 0 ? ['Nothing was stamped.'] : judged.flatMap(sequenceContent)),
    ...(notes.length > 0 ? [{ ul: notes.map((each) => each.words) }] : []),
    contentWords(pack),
  ]);
}

/** The A4 evaluation report: the answer first, then every reason, the sheet, the round, signatures. */
export function reportDocument(subject: ReportSubject): TDocumentDefinitions {
  if (subject.purpose === 'practice') return practiceDocument(subject);
  const { pack, events, person, zone } = subject;
  const record = foldEvaluation(events);
  const result = appraise(pack, record, subject.earlierStarts);
  const { name } = person;
  const decided = record.decision;
  const evaluator = decided?.by ?? subject.preparedBy;
  const outcome = decided?.outcome ?? result.outcome;
  const overridden = decided !== null && decided.outcome !== result.outcome;
  const { analysis } = result;
  const sequences = record.sequences.flatMap((each) =>
    each.endedAt === null ? [] : (judgedSequence(pack, each) ?? []),
  );
  const head = (text: string): Content => ({ text, bold: true, fontSize: 11.5, margin: [0, 10, 0, 3] });
  const bulleted = (weighs: string): Content[] =>
    result.reasons
      .filter((each) => each.weighs === weighs)
      .map((each) => ({ text: `•  ${each.text}`, margin: [0, 1, 0, 1] }));

  const content: Content[] = [
    { text: subject.organisation, color: QUIET },
    { text: `Evaluation: ${pack.title}`, bold: true, fontSize: 17, margin: [0, 2, 0, 4] },
    {
      columns: [
        {
          text: [
            { text: `${name}\n`, bold: true, fontSize: 13 },
            `Payroll ${person.payroll}, ${person.team}, ${person.site}`,
          ],
        },
        {
          text: [
            { text: `${OUTCOME_WORDS[outcome]}\n`, bold: true, fontSize: 13 },
            result.score === null ? 'no score' : `Score ${result.score} % (cut ${pack.sheet.cut} %)`,
          ],
          alignment: 'right',
        },
      ],
      margin: [0, 0, 0, 4],
    },
    {
      text:
        `Machine ${subject.machine} ` +
        `(${pack.variants.find((each) => each.id === pack.fitOut['variant'])?.name}). ` +
        `Evaluated ${longDate(localDate(record.startedAt ?? subject.createdAt, zone))} by ` +
        `${evaluator}${evaluator === subject.preparedBy ? '' : `, prepared by ${subject.preparedBy}`}. ` +
        [subject.calibration, subject.conditions].filter(Boolean).join(' '),
      color: QUIET,
    },
    ...(overridden
      ? [
          {
            text:
              `The trainer overrode the computed outcome "${OUTCOME_WORDS[result.outcome]}". ` +
              `Reason: ${decided.override ? overrideWords(decided.override) : 'none given'}`,
            bold: true,
            margin: [0, 6, 0, 0],
          } as Content,
        ]
      : []),
    ...(record.takenOver.length > 0
      ? [
          {
            text: record.takenOver
              .map(
                (each) =>
                  `Taken over by ${each.by ?? 'another trainer'} on another device, ` +
                  `${when(each.at, zone)}: ${each.reason}`,
              )
              .join('\n'),
            margin: [0, 4, 0, 0],
          } as Content,
        ]
      : []),
    ...record.agreements.map((each): Content => ({
      text:
        `${each.by ?? 'A second trainer'} agreed to "${OUTCOME_WORDS[each.outcome]}", ` +
        `${when(each.at, zone)}: ${each.words}`,
      margin: [0, 4, 0, 0],
    })),
    head('Why'),
    ...bulleted('against'),
    ...bulleted('for'),
    ...bulleted('note'),
    head('Planted faults'),
    ...record.corrections.map((each): Content => ({
      text: correctionWords(pack, each),
      margin: [0, 0, 0, 3],
    })),
    analysis.detection.planted.length === 0
      ? { text: 'None planted.' }
      : {
          layout: lightLines,
          table: {
            headerRows: 1,
            dontBreakRows: true,
            widths: [14, '*', 60, 60, 70],
            body: [
              ['', 'Fault', 'Found', 'Graded', 'Key'].map((text) => ({ text, bold: true })),
              ...analysis.detection.planted.map((each) => [
                { svg: gradeDiscSvg(each.key, 10) },
                `${each.fault.id} ${faultName(each.fault)}`,
                each.found,
                each.grade ?? '-',
                each.key,
              ]),
            ],
          },
        },
    head('Score by section'),
    {
      layout: lightLines,
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: ['*', 40, 52, 150],
        body: [
          ['Criterion', 'Weight', 'Credit', 'Because'].map((text) => ({ text, bold: true })),
          ...result.sections.flatMap((section) => [
            [
              {
                text: `${section.title}${section.minimum === null ? '' : ` (minimum ${section.minimum} %)`}`,
                bold: true,
                colSpan: 2,
              },
              '',
              { text: section.score === null ? 'n/a' : `${section.score} %`, bold: true },
              '',
            ],
            ...section.criteria.map((each) => [
              each.criterion.says,
              String(each.criterion.weight),
              each.credit === null ? 'n/a' : String(Math.round(each.credit * 100) / 100),
              each.because,
            ]),
          ]),
        ],
      },
    },
    head('The round'),
    {
      ul: [
        ...(pack.format === 1 ? [] : [`${RECORDING_WORDS[record.recording]}.`]),
        ...roundWords(analysis, pack),
      ],
    },
    ...(sequences.length > 0 ? [head('Start and stop'), ...sequences.flatMap(sequenceContent)] : []),
    ...lateWords(events, zone).map((text): Content => ({ text, margin: [0, 6, 0, 0] })),
    ...(record.notes.length > 0
      ? [head('Notes'), { ul: record.notes.map((each) => each.words) } as Content]
      : []),
    {
      columns: [
        signature(record, 'trainer', record.signatures.get('trainer')?.by ?? evaluator, zone),
        signature(record, 'operator', name, zone),
      ],
      columnGap: 30,
      margin: [0, 16, 0, 0],
      unbreakable: true,
    } as Content,
    contentWords(pack),
  ];
  return a4(name, content);
}

/** Which content a record was made with, and what comes before it. */
function contentWords(pack: EffectivePack): Content {
  return {
    text:
      `Class content ${pack.id} revision ${pack.revision}, ${pack.hash.slice(0, 16)}. A ` +
      "training record: the maker's manual, the employer's rules, local law and licensed " +
      'trades come first.',
    fontSize: 7.5,
    color: QUIET,
    margin: [0, 12, 0, 0],
  };
}

/** A record of a person on A4, with their name and the page along the foot. */
function a4(name: string, content: Content[]): TDocumentDefinitions {
  return {
    info: { title: `Evaluation ${name}` },
    pageSize: 'A4',
    pageMargins: [42, 42, 42, 42],
    content,
    footer: (page, pages) => ({
      text: `${name}  ·  ${page} of ${pages}`,
      alignment: 'center',
      fontSize: 7.5,
      color: QUIET,
    }),
  };
}

/** What a wallet card is made from. */
export interface CardSubject {
  organisation: string;
  classTitle: string;
  name: string;
  payroll: string;
  /** Last day of the certificate as it was given. */
  until: string;
  on: string;
  by: string;
  overridden: boolean;
  familiarisedWith: string[];
  address: string;
}

/**
 * The wallet card, 85.6 x 54 mm, two faces: who, what, until when, and the address that answers valid or
 * not valid today.
 */
export function cardDocument(subject: CardSubject): TDocumentDefinitions {
  return {
    info: { title: `Card ${subject.name}` },
    pageSize: { width: 242.65, height: 153.07 },
    pageMargins: [12, 10, 12, 8],
    content: [
      { text: subject.organisation, fontSize: 6.5, color: QUIET },
      { text: subject.classTitle, bold: true, fontSize: 11.5, margin: [0, 1, 0, 4] },
      {
        columns: [
          {
            width: '*',
            stack: [
              { text: subject.name, bold: true, fontSize: 13 },
              { text: `Payroll ${subject.payroll}`, fontSize: 7.5, color: QUIET, margin: [0, 0, 0, 5] },
              { text: 'Re-evaluation due by', fontSize: 7, color: QUIET },
              { text: longDate(subject.until), bold: true, fontSize: 12 },
              { text: `Trained and evaluated ${longDate(subject.on)}`, fontSize: 7.5, margin: [0, 4, 0, 0] },
              {
                text: `by ${subject.by}${subject.overridden ? ', against the computed outcome' : ''}`,
                fontSize: 7.5,
              },
            ],
          },
          { width: 78, qr: subject.address, fit: 76, foreground: INK, eccLevel: 'M' },
        ],
      },
      {
        text: 'Scan to see whether this card is valid today.',
        fontSize: 6.5,
        color: QUIET,
        absolutePosition: { x: 12, y: 138 },
      },
      { text: 'Familiarised with', bold: true, fontSize: 9, pageBreak: 'before' },
      {
        text: subject.familiarisedWith.join(', ') || 'no machine on record',
        fontSize: 8,
        margin: [0, 2, 0, 6],
      },
      {
        text:
          'Holds only for this class of machine, with familiarisation on the particular ' +
          "machine, at this employer, while the card is valid. The maker's manual, the " +
          "employer's rules and local law come first. Hand the card in when asked.",
        fontSize: 7,
      },
      { text: subject.address, fontSize: 6, color: QUIET, margin: [0, 8, 0, 0] },
    ],
  };
}
