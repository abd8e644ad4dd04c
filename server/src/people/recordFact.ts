import type { RouteInput, routes } from '@rounds/contract';
import { longDate } from '@rounds/core/calendar';
import { type CertificationEventBody, rulesOn, takenOverProblem } from '@rounds/core/certification';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { readRules, standingOf, standingsToday } from '../certification/standings';
import { certificationStream } from '../certification/stream';
import { append } from '../data/append';
import type { House } from '../data/context';
import { machineClass } from '../data/schema';
import { ProblemError } from '../http/problem';
import { personOr404 } from './roster';

type Asked = RouteInput<typeof routes.addCertificationEvent>;

/** Records a dated fact about a person in a class. Throws what refuses it. */
export async function recordFact(house: House, params: Asked['params'], body: Asked['body'], caller: Caller) {
  const row = await personOr404(house, caller, params.id);
  if (caller.personId === row.id)
    throw new ProblemError(
      'own-record',
      'This would be about yourself. Another trainer or supervisor records it.',
    );
  const today = await standingsToday(house);
  if (body.on > today)
    throw new ProblemError(
      'date-in-future',
      `${longDate(body.on)} lies in the future; only what has happened is recorded.`,
    );
  const [known] = await house.db.select().from(machineClass).where(eq(machineClass.id, body.classId));
  if (!known) throw new ProblemError('not-found', `There is no machine class "${body.classId}".`);
  const supervisorMay: readonly CertificationEventBody['kind'][] = ['trigger', 'hours-logged'];
  if (caller.role === 'supervisor' && !supervisorMay.includes(body.body.kind))
    throw new ProblemError(
      'forbidden',
      'A supervisor raises triggers and logs hours; the rest is recorded by a trainer.',
    );
  const signedOnly: readonly CertificationEventBody['kind'][] = ['evaluation-passed', 'evaluation-failed'];
  if (signedOnly.includes(body.body.kind))
    throw new ProblemError(
      'forbidden',
      'An evaluation is recorded by signing it in Assess. An earlier certificate is taken ' +
        'over as "certificate recorded".',
    );
  if (body.body.kind === 'certificate-recorded') {
    const problem = takenOverProblem(
      body.on,
      body.body,
      rulesOn((await readRules(house.db)).of(row.site, body.classId), body.on),
    );
    if (problem)
      throw new ProblemError('invalid', `Nothing was recorded: ${problem}.`, [
        { path: 'body.until', message: problem },
      ]);
  }
  const fact = { id: body.id ?? uuidv7(), on: body.on, body: body.body, evaluationId: null };
  return house.db.transaction(async (db) => {
    await append(db, certificationStream(today), { personId: row.id, classId: body.classId }, [fact], caller);
    return (await standingOf(db, row.id, body.classId, today))!;
  });
}
