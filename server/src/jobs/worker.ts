import type { MessagePort } from 'node:worker_threads';
import type { Problem } from '@rounds/contract';
import { ProblemError } from '../http/problem';
import { type Progress, work, type WorkKind } from './work';

/** One piece of work as a worker thread gets it. `port` takes its progress. */
export interface Task {
  kind: WorkKind;
  input: unknown;
  port: MessagePort | null;
}

/** How a piece of work came out; a refusal crosses the threads as its problem. */
export type Result = { value: unknown } | { problem: Problem };

/** The entry point of a worker thread. */
export default async function carryOut({ kind, input, port }: Task): Promise<Result> {
  const progress: Progress = (done, total) => port?.postMessage({ done, total });
  try {
    return { value: await (work[kind] as (input: unknown, progress: Progress) => unknown)(input, progress) };
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  } finally {
    port?.close();
  }
}
