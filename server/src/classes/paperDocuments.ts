import {
  type Checkpoint,
  type EffectivePack,
  METHOD_WORDS,
  type Procedure,
  type Step,
} from '@rounds/core/catalogue';
import { planSvg, RAIL_ON_PAPER, railLayout, railSvg } from '@rounds/core/drawing';
import { session } from '@rounds/core/procedure';
import { honestSeconds, walkingOrder } from '@rounds/core/round';
import type { Column, Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { CAUTION, INK, QUIET } from '../print/pdf';
import { findingCards } from './findingCards';

/** What a paper is printed for. */
export interface PaperSubject {
  pack: EffectivePack;
  machine: string;
  site: string;
  organisation: string;
  printed: string;
}

const LINE = 0.5;
const grid = {
  hLineWidth: () => LINE,
  vLineWidth: () => LINE,
  hLineColor: () => INK,
  vLineColor: () => INK,
  paddingTop: () => 1.6,
  paddingBottom: () => 1.6,
  paddingLeft: () => 3,
  paddingRight: () => 3,
};

/** Fit-out in a few words: the power variant and every switch that differs from the pack's default. */
function fitOutWords(pack: EffectivePack): string {
  const variant = pack.variants.find((each) => each.id === pack.fitOut['variant'])?.name ?? '';
  const other = pack.features
    .filter((each) => pack.fitOut[each.id] !== each.default)
    .map((each) => `${each.name.toLowerCase()}: ${pack.fitOut[each.id]}`);
  return [variant, ...other].join('; ');
}

const box = (size: number): Column => ({
  canvas: [{ type: 'rect', x: 0, y: 1, w: size, h: size, lineWidth: 0.7, lineColor: INK }],
  width: size + 4,
});

/** What a sound part shows to each method, as it is said; the criterion where nothing is said of them. */
function soundWords(check: Checkpoint): Content[] {
  const said = check.methods.flatMap((method): Content[] => {
    const shows = check.appears[method];
    return shows ? [{ text: `  ${METHOD_WORDS[method]}: `, color: QUIET }, { text: `${shows}.` }] : [];
  });
  return said.length > 0 ? said : [{ text: `: ${check.sound}` }];
}

/** A check on the round card: a box to tick, the part, and what a sound one shows to each method. */
const checkLine = (check: Checkpoint): Content => ({
  columns: [
    box(6),
    {
      text: [
        { text: check.part, bold: true },
        {
          text: check.each && typeof check.each.count === 'number' ? ` (each ${check.each.of})` : '',
        },
        ...soundWords(check),
      ],
      fontSize: 6.5,
    },
  ],
  margin: [0, 0.8, 0, 0.8],
  unbreakable: true,
});

/** A6 card for the pocket: plan with numbered stations, then every check in walking order. */
function roundCard({ pack, machine, organisation, printed }: PaperSubject): TDocumentDefinitions {
  const rows = walkingOrder(pack);
  const minutes = Math.round(pack.checkpoints.reduce((sum, each) => sum + honestSeconds(each), 0) / 60);
  return {
    info: { title: `Round card: ${pack.title}` },
    pageSize: 'A6',
    pageMargins: [16, 16, 16, 22],
    footer: (page: number, pages: number) => ({
      columns: [
        { text: `${pack.title}, revision ${pack.revision}, ${printed}`, fontSize: 5.5, color: QUIET },
        { text: `${page}/${pages}`, fontSize: 5.5, alignment: 'right', width: 30, color: QUIET },
      ],
      margin: [16, 4, 16, 0],
    }),
    content: [
      { text: pack.title, bold: true, fontSize: 12 },
      {
        text: [machine, fitOutWords(pack)].filter(Boolean).join(', '),
        fontSize: 6.5,
        color: QUIET,
        margin: [0, 1, 0, 3],
      },
      { svg: planSvg(pack.plan, pack.title), fit: [265, 270], alignment: 'center' },
      {
        text: `${pack.checkpoints.length} checks, ${minutes} min at an honest pace. ${CAUTION}`,
        fontSize: 6.5,
        margin: [0, 4, 0, 0],
      },
      { text: organisation, fontSize: 6, color: QUIET },
      ...rows.flatMap(({ station, order, checks }, i): Content[] => {
        const [first, ...rest] = checks.map(checkLine);
        const heading: Content = {
          text: `${order}  ${station.name}`,
          bold: true,
          fontSize: 8.5,
          margin: [0, i === 0 ? 0 : 5, 0, 1],
        };
        // A station's name never stands alone at the foot of a page.
        return [
          {
            stack: [heading, ...(first ? [first] : [])],
            unbreakable: true,
            ...(i === 0 ? { pageBreak: 'before' as const } : {}),
          },
          ...rest,
        ];
      }),
    ],
  };
}

/** Lines for defects on a week's sheet. */
const DEFECT_LINES = 10;
/** Rows of the check sheet's head. */
const HEAD_ROWS = 2;
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const SHIFTS = ['1', '2', '3'];

/** A week's sheet, A4 across: each check, three shifts a day, initials, hours and defects. */
function checkSheet({ pack, machine, site, organisation, printed }: PaperSubject): TDocumentDefinitions {
  const columns = DAYS.length * SHIFTS.length;
  const blank = (n: number): TableCell[] => Array.from({ length: n }, () => '');
  const field = (label: string, value = ''): TableCell => ({
    text: [
      { text: `${label}  `, fontSize: 7, color: QUIET },
      { text: value, bold: true },
    ],
    margin: [0, 1, 0, 5],
  });
  const rows: TableCell[][] = [];
  /** Rows with which a station begins; a heavier line stands above them. */
  const begins: number[] = [];
  for (const { station, order, checks } of walkingOrder(pack)) {
    const own = checks.filter((each) => each.station === station.id);
    own.forEach((check, i) => {
      const words: Content = { text: [{ text: check.part, bold: true }, `: ${check.sound}`] };
      // A station's name stands in the row of its first check, so that no page ends with it.
      const heading: Content = { text: `${order}  ${station.name}`, bold: true, fontSize: 8 };
      rows.push([i === 0 ? { stack: [heading, words] } : words, ...blank(columns)]);
      if (i === 0) begins.push(rows.length - 1);
    });
  }
  const whole = (label: string): TableCell[] => [
    { text: label, bold: true, margin: [0, 3, 0, 3] },
    ...blank(columns),
  ];
  return {
    info: { title: `Daily check sheet: ${pack.title}` },
    pageSize: 'A4',
    pageOrientation: 'landscape',
    pageMargins: [22, 20, 22, 26],
    footer: (page: number, pages: number) => ({
      columns: [
        {
          text: `${organisation}. ${pack.title}, revision ${pack.revision}, printed ${printed}. ${CAUTION}`,
          fontSize: 6,
          color: QUIET,
        },
        { text: `${page} of ${pages}`, fontSize: 6, alignment: 'right', width: 50, color: QUIET },
      ],
      margin: [22, 6, 22, 0],
    }),
    content: [
      { text: `Daily check sheet: ${pack.title}`, bold: true, fontSize: 13 },
      { text: fitOutWords(pack), fontSize: 7, color: QUIET, margin: [0, 1, 0, 4] },
      {
        table: {
          widths: ['*', '*', '*', '*'],
          body: [
            [
              field('Unit', machine),
              field('Site', site),
              field('Week beginning'),
              field('Hour meter at start'),
            ],
          ],
        },
        layout: grid,
        margin: [0, 0, 0, 5],
      },
      {
        text:
          'In each box: a tick for sound, W watch, M mend within its limit, S stop: do not ' +
          'use, tell the supervisor now. Leave no box empty that was looked at; tick nothing ' +
          'that was not.',
        fontSize: 7,
        margin: [0, 0, 0, 4],
      },
      {
        fontSize: 7,
        table: {
          headerRows: HEAD_ROWS,
          dontBreakRows: true,
          widths: ['*', ...Array.from({ length: columns }, () => 14.5)],
          body: [
            [
              { text: 'Check', bold: true, rowSpan: 2 },
              ...DAYS.flatMap((day): TableCell[] => [
                { text: day, bold: true, colSpan: 3, alignment: 'center' },
                '',
                '',
              ]),
            ],
            [
              '',
              ...DAYS.flatMap(() => SHIFTS.map((shift): TableCell => ({ text: shift, alignment: 'center' }))),
            ],
            ...rows,
            whole('Hours at end of shift'),
            whole('Operator’s initials'),
            whole('Supervisor’s initials'),
          ],
        },
        layout: {
          ...grid,
          paddingLeft: () => 2,
          paddingRight: () => 2,
          hLineWidth: (i: number) => (begins.includes(i - HEAD_ROWS) ? 1.4 : LINE),
        },
      },
      {
        // Lines enough to use the rest of the page it comes to stand on.
        margin: [0, 8, 0, 0],
        table: {
          headerRows: 1,
          keepWithHeaderRows: 2,
          widths: [45, 30, '*', 34, 110, 55],
          body: [
            [
              { text: 'Day, shift', bold: true },
              { text: 'Check', bold: true },
              { text: 'Defect: what shows', bold: true },
              { text: 'Grade', bold: true },
              { text: 'Reported to, at', bold: true },
              { text: 'Cleared, by', bold: true },
            ],
            ...Array.from({ length: DEFECT_LINES }, () =>
              Array.from({ length: 6 }, (): TableCell => ({ text: ' ', margin: [0, 3, 0, 3] })),
            ),
          ],
        },
        layout: grid,
        fontSize: 7,
      },
    ],
  };
}

/** Steps that a page of the start and stop card has room for. */
const STEPS_ON_A_PAGE = 24;

/** What else belongs on the card where there is room: fuel, charging, tests and emergencies. */
function fitting(pack: EffectivePack, room: number): Procedure[] {
  const chosen: Procedure[] = [];
  for (const kind of ['refuel', 'recharge', 'emergency', 'function-test'] as const)
    for (const each of pack.procedures.filter((procedure) => procedure.kind === kind))
      if (each.steps.length <= room) {
        chosen.push(each);
        room -= each.steps.length;
      }
  return chosen;
}

/** Width of a rail in units of its drawing. */
const RAIL_UNITS = 400;

/** Start and stop side by side on one A4 page (more where a class needs it), with what is forbidden below; then their order. */
function startStopCard({ pack, machine, organisation, printed }: PaperSubject): TDocumentDefinitions {
  // What a class needs little of is set larger, so that the page is used.
  const of = (kind: 'startup' | 'shutdown') => pack.procedures.filter((each) => each.kind === kind);
  const count = (kind: 'startup' | 'shutdown') => of(kind).reduce((sum, each) => sum + each.steps.length, 0);
  const steps = count('startup') + count('shutdown');
  const size = steps <= 16 ? 11 : steps <= 24 ? 9.5 : steps <= 34 ? 8.6 : 8;
  const line = (s: Step, i: number): Content => ({
    columns: [
      { text: `${i + 1}`, width: size * 1.9, bold: true, alignment: 'right', margin: [0, 0, 4, 0] },
      {
        text: [
          { text: s.do, bold: s.critical },
          ...(s.timing ? [{ text: `  [${s.timing.says}]` }] : []),
          ...(s.ifFails ? [{ text: `  If not: ${s.ifFails}.`, color: QUIET }] : []),
        ],
      },
    ],
    margin: [0, size / 5, 0, size / 5],
    unbreakable: true,
  });
  const written = (procedures: readonly Procedure[]): Content[] =>
    procedures.flatMap((each): Content[] => [
      { text: each.title, bold: true, color: QUIET, margin: [0, 3, 0, 1] },
      ...each.steps.map(line),
    ]);
  const shorter = count('startup') < count('shutdown') ? 'startup' : 'shutdown';
  const column = (kind: 'startup' | 'shutdown', heading: string): Column => ({
    width: '*',
    stack: [
      { text: heading, bold: true, fontSize: 12, margin: [0, 0, 0, 2] },
      ...written([...of(kind), ...(kind === shorter ? fitting(pack, STEPS_ON_A_PAGE - steps) : [])]),
    ],
  });
  /** All procedures of a kind as one drawing, as large as the page lets it be. */
  const rail = (kind: 'startup' | 'shutdown', heading: string): Column => ({
    width: '*',
    stack: [
      { text: heading, bold: true, margin: [0, 0, 0, 4] },
      of(kind).length === 0
        ? ''
        : {
            svg: railSvg(
              railLayout(
                session(
                  pack,
                  of(kind).map((each) => each.id),
                ),
                RAIL_UNITS,
              ),
              RAIL_ON_PAPER,
            ),
            fit: [260, 700],
          },
    ],
  });

  return {
    info: { title: `Start and stop card: ${pack.title}` },
    pageSize: 'A4',
    pageMargins: [28, 26, 28, 30],
    footer: () => ({
      text: `${organisation}. ${pack.title}, revision ${pack.revision}, printed ${printed}. ${CAUTION}`,
      fontSize: 6.5,
      color: QUIET,
      margin: [28, 8, 28, 0],
    }),
    content: [
      { text: pack.title, bold: true, fontSize: 16 },
      {
        text: [
          machine,
          fitOutWords(pack),
          'Bold steps are critical; steps without an order between them may change places',
        ]
          .filter(Boolean)
          .join('. '),
        fontSize: 7.5,
        color: QUIET,
        margin: [0, 1, 0, 6],
      },
      { columns: [column('startup', 'Start'), column('shutdown', 'Stop')], columnGap: 18, fontSize: size },
      { text: 'Never', bold: true, fontSize: 12, margin: [0, 10, 0, 2] },
      {
        columns: [0, 1].map((half): Column => ({
          ul: pack.forbidden
            .filter((_, i) => i % 2 === half)
            .map((each) => ({ text: each.rule, margin: [0, 0.8, 0, 0.8] })),
          width: '*',
        })),
        columnGap: 18,
        fontSize: size - 0.5,
      },
      { text: 'The order as a rail', bold: true, fontSize: 12, pageBreak: 'before', margin: [0, 0, 0, 2] },
      {
        text: 'It forks where the order is free. Critical steps are solid, a wait is as long as its sign, an optional step is dashed.',
        fontSize: 7.5,
        color: QUIET,
        margin: [0, 0, 0, 8],
      },
      { columns: [rail('startup', 'Start'), rail('shutdown', 'Stop')], columnGap: 18 },
    ],
  };
}

/** The papers of a class. */
export const classPapers = {
  'finding-cards': findingCards,
  'round-card': roundCard,
  'check-sheet': checkSheet,
  'start-stop': startStopCard,
} as const;
export type ClassPaper = keyof typeof classPapers;
