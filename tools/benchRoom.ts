import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import {
  type ExercisePhone,
  type ExerciseReport,
  type ExerciseView,
  type PreparedFinding,
  routes,
} from '@rounds/contract';
import { GRADES } from '@rounds/core/catalogue';
import { seededRandom } from '@rounds/core/statistics';
import { v7 as uuidv7 } from 'uuid';
import { DEMO_PASSWORD } from '../server/src/index';
import { Caller, FORKLIFT } from '../server/src/tests/desk';
import { quantile, startBuilt } from './benchServer';

/** A class exercise on the built server: thirty phones, five of which go away and come back in the middle. */
const PHONES = 30;
const FINDINGS = 8;
/** Everybody taps within so many milliseconds of the finding. */
const WITHIN = 600;

/** Hears an event stream until it is stopped; `at` is when each answer of a participant was told. */
async function hear(by: Caller, id: string, tell: (event: { kind: string; participant?: string }) => void) {
  const gone = new AbortController();
  const answer = await fetch(`${by.address}/api/exercises/${id}/following`, {
    headers: { cookie: by.cookie },
    signal: gone.signal,
  });
  void (async () => {
    let waiting = '';
    try {
      for await (const chunk of answer.body!.pipeThrough(new TextDecoderStream())) {
        waiting += chunk;
        const blocks = waiting.split('\n\n');
        waiting = blocks.pop()!;
        for (const block of blocks) {
          const data = /^data: (\{.*"kind".*\})$/m.exec(block)?.[1];
          if (data) tell(JSON.parse(data) as { kind: string; participant?: string });
        }
      }
    } catch {
      // It was stopped.
    }
  })();
  return () => gone.abort();
}

export async function benchRoom(
  row: (what: string, figure: string, baseline?: string) => void,
): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'rounds-room-'));
  const server = await startBuilt(data);
  try {
    const trainer = await new Caller(server.address).signIn('hilda', DEMO_PASSWORD);
    const about = { classId: FORKLIFT, variant: 'diesel', site: null };
    const { findings } = (
      await trainer.call(routes.proposeFindings, {
        body: { ...about, form: 'all', system: 'si', size: FINDINGS, seed: 5 },
      })
    ).body as { findings: PreparedFinding[] };
    const id = uuidv7();
    const room = (
      await trainer.call(routes.startExercise, {
        body: { id, title: 'Thirty phones', ...about, cases: findings.map((each) => each.case) },
      })
    ).body as ExerciseView;
    const joined = performance.now();
    const phones = await Promise.all(
      Array.from({ length: PHONES }, async (_, i) => {
        const by = new Caller(server.address);
        await by.call(routes.joinExercise, { body: { code: room.code!, name: `Person ${i + 1}` } });
        return { by, stop: await hear(by, id, () => {}) };
      }),
    );
    const joining = performance.now() - joined;
    const places = ((await trainer.call(routes.exercise, { params: { id } })).body as ExerciseView)
      .participants;
    const told = new Map<string, number>();
    const stop = await hear(trainer, id, ({ kind, participant }) => {
      if (kind === 'answered') told.set(participant!, performance.now());
    });
    const random = seededRandom(3);
    const delays: number[] = [];
    const counted: number[] = [];
    const empty: number[] = [];
    for (let n = 0; n < FINDINGS; n++) {
      await trainer.call(routes.moveExercise, { params: { id }, body: { show: n } });
      told.clear();
      if (n === FINDINGS / 2)
        for (const phone of phones.slice(0, 5)) {
          // A phone that is killed: its stream is gone, and what it comes back with is its cookie.
          phone.stop();
          const again = new Caller(server.address);
          again.cookie = phone.by.cookie;
          phone.by = again;
          phone.stop = await hear(again, id, () => {});
        }
      const tapped = new Map<number, number>();
      await Promise.all(
        phones.map(async ({ by }, i) => {
          await pause(WITHIN * random());
          tapped.set(i, performance.now());
          await by.call(routes.answerExercise, {
            params: { id },
            body: { n, grade: GRADES[(i + n) % 4]! },
          });
        }),
      );
      const answeredAt = performance.now();
      while (told.size < PHONES && performance.now() - answeredAt < 5000) await pause(2);
      const order = places.map((each) => each.name);
      for (const [i, at] of tapped) {
        const place = places[order.indexOf(`Person ${i + 1}`)]!;
        delays.push((told.get(place.id) ?? Infinity) - at);
      }
      counted.push(Math.max(...told.values()) - Math.max(...tapped.values()));
      for (let k = 0; k < 20; k++) {
        const began = performance.now();
        await (await fetch(`${server.address}/healthz`)).arrayBuffer();
        empty.push(performance.now() - began);
      }
      await trainer.call(routes.moveExercise, { params: { id }, body: { reveal: true } });
    }
    const report = (await trainer.call(routes.exerciseReport, { params: { id } })).body as ExerciseReport;
    const kept = report.people.reduce((sum, each) => sum + each.summary.n, 0);
    const back = (await phones[0]!.by.call(routes.exercisePhone, { params: { id } })).body as ExercisePhone;
    row(`room: ${PHONES} phones join at once`, `${Math.round(joining)} ms`);
    row(
      'room: from a tap to the trainer, median and 95th percentile',
      `${Math.round(quantile(delays, 0.5))} / ${Math.round(quantile(delays, 0.95))} ms`,
      `empty endpoint ${quantile(empty, 0.5).toFixed(1)} / ${quantile(empty, 0.95).toFixed(1)} ms; limit 1000 ms`,
    );
    row('room: from the last tap to the full count, slowest', `${Math.round(Math.max(...counted))} ms`);
    row(
      'room: answers kept, five phones killed in the middle',
      `${kept} of ${PHONES * FINDINGS}`,
      `the first of them is at finding ${back.n! + 1} with its answer ${back.mine}`,
    );
    stop();
    phones.forEach((each) => each.stop());
  } finally {
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
