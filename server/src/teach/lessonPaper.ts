import { type EffectivePack, givesFigures, METHOD_WORDS } from '@rounds/core/catalogue';
import { gradeDiscSvg } from '@rounds/core/drawing';
import { drawEvidence, evidenceSvg } from '@rounds/core/drawing/evidence';
import { GRADE_WORDS } from '@rounds/core/grading';
import { type LessonPlan, lessonSeconds, type LessonSlide, lessonSlides } from '@rounds/core/teaching';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { CAUTION, INK, QUIET } from '../print/pdf';

export interface LessonPaperSubject {
  title: string;
  pack: EffectivePack;
  plan: LessonPlan;
  organisation: string;
  printed: string;
}

/** Lines for the names of those who attend. */
const NAMES = 14;
/** Width of a drawing, in points. */
const PICTURE = 62;
type Four = [number, number, number, number];

/** The drawings of a slide, each once. */
function drawings(slide: LessonSlide): string[] {
  const found = slide.senses.flatMap(({ method, drawing }) => {
    const drawn = drawing && drawEvidence(drawing, { figures: givesFigures(method) });
    return drawn ? [evidenceSvg(drawn, undefined, PICTURE)] : [];
  });
  return [...new Set(found)].slice(0, 2);
}

function thing(slide: LessonSlide): Content {
  if (slide.item.kind === 'station')
    return {
      text: slide.heading,
      bold: true,
      fontSize: 12,
      margin: [0, 8, 0, 2],
      headlineLevel: 1,
    };
  const deep = slide.item.kind === 'fault' ? 14 : 0;
  return {
    margin: [deep, 3, 0, 3],
    unbreakable: true,
    columns: [
      {
        width: '*',
        stack: [
          ...(slide.band.length > 0
            ? [{ text: `First: ${slide.band.join('; ')}`, bold: true, decoration: 'underline' as const }]
            : []),
          {
            columns: [
              ...(slide.grade ? [{ svg: gradeDiscSvg(slide.grade, 11), width: 15 }] : []),
              {
                text: [
                  { text: slide.heading, bold: true },
                  slide.grade ? { text: `  ${GRADE_WORDS[slide.grade]}`, color: QUIET } : '',
                ],
              },
            ],
          },
          ...slide.senses.map(({ method, shows }): Content => ({
            text: [{ text: `${METHOD_WORDS[method]}: `, color: QUIET }, shows],
          })),
          ...(slide.sentence ? [{ text: slide.sentence }] : []),
          ...slide.notes
            .filter((each) =>
              ['Why', 'Time', 'If not', 'Here', 'Elsewhere', 'Show it by'].includes(each.label),
            )
            .map((each): Content => ({
              text: [{ text: `${each.label}: `, color: QUIET }, each.text],
              fontSize: 8.5,
            })),
          ...(slide.ask
            ? [{ text: [{ text: 'Ask: ', color: QUIET }, slide.ask.question], italics: true, fontSize: 8.5 }]
            : []),
        ],
      },
      ...drawings(slide).map((svg) => ({ svg, width: PICTURE + 6, margin: [6, 0, 0, 0] as Four })),
    ],
  };
}

/** A kept lesson, A4: what to show and say in order, with its drawings, and who attended. */
export function lessonDocument({
  title,
  pack,
  plan,
  organisation,
  printed,
}: LessonPaperSubject): TDocumentDefinitions {
  const slides = lessonSlides(pack, plan);
  const minutes = Math.round(lessonSeconds(slides) / 60);
  return {
    info: { title: `Lesson: ${title}` },
    pageSize: 'A4',
    pageMargins: [40, 36, 40, 40],
    footer: (page: number, pages: number) => ({
      columns: [
        { text: `${title}. ${pack.title}, revision ${pack.revision}, ${printed}`, fontSize: 7, color: QUIET },
        { text: `${page}/${pages}`, fontSize: 7, alignment: 'right', width: 40, color: QUIET },
      ],
      margin: [40, 10, 40, 0],
    }),
    // The name of a station never stands alone at the foot of a page.
    pageBreakBefore: (node, nodes) =>
      node.headlineLevel === 1 && nodes.getFollowingNodesOnPage().length === 0,
    content: [
      { text: title, bold: true, fontSize: 17 },
      {
        text: `${pack.title}, ${slides.length} things, about ${minutes} min. ${organisation}. ${CAUTION}`,
        color: QUIET,
        margin: [0, 2, 0, 6],
      },
      ...slides.map(thing),
      {
        unbreakable: true,
        margin: [0, 14, 0, 0],
        stack: [
          { text: 'Who attended', bold: true, fontSize: 12, margin: [0, 0, 0, 4] },
          {
            table: {
              widths: ['*', '*', 90],
              body: [
                ['Name', 'Signature', 'Date'].map((each) => ({ text: each, fontSize: 8, color: QUIET })),
                ...Array.from({ length: NAMES }, () => [{ text: ' ', margin: [0, 3, 0, 3] as Four }, '', '']),
              ],
            },
            layout: {
              hLineWidth: () => 0.5,
              vLineWidth: () => 0,
              hLineColor: () => INK,
            },
          },
        ],
      },
    ],
  };
}
