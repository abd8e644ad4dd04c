import { PROBLEMS, type Problem, type ProblemCode } from '@rounds/contract';

/** An error that the binder turns into problem+json. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(code: ProblemCode, detail: string, errors?: { path: string; message: string }[]) {
    super(detail);
    const { status, title } = PROBLEMS[code];
    this.problem = { type: `urn:rounds:${code}`, title, status, code, detail, ...(errors ? { errors } : {}) };
  }
}
