import type { RouteInput, routes } from '@rounds/contract';
import { appraise, foldEvaluation } from '@rounds/core/evaluation';
import { eq } from 'drizzle-orm';
import type { Request } from 'express';
import { type Caller, maySee } from '../accounts/access';
import { effectivePackOf } from '../classes/packs';
import { type House, note } from '../data/context';
import { certificate, person } from '../data/schema';
import { ProblemError } from '../http/problem';
import { evaluationOr404, seesKey } from './access';
import { cardSubject, reportSubject } from './papers';
import { eventsOf } from './stream';

type Asked = RouteInput<typeof routes.appraisal>;
type CardInput = RouteInput<typeof routes.card>;

function undecided(): ProblemError {
  return new ProblemError(
    'not-decided',
    'This evaluation is not decided yet. What was found is shown once it is.',
  );
}

/** The server's own appraisal, once it may be seen. */
export async function appraisalOf(house: House, params: Asked['params'], caller: Caller) {
  const row = await evaluationOr404(house, caller, params.id);
  if (!seesKey(caller, row)) throw undecided();
  const result = appraise(
    await effectivePackOf(house.db, row.packHash),
    foldEvaluation(await eventsOf(house.db, row.id)),
    row.earlierStarts,
  );
  return { score: result.score, outcome: result.outcome, reasons: result.reasons };
}

/** The report of an evaluation as PDF. */
export async function reportFile(house: House, params: Asked['params'], caller: Caller, gone: AbortSignal) {
  const row = await evaluationOr404(house, caller, params.id);
  if (!seesKey(caller, row)) throw undecided();
  const file = await house.pool.run('report', await reportSubject(house, row), { gone });
  await note(house.db, caller, 'report-printed', row.id);
  return { file, name: `evaluation-${row.id.slice(-8)}.pdf` };
}

/** A wallet card as PDF. */
export async function cardFile(
  house: House,
  params: CardInput['params'],
  caller: Caller,
  request: Request,
  gone: AbortSignal,
) {
  const [row] = await house.db
    .select({ c: certificate, team: person.team })
    .from(certificate)
    .innerJoin(person, eq(person.id, certificate.personId))
    .where(eq(certificate.token, params.token));
  if (!row || !maySee(caller, { id: row.c.personId, team: row.team }))
    throw new ProblemError('not-found', 'There is no such card, or you may not see it.');
  const base = house.publicUrl ?? `${request.protocol}://${request.get('host') ?? 'localhost'}`;
  const file = await house.pool.run('card', await cardSubject(house, row.c, base), { gone });
  await note(house.db, caller, 'card-printed', row.c.personId, { classId: row.c.classId });
  return { file, name: `card-${row.c.token.slice(0, 6)}.pdf` };
}
