import type { RouteInput, routes } from '@rounds/contract';
import type { Caller } from '../accounts/access';
import type { House } from '../data/context';
import { ProblemError } from '../http/problem';
import { evaluationOr404, refuseOwn } from './access';
import { noted } from './openEvaluation';
import { appendToEvaluation } from './stream';

type Asked = RouteInput<typeof routes.appendEvents>;

/** Adds what a device recorded, as the account that made it. */
export async function recordTaps(house: House, params: Asked['params'], body: Asked['body'], caller: Caller) {
  if (body.as !== undefined && body.as !== caller.id)
    throw new ProblemError(
      'wrong-account',
      'These taps belong to another account than the one signed in. They are kept on the ' +
        'device until their owner signs in.',
    );
  const row = await evaluationOr404(house, caller, params.id);
  refuseOwn(caller, row);
  await appendToEvaluation(house, caller, row, { device: body.device }, body.events);
  return noted(
    house,
    caller,
    row,
    body.events.map((each) => each.id),
  );
}
