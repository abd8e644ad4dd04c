import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { MessageChannel, receiveMessageOnPort } from 'node:worker_threads';
import type { ProblemCode } from '@rounds/contract';
import { Piscina } from 'piscina';
import { ProblemError } from '../http/problem';
import type { Work, WorkKind } from './work';
import type { Result, Task } from './worker';

/** Longest that one piece of work may take, in seconds; what takes longer was made to. */
const LONGEST_SECONDS = 20;
/** Progress is told at most this often, in milliseconds. */
const TELL_EVERY = 150;
/** Pieces of work that may wait for a thread. */
const LONGEST_QUEUE = 60;

/**
 * A piece of work under a name, so that its progress can be asked for and it can be cancelled by who
 * started it.
 */
export interface NamedJob {
  id: string;
  accountId: string;
}

interface Options {
  /** Aborts when whoever asked has gone. */
  gone?: AbortSignal;
  job?: NamedJob | undefined;
}

/** How far a piece of work is. */
export interface Progress {
  done: number;
  total: number;
}

/** The topic under which the progress of an account's work is told. */
export const progressTopic = (accountId: string, job: string) => `progress ${accountId} ${job}`;

/** Worker threads for what would hold up other requests. */
export interface Pool {
  /**
   * Carries a piece of work out. Throws what the work throws as a ProblemError, and the busy, too-heavy and
   * cancelled problems.
   */
  run<K extends WorkKind>(
    kind: K,
    input: Parameters<Work[K]>[0],
    options?: Options,
  ): Promise<Awaited<ReturnType<Work[K]>>>;
  /** Cancels a named piece of work. False where there is none of this account. */
  cancel(id: string, accountId: string): boolean;
  close(): Promise<void>;
}

/** The built worker: beside the built server, or built for tests that run from source. */
function workerFile(): string {
  const here = import.meta.dirname;
  return here.endsWith('dist') ? join(here, 'worker.js') : join(here, '..', '..', 'dist', 'worker.js');
}

/**
 * A pool that leaves one core to answering requests. Threads start when there is work and end when there
 * has been none for a minute.
 */
export function openPool(tell: (job: NamedJob, progress: Progress) => void = () => undefined): Pool {
  let threads: Piscina | null = null;
  const pool = () =>
    (threads ??= new Piscina({
      filename: workerFile(),
      minThreads: 0,
      maxThreads: Math.max(1, availableParallelism() - 1),
      idleTimeout: 60_000,
      maxQueue: LONGEST_QUEUE,
      resourceLimits: { maxOldGenerationSizeMb: 512 },
    }));
  const named = new Map<string, NamedJob & { stop: AbortController }>();

  async function run<K extends WorkKind>(
    kind: K,
    input: Parameters<Work[K]>[0],
    { gone, job }: Options = {},
  ): Promise<Awaited<ReturnType<Work[K]>>> {
    const stop = new AbortController();
    const late = AbortSignal.timeout(LONGEST_SECONDS * 1000);
    const signal = AbortSignal.any([stop.signal, late, ...(gone ? [gone] : [])]);
    const channel = job ? new MessageChannel() : null;
    let next = 0;
    const hear = (told: Progress) => {
      if (!job || (performance.now() < next && told.done < told.total)) return;
      next = performance.now() + TELL_EVERY;
      tell(job, told);
    };
    if (job && channel) {
      named.set(job.id, { ...job, stop });
      channel.port1.on('message', hear);
      channel.port1.unref();
    }
    try {
      const task: Task = { kind, input, port: channel?.port2 ?? null };
      const result = (await pool().run(task, {
        signal,
        ...(channel ? { transferList: [channel.port2] } : {}),
      })) as Result;
      if ('problem' in result)
        throw new ProblemError(
          result.problem.code as ProblemCode,
          result.problem.detail,
          result.problem.errors,
        );
      const { value } = result;
      return (
        value instanceof Uint8Array ? Buffer.from(value.buffer, value.byteOffset, value.byteLength) : value
      ) as Awaited<ReturnType<Work[K]>>;
    } catch (error) {
      throw refusal(error, { late: late.aborted, stopped: stop.signal.aborted || (gone?.aborted ?? false) });
    } finally {
      if (channel) {
        // The result may overtake what was told on the way to it.
        for (let told; (told = receiveMessageOnPort(channel.port1));) hear(told.message as Progress);
        channel.port1.close();
      }
      if (job) named.delete(job.id);
    }
  }

  const of = (id: string, accountId: string) => {
    const job = named.get(id);
    return job?.accountId === accountId ? job : null;
  };
  return {
    run,
    cancel(id, accountId) {
      const job = of(id, accountId);
      job?.stop.abort();
      return job !== null;
    },
    async close() {
      await threads?.destroy();
      threads = null;
    },
  };
}

function refusal(error: unknown, ended: { late: boolean; stopped: boolean }): unknown {
  if (error instanceof ProblemError) return error;
  if (ended.stopped) return new ProblemError('cancelled', 'This was cancelled. Nothing was saved.');
  const code = (error as { code?: string }).code;
  if (ended.late || code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new ProblemError(
      'too-heavy',
      'This is too much to be read in one piece and was given up. Nothing was saved. Send ' +
        'less of it at a time.',
    );
  if (error instanceof Error && /queue/i.test(error.message))
    return new ProblemError(
      'busy',
      'The server has too much to do just now. Nothing was saved; try again in a moment.',
    );
  return error;
}
