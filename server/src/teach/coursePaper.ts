import { courseScale, courseSvg } from '@rounds/core/drawing';
import type { Course, MachineSize } from '@rounds/core/teaching';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';
import type { PaperSubject } from '../classes/paperDocuments';
import { CAUTION, QUIET } from '../print/pdf';

export interface CoursePaperSubject {
  subject: PaperSubject;
  course: Course;
  size: MachineSize;
}

/** What the drawing may take of an A4 sheet, in points. */
const PAPER = { width: 515, height: 500 };

/** A course to be set out, A4: what is driven, the drawing to scale, and what to bring and measure. */
export function courseDocument({ subject, course, size }: CoursePaperSubject): TDocumentDefinitions {
  const { pack, organisation, printed, site } = subject;
  const { scale, width } = courseScale(course, PAPER);
  return {
    info: { title: `${course.title}: ${pack.title}` },
    pageSize: 'A4',
    pageMargins: [40, 36, 40, 40],
    footer: (page: number, pages: number) => ({
      columns: [
        { text: `${pack.title}, revision ${pack.revision}, ${printed}`, fontSize: 7, color: QUIET },
        { text: `${page}/${pages}`, fontSize: 7, alignment: 'right', width: 40, color: QUIET },
      ],
      margin: [40, 10, 40, 0],
    }),
    content: [
      { text: `${course.title}, ${pack.title.toLowerCase()}`, bold: true, fontSize: 17 },
      {
        text:
          `For a machine ${size.length} m long and ${size.width} m wide that turns within ${size.turns} m. ` +
          `1:${scale} when it is printed at full size. ${organisation}${site ? `, ${site}` : ''}. ${CAUTION}`,
        color: QUIET,
        margin: [0, 2, 0, 4],
      },
      { text: course.says, margin: [0, 0, 0, 6] },
      { svg: courseSvg(course, pack.plan.outlines, { width }), width, alignment: 'center' },
      {
        unbreakable: true,
        margin: [0, 8, 0, 0],
        stack: [
          { text: 'What to set out', bold: true, fontSize: 12, margin: [0, 0, 0, 3] },
          { ul: [...course.setOut] },
          {
            text: 'Clearances are common practice; the turn is from memory unless it was measured. Whoever teaches on the ground decides.',
            fontSize: 8,
            color: QUIET,
            margin: [0, 4, 0, 0],
          },
        ],
      },
    ],
  };
}
