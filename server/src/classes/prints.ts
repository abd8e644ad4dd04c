import { routes } from '@rounds/contract';
import { longDate } from '@rounds/core/calendar';
import { courseFor, machineSize } from '@rounds/core/teaching';
import { eq } from 'drizzle-orm';
import type { Router } from 'express';
import { type House, readSetting, siteToday } from '../data/context';
import { unit } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { composeOrProblem, packOrProblem } from './packs';
import type { ClassPaper, PaperSubject } from './paperDocuments';
import { siteTerms } from './policy';

interface PaperAsked {
  variant?: string | undefined;
  features?: string | undefined;
  site?: string | undefined;
  unit?: string | undefined;
}

async function subjectOf(house: House, classId: string, asked: PaperAsked): Promise<PaperSubject> {
  const pack = await packOrProblem(house.db, classId);
  const [machine] = asked.unit ? await house.db.select().from(unit).where(eq(unit.id, asked.unit)) : [];
  if (asked.unit && machine?.classId !== classId)
    throw new ProblemError('not-found', 'There is no such machine in this class.');
  const site = asked.site ?? machine?.site ?? '';
  let features: Record<string, string> = machine?.features ?? {};
  if (asked.features) {
    try {
      const given = JSON.parse(asked.features) as unknown;
      features = Object.fromEntries(
        Object.entries(given as Record<string, unknown>).map(([key, value]) => [key, String(value)]),
      );
    } catch {
      throw new ProblemError(
        'invalid',
        'The fit-out in the address cannot be read. Open the paper from the class page again.',
      );
    }
  }
  const effective = composeOrProblem(pack, {
    variant: asked.variant ?? machine?.variant ?? pack.variants[0]!.id,
    features,
    ...(await siteTerms(house.db, pack, site, await siteToday(house))),
  });
  return {
    pack: effective,
    machine: machine?.name ?? '',
    site,
    organisation: await readSetting<string>(house.db, 'organisation', 'Rounds'),
    printed: longDate(await siteToday(house)),
  };
}

/** Routes of printed papers. */
export function printRoutes(router: Router, house: House): void {
  const print = (
    route:
      | typeof routes.findingCards
      | typeof routes.roundCard
      | typeof routes.checkSheet
      | typeof routes.startStopCard,
    paper: ClassPaper,
  ) =>
    bind(router, house, route, async ({ params, query, gone }) => ({
      file: await house.pool.run(
        'classPaper',
        { paper, subject: await subjectOf(house, params.id, query) },
        { gone },
      ),
      name: `${params.id}-${paper}.pdf`,
    }));
  bind(router, house, routes.coursePaper, async ({ params, query, gone }) => {
    const subject = await subjectOf(house, params.id, query);
    const { plan, teaching } = subject.pack;
    if (!teaching.course)
      throw new ProblemError('not-found', 'Nothing is set out for a machine that does not drive.');
    const usual = machineSize(plan, teaching.course.turns);
    const size = {
      length: query.length ?? usual.length,
      width: query.width ?? usual.width,
      turns: query.turns ?? usual.turns,
    };
    try {
      const course = courseFor(query.layout, size);
      return {
        file: await house.pool.run('course', { subject, course, size }, { gone }),
        name: `${params.id}-${query.layout}.pdf`,
      };
    } catch (error) {
      if (error instanceof RangeError)
        throw new ProblemError('invalid', `No course comes of this size: ${error.message}.`);
      throw error;
    }
  });
  print(routes.findingCards, 'finding-cards');
  print(routes.roundCard, 'round-card');
  print(routes.checkSheet, 'check-sheet');
  print(routes.startStopCard, 'start-stop');
}
