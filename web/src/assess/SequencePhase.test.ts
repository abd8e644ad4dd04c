import { assessRoutes } from '@rounds/contract/assess';
import { proceduresOf } from '@rounds/core/evaluation';
import { beforeEach, describe, expect, it } from 'vitest';
import { EVALUATION, forklift, keptEvaluation } from '../testing/evaluation';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, eventually, settled, show, text, the, type } from '../testing/mount';
import EvaluationScreen from './EvaluationScreen.vue';

let server: FakeServer;
beforeEach(() => {
  indexedDB.deleteDatabase('rounds');
  server = fakeServer();
});
const open = (part: string) =>
  show(EvaluationScreen, { path: '/assess/:id', at: `/assess/${EVALUATION}?part=${part}` });
const kinds = (kept: ReturnType<typeof keptEvaluation>) => kept.bodies().map((each) => each.kind);
const tokenNames = () =>
  [...document.querySelectorAll('[aria-label="Next acts"] button .do')].map((each) => each.textContent);
async function stampFirst(): Promise<void> {
  const [first] = document.querySelectorAll<HTMLElement>('[aria-label="Next acts"] button');
  first!.click();
  await settled();
  await settled();
}

describe('start and stop in an evaluation', () => {
  it('proposes the procedures that the sheet asks for, and records acts as they are tapped', async () => {
    const kept = keptEvaluation(server);
    await open('stop');
    await click('button', /^Begin: stamp/);
    await eventually(() => expect(tokenNames().length).toBeGreaterThan(0));
    const [first] = tokenNames();
    await stampFirst();
    await eventually(() => expect(tokenNames()[0]).not.toBe(first));
    await eventually(() => expect(kinds(kept)).toEqual(['sequence-started', 'act']));
    expect(kept.bodies()[0]).toMatchObject({ procedures: proceduresOf(forklift, 'stop'), part: 'stop' });
    expect(kept.bodies()[1]).toMatchObject({ ticks: { s: expect.any(Number) as number } });
  });

  it('marks the last act, takes the mark off, and takes the act back', async () => {
    const kept = keptEvaluation(server);
    await open('stop');
    await click('button', /^Begin: stamp/);
    await eventually(() => expect(tokenNames().length).toBeGreaterThan(0));
    await stampFirst();
    await click('button', 'Prompted');
    await eventually(() => expect(the('button', 'Prompted').getAttribute('aria-pressed')).toBe('true'));
    await click('button', 'Prompted');
    await eventually(() => expect(the('button', 'Prompted').getAttribute('aria-pressed')).toBe('false'));
    await click('button', 'Undo');
    await eventually(() =>
      expect(kinds(kept)).toEqual(['sequence-started', 'act', 'act-marked', 'act-marked', 'undone']),
    );
  });

  it('records a broken rule, a condition of the day with what it lifts, and a note', async () => {
    const kept = keptEvaluation(server);
    await open('start');
    await click('button', /^Begin: stamp/);
    await eventually(() => expect(tokenNames().length).toBeGreaterThan(0));
    await click('button', 'Rule broken');
    document.querySelector<HTMLElement>('[aria-label="Rules"] button')!.click();
    await settled();
    await click('button', 'Condition');
    expect(the('button', 'State the condition').hasAttribute('disabled')).toBe(true);
    await click('button', 'Engine still warm');
    document.querySelector<HTMLElement>('.check-list input')!.click();
    await settled();
    await click('button', 'State the condition');
    await click('button', 'Note');
    await type('Note', 'windy');
    await click('button', 'Keep the note');
    await eventually(() =>
      expect(kinds(kept)).toEqual(['sequence-started', 'rule-broken', 'day-condition', 'noted']),
    );
    expect(kept.bodies()[2]).toMatchObject({ says: 'Engine still warm' });
  });

  it('ends with the words of the judge, critical flaws first', async () => {
    keptEvaluation(server);
    await open('stop');
    await click('button', /^Begin: stamp/);
    await eventually(() => expect(tokenNames().length).toBeGreaterThan(0));
    await click('button', 'It is over');
    await eventually(() => expect(text()).toMatch(/critical flaws/));
    const said = [...document.querySelectorAll('.words li')].map((each) => each.textContent!.trim());
    expect(said[0]).toMatch(/^Left out: /);
    expect(said.at(-1)).toBe('Everything else in order.');
    expect(all('button', 'Stamp another')).toHaveLength(1);
  });
});

describe('a practice of start and stop', () => {
  it('is no evaluation: it has no parts, sheet or decision', async () => {
    keptEvaluation(server, [], 'practice');
    await open('');
    expect(text()).toContain('Practice of start and stop');
    expect(all('tab')).toHaveLength(0);
    await click('button', /^Begin: stamp/);
    await eventually(() => expect(tokenNames().length).toBeGreaterThan(0));
  });

  it('takes a trace from a file, and says what was odd in it or why it cannot be read', async () => {
    keptEvaluation(server, [], 'practice');
    const sent: { format: string }[] = [];
    let answer: () => unknown = () => {
      throw new Refusal('trace-unreadable', 'There is no act in this file. Nothing was recorded.');
    };
    server.answer(assessRoutes.importTrace, ({ body }) => {
      sent.push(body as { format: string });
      return answer() as never;
    });
    await open('');
    const give = async (name: string) => {
      const input = document.querySelector<HTMLInputElement>('input[type="file"]')!;
      Object.defineProperty(input, 'files', { value: [new File(['token,at'], name)], configurable: true });
      input.dispatchEvent(new Event('change', { bubbles: true }));
      await settled();
    };
    await give('trace.csv');
    await eventually(() => expect(text()).toContain('There is no act in this file.'));
    answer = () => ({ accepted: [], summary: {}, certificate: null, remarks: [] });
    await give('trace.xes');
    await eventually(() => expect(sent.map((each) => each.format)).toEqual(['csv', 'xes']));
  });
});
