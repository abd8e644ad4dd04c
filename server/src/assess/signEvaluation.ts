import type { RouteInput, routes } from '@rounds/contract';
import type { EvaluationEvent } from '@rounds/core/evaluation';
import type { Request } from 'express';
import type { Caller } from '../accounts/access';
import { proveAccount } from '../accounts/proof';
import type { House } from '../data/context';
import type { account } from '../data/schema';
import { ProblemError } from '../http/problem';
import { evaluationOr404, personName, refuseOwn } from './access';
import { noted } from './openEvaluation';
import { appendToEvaluation } from './stream';

type Asked = RouteInput<typeof routes.signByName>;
type AgreeInput = RouteInput<typeof routes.agree>;

const sameName = (one: string, other: string) =>
  one.normalize('NFKC').trim().toLowerCase() === other.normalize('NFKC').trim().toLowerCase();

function callerOfAccount(row: typeof account.$inferSelect): Caller {
  const { id, name, login, team, personId, active } = row;
  return { id, name, login, role: row.role as Caller['role'], team, personId, active };
}

/** Signs with full name and password. Throws the wrong-signer problem. */
export async function signByName(
  house: House,
  params: Asked['params'],
  body: Asked['body'],
  caller: Caller,
  request: Request,
) {
  const row = await evaluationOr404(house, caller, params.id);
  refuseOwn(caller, row);
  const signer = await proveAccount(house, request, body.login, body.password, `sign as ${body.role}`);
  const wrong = (why: string) => new ProblemError('wrong-signer', `${why} Nothing was signed.`);
  const expected = body.role === 'trainer' ? caller.name : await personName(house.db, row.personId);
  if (body.role === 'trainer' && signer.id !== caller.id)
    throw wrong(`${caller.name} is signed in and signs as the trainer.`);
  if (body.role === 'operator' && signer.personId !== row.personId)
    throw wrong(`${expected} was evaluated and signs with their own account.`);
  if (!sameName(body.name, expected)) throw wrong(`The full name here is "${expected}".`);
  const event: EvaluationEvent = {
    id: body.id,
    at: house.now().toISOString(),
    body: { kind: 'signed-by-name', role: body.role, name: expected },
  };
  // The operator's account signs, on a device that the trainer holds.
  await appendToEvaluation(house, body.role === 'trainer' ? caller : callerOfAccount(signer), row, 'server', [
    event,
  ]);
  return noted(house, caller, row, [body.id]);
}

/** A second account agrees to an outcome. Throws the wrong-signer problem. */
export async function agreeToOutcome(
  house: House,
  params: AgreeInput['params'],
  body: AgreeInput['body'],
  caller: Caller,
  request: Request,
) {
  const row = await evaluationOr404(house, caller, params.id);
  refuseOwn(caller, row);
  const second = callerOfAccount(
    await proveAccount(house, request, body.login, body.password, 'agree to an outcome'),
  );
  const wrong = (why: string) => new ProblemError('wrong-signer', `${why} Nothing was recorded.`);
  if (second.role !== 'trainer' && second.role !== 'administrator')
    throw wrong(`${second.name} is no trainer; another trainer or an administrator agrees.`);
  if (second.personId === row.personId)
    throw wrong('The person evaluated cannot agree to their own outcome.');
  if (second.id === caller.id) throw wrong('The agreement is that of a second account; you decide yourself.');
  const event: EvaluationEvent = {
    id: body.id,
    at: house.now().toISOString(),
    body: { kind: 'agreed', outcome: body.outcome, words: body.words },
  };
  await appendToEvaluation(house, second, row, 'server', [event]);
  return noted(house, caller, row, [body.id]);
}
