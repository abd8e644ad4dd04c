import { proceduresOf } from '@rounds/core/evaluation';
import { beforeEach, describe, expect, it } from 'vitest';
import { EVALUATION, forklift, keptEvaluation } from '../testing/evaluation';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
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
    document.querySelector<HTMLElement>('.lifts input')!.click();
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
