import { RAIL_ON_PAPER, railLayout, railSvg } from '@rounds/core/drawing';
import type { JudgedSequence } from '@rounds/core/evaluation';
import { judgementWords, momentWords, tellsCriticalFlaw } from '@rounds/core/procedure';
import type { Content } from 'pdfmake/interfaces';
import { INK, QUIET } from '../print/pdf';

/** Width of the rail in units of its drawing, and in points on the page. */
const UNITS = 560;
const POINTS = 400;

/** What the judge says of a session, for paper: the score, the sentences, then the rail with what was stamped. */
export function sequenceContent({ sequence, judgement }: JudgedSequence): Content[] {
  const { trace } = sequence;
  const titles = judgement.session.procedures.map((each) => each.title).join(', ');
  const layout = railLayout(judgement.session, UNITS, judgement);
  const words = judgementWords(judgement, trace);
  return [
    {
      stack: [
        {
          columns: [
            { text: titles, bold: true, fontSize: 10.5 },
            {
              width: 70,
              text: judgement.score === null ? '' : `${Math.round(judgement.score)} %`,
              bold: true,
              alignment: 'right',
            },
          ],
          margin: [0, 4, 0, 2],
        },
        ...words.map((each): Content => ({
          text: `${tellsCriticalFlaw(each) ? '!  ' : '•  '}${each.says}`,
          bold: tellsCriticalFlaw(each),
          color: each.kind === 'note' ? QUIET : INK,
          margin: [0, 0.5, 0, 0.5],
        })),
      ],
      unbreakable: words.length < 15,
    },
    {
      svg: railSvg(layout, RAIL_ON_PAPER, (act) => momentWords(trace.events[act - 1]?.at ?? 0)),
      width: POINTS,
      margin: [0, 6, 0, 8],
    },
  ];
}
