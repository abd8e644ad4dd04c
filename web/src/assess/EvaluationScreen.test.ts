import { assessRoutes } from '@rounds/contract/assess';
import {
  checksAt,
  type EvaluationEventBody,
  nextStation,
  proposePlants,
  scoredByTrainer,
  stationsInUse,
} from '@rounds/core/evaluation';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useOutbox } from '../device/useOutbox';
import { EVALUATION, forklift, keptEvaluation } from '../testing/evaluation';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, choose, click, eventually, settled, show, text, the, type } from '../testing/mount';
import EvaluationScreen from './EvaluationScreen.vue';

let server: FakeServer;
beforeEach(async () => {
  indexedDB.deleteDatabase('rounds');
  server = fakeServer();
});
const open = (part = '') =>
  show(EvaluationScreen, { path: '/assess/:id', at: `/assess/${EVALUATION}${part ? `?part=${part}` : ''}` });
const started: EvaluationEventBody = { kind: 'round-started' };
const ended: EvaluationEventBody = { kind: 'round-ended' };
const station = stationsInUse(forklift).find((id) => checksAt(forklift, id).length > 1)!;
const stationName = forklift.plan.stations.find((each) => each.id === station)!.name;
const check = checksAt(forklift, station)[0]!;
const reach = async () => {
  const target = [...document.querySelectorAll<SVGElement>('.ring [role="button"]')].find((each) =>
    each.getAttribute('aria-label')?.includes(stationName),
  )!;
  target.dispatchEvent(new MouseEvent('click', { bubbles: true }));
  await settled();
};
/** A button in the row of the check. */
const inCheck = (name: string) => {
  const row = [...document.querySelectorAll(`[role="group"]`)].find((each) =>
    each.getAttribute('aria-label')?.startsWith(`${check.id} `),
  )!;
  return [...row.querySelectorAll('button')].find((each) => each.textContent!.trim() === name)!;
};
/** A grade of a fault in the panel of what was found. */
const gradeOf = (fault: string, grade: string) =>
  [...document.querySelectorAll<HTMLElement>(`[aria-label="Grade of: ${fault}"] button`)].find((each) =>
    each.textContent!.includes(grade),
  )!;
const isPressed = (button: Element) => button.getAttribute('aria-pressed') === 'true';
async function tap(button: HTMLElement) {
  button.click();
  await settled();
  await settled();
}

describe('the run', () => {
  it('records where the operator goes and what they look at, in order, and takes the last back', async () => {
    const kept = keptEvaluation(server);
    await open();
    await click('button', 'Start the round');
    await reach();
    expect(text()).toContain(`0 of ${checksAt(forklift, station).length}`);
    await tap(inCheck('Done'));
    expect(inCheck('Done').getAttribute('aria-pressed')).toBe('true');
    expect(text()).toContain(`1 of ${checksAt(forklift, station).length}`);
    await tap(the('button', /^Undo/));
    expect(inCheck('Done').getAttribute('aria-pressed')).toBe('false');
    await settled();
    expect(kept.bodies().map((each) => each.kind)).toEqual(['round-started', 'arrived', 'checked', 'undone']);
  });

  it('keeps every quick tap on the screen while it is on its way', async () => {
    const kept = keptEvaluation(server, [started, { kind: 'arrived', station }]);
    await open();
    // A device that reads slowly what it has set aside, out of reach of the server.
    server.goOffline(true);
    const outbox = useOutbox();
    const read = outbox.setAside.bind(outbox);
    vi.spyOn(outbox, 'setAside').mockImplementation(async (stream) => {
      await new Promise((resolve) => setTimeout(resolve, 50));
      return read(stream);
    });
    const here = checksAt(forklift, station).length;
    const ticked = () => all('button', 'Done').filter(isPressed).length;
    const seen: number[] = [];
    const watched = new MutationObserver(() => seen.push(ticked()));
    watched.observe(document.body, { subtree: true, childList: true, attributes: true });
    for (const each of all('button', 'Done').slice(0, here)) {
      each.click();
      await vi.waitFor(() => expect(isPressed(each)).toBe(true), { interval: 1 });
    }
    await eventually(() => expect(text()).toContain(`${here} saved here`));
    server.goOffline(false);
    dispatchEvent(new Event('online'));
    await eventually(() => expect(kept.bodies()).toHaveLength(2 + here));
    await eventually(() => expect(text()).toContain('All on the server'));
    watched.disconnect();
    expect(ticked()).toBe(here);
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
  });

  it('takes a fault with the grade the operator gave, prompted and real as ticked, and forgets the ticks', async () => {
    const kept = keptEvaluation(server, [started, { kind: 'arrived', station }]);
    await open();
    await tap(inCheck('Fault found'));
    await click('button', 'Only after a prompt');
    await click('button', 'Truly on the machine, not planted');
    await tap(gradeOf('Something else at this point', 'Mend'));
    await eventually(() =>
      expect(kept.bodies().at(-1)).toEqual({
        kind: 'reported',
        checkpoint: check.id,
        fault: null,
        grade: 'mend',
        prompted: true,
        real: true,
      }),
    );
    await tap(inCheck('Fault found'));
    expect(the('button', 'Truly on the machine, not planted').getAttribute('aria-pressed')).toBe('false');
  });

  it('goes on to the next station with a tap on one of its checks, once all here are marked', async () => {
    const here = checksAt(forklift, station);
    const marked = here.map((each) => ({ kind: 'checked', checkpoint: each.id, result: 'done' }) as const);
    const kept = keptEvaluation(server, [started, { kind: 'arrived', station }, ...marked.slice(0, -1)]);
    await open();
    expect(text()).not.toContain('a tap here says that the operator is there');
    const last = here.at(-1)!;
    const group = (id: string) =>
      [...document.querySelectorAll('[role="group"]')].find((each) =>
        each.getAttribute('aria-label')?.startsWith(`${id} `),
      )!;
    await tap(group(last.id).querySelector('button')!);
    const then = nextStation(
      forklift,
      { arrivals: [{ station, at: 0 }], checks: [], reports: [], duration: null },
      station,
    )!;
    const [first] = checksAt(forklift, then);
    await tap(group(first!.id).querySelector('button')!);
    await eventually(() =>
      expect(kept.bodies().slice(-2)).toEqual([
        { kind: 'arrived', station: then },
        { kind: 'checked', checkpoint: first!.id, result: 'done' },
      ]),
    );
  });

  it('by exception takes a station as done when it is left, and only exceptions as taps', async () => {
    const kept = keptEvaluation(server);
    await open();
    await click('button', /^By exception/);
    await click('button', 'Start the round');
    await reach();
    expect(text()).toContain(`0 of ${checksAt(forklift, station).length}`);
    expect(inCheck('Done')).toBeUndefined();
    await tap(inCheck('Missed'));
    await tap(inCheck('Done after all'));
    await tap(the('button', 'All done here'));
    expect(text()).toContain(
      `${checksAt(forklift, station).length} of ${checksAt(forklift, station).length}`,
    );
    await tap(the('button', /^Next: /));
    expect(kept.bodies().map((each) => each.kind)).toEqual([
      'round-started',
      'arrived',
      'checked',
      'checked',
      'station-done',
      'arrived',
    ]);
    expect(kept.bodies()[0]).toEqual({ kind: 'round-started', recording: 'by-exception' });
    localStorage.removeItem('rounds-recording');
  });

  it('records nothing before the round is started, and nothing after another device has taken it', async () => {
    const kept = keptEvaluation(server);
    await open();
    await reach();
    expect(inCheck('Done').disabled).toBe(true);
    expect(kept.bodies()).toEqual([]);
  });

  it('is only to look at while another device holds it, and is taken over with a reason', async () => {
    keptEvaluation(server, [started]);
    let mine = false;
    server.answer(assessRoutes.holdEvaluation, ({ body }) =>
      (mine ||= Boolean((body as { takeOver?: string }).takeOver))
        ? { held: true, holder: { name: 'me', device: 'mine', since: '2026-03-02T08:00:00.000Z' } }
        : { held: false, holder: { name: 'Signe', device: 'other', since: '2026-03-02T08:00:00.000Z' } },
    );
    await open();
    expect(text()).toContain('Signe has this evaluation open for writing');
    expect(all('button', 'End the round')).toEqual([]);
    await click('button', 'Take it over');
    await type('Why you take it over', 'her tablet is flat');
    const [, confirm] = all('button', 'Take it over');
    confirm!.click();
    await settled();
    await settled();
    await eventually(() => the('button', 'End the round'));
    const bodies = server.asked(assessRoutes.holdEvaluation).map((each) => each.body);
    expect(bodies).toContainEqual(expect.objectContaining({ takeOver: 'her tablet is flat' }));
    expect(text()).not.toContain('open for writing');
  });

  it('keeps taps without a network, says so, and sends them when it is back', async () => {
    const kept = keptEvaluation(server, [started, { kind: 'arrived', station }]);
    await open();
    server.goOffline(true);
    await tap(inCheck('Missed'));
    expect(inCheck('Missed').getAttribute('aria-pressed')).toBe('true');
    await eventually(() => expect(text()).toMatch(/1 saved here/));
    expect(kept.bodies()).toHaveLength(2);
    server.goOffline(false);
    dispatchEvent(new Event('online'));
    await settled();
    await settled();
    await eventually(() => expect(text()).toContain('All on the server'));
    await eventually(() => expect(kept.bodies().at(-1)).toMatchObject({ kind: 'checked', result: 'missed' }));
  });

  it('says how long the round has taken so that nobody reads the time of day', async () => {
    keptEvaluation(server, [started, ended]);
    await open('round');
    expect(document.querySelector('[role="timer"]')!.textContent).toMatch(/Round took\s*1 s/);
  });
});

describe('planted faults', () => {
  const [fault] = proposePlants(forklift, 1, 1);
  it('are ticked out before anything else once the round has ended', async () => {
    const kept = keptEvaluation(server, [{ kind: 'planted', fault: fault!.id }, started, ended]);
    await open();
    expect(text()).toContain('1 still in the machine');
    await click('checkbox', /^Taken out: /);
    await eventually(() => expect(text()).toContain('All 1 are out'));
    await eventually(() => expect(kept.bodies().at(-1)).toEqual({ kind: 'retrieved', fault: fault!.id }));
  });
  it('recorded wrongly are corrected with words of substance', async () => {
    const kept = keptEvaluation(server, [{ kind: 'planted', fault: fault!.id }, started, ended]);
    await open();
    await click('button', /^Recorded wrongly: /);
    await type('How that came about', 'too short');
    expect((the('button', 'Keep the correction') as HTMLButtonElement).disabled).toBe(true);
    await type('How that came about', 'the wrong fault was ticked while preparing');
    await click('button', 'Keep the correction');
    await eventually(() =>
      expect(kept.bodies().at(-1)).toMatchObject({ kind: 'plant-corrected', says: 'never-planted' }),
    );
  });
});

describe('the score sheet', () => {
  const criteria = forklift.sheet.sections.flatMap((each) => each.criteria);
  const plain = criteria.find((each) => each.kind === 'done')!;
  const group = (says: string) =>
    [...document.querySelectorAll('[role="group"]')].find(
      (each) => each.getAttribute('aria-label') === says,
    )!;
  const button = (says: string, name: string) =>
    [...group(says).querySelectorAll('button')].find((each) => each.textContent!.trim() === name)!;

  it('takes a result by a tap', async () => {
    const kept = keptEvaluation(server, [started, ended]);
    await open('sheet');
    await tap(button(plain.says, 'Prompted'));
    await eventually(() =>
      expect(kept.bodies().at(-1)).toEqual({ kind: 'scored', criterion: plain.id, result: 'prompted' }),
    );
    expect(button(plain.says, 'Prompted').getAttribute('aria-pressed')).toBe('true');
  });
  it('lets a criterion not apply only with a reason', async () => {
    const kept = keptEvaluation(server, [started, ended]);
    await open('sheet');
    await tap(button(plain.says, 'N/A'));
    expect((the('button', 'Keep') as HTMLButtonElement).disabled).toBe(true);
    await type('Why it does not apply', 'no slope on this site');
    await click('button', 'Keep');
    await eventually(() =>
      expect(kept.bodies().at(-1)).toMatchObject({ result: 'na', reason: 'no slope on this site' }),
    );
  });
  it('ends the evaluation with a critical error, by its own name', async () => {
    const kept = keptEvaluation(server, [started, ended]);
    await open('sheet');
    await click('button', 'Critical error');
    const error = forklift.sheet.criticalErrors[0]!;
    await click('button', error.says);
    await eventually(() => expect(kept.bodies().at(-1)).toEqual({ kind: 'critical-error', error: error.id }));
    expect(text()).toContain(`Critical: ${error.says}`);
  });
});

describe('the decision', () => {
  /** Everything done and scored. */
  const complete: EvaluationEventBody[] = [
    started,
    ...forklift.checkpoints.map(
      (each) => ({ kind: 'checked', checkpoint: each.id, result: 'done' }) as const,
    ),
    ended,
    ...forklift.sheet.sections
      .flatMap((each) => each.criteria)
      .filter((each) => scoredByTrainer(each))
      .map(
        (each) => ({ kind: 'scored', criterion: each.id, result: 'done', value: each.levels ?? 0 }) as const,
      ),
  ];
  it('waits until everything is scored', async () => {
    keptEvaluation(server, [started, ended]);
    await open('sign');
    expect(text()).toContain('No outcome yet');
    expect(all('button', /^Decide: /)).toEqual([]);
  });
  it('is the computed outcome, or another with a kind of reason and words of substance', async () => {
    const kept = keptEvaluation(server, complete);
    await open('sign');
    const other = all('button', /^Decide: /)[0]!.textContent!.includes('Competent')
      ? 'Not yet competent'
      : 'Competent';
    [...document.querySelectorAll<HTMLElement>('[role="radio"]')]
      .find((each) => each.textContent!.trim() === other)!
      .click();
    await settled();
    const decide = () => all('button', `Decide: ${other}`)[0] as HTMLButtonElement;
    expect(decide().disabled).toBe(true);
    await choose('What kind of reason', /.+/);
    await type('The reason in words', 'short');
    expect(decide().disabled).toBe(true);
    await type('The reason in words', 'the machine broke down half way through');
    expect(decide().disabled).toBe(false);
    decide().click();
    await settled();
    await settled();
    await eventually(() =>
      expect(kept.bodies().at(-1)).toMatchObject({
        kind: 'decided',
        override: { words: 'the machine broke down half way through' },
      }),
    );
  });
  it('shows what the server has against it and stays undecided', async () => {
    keptEvaluation(server, complete);
    server.answer(assessRoutes.appendEvents, () => {
      throw new Refusal('planted-faults-remain', 'One planted fault is not ticked out.');
    });
    await open('sign');
    all('button', /^Decide: /)[0]!.click();
    await settled();
    await settled();
    await eventually(() =>
      expect(
        all('alert')
          .map((each) => each.textContent)
          .join(),
      ).toContain('not ticked out'),
    );
    the('button', /^Decide: /);
  });
  it('is signed by name with the account of who signs', async () => {
    const outcome = { kind: 'decided', outcome: 'not-yet' } as const;
    keptEvaluation(server, [
      ...complete,
      { ...outcome, override: { kind: 'other', words: 'seen to be unsafe on the slope' } } as never,
    ]);
    server.answer(assessRoutes.signByName, ({ body }) => ({
      accepted: [(body as { id: string }).id],
      summary: {} as never,
      certificate: null,
    }));
    await open('sign');
    all('button', 'Sign by name instead')[1]!.click();
    await settled();
    await type(/^Full name of the operator/, 'Anna Berg');
    await type('Sign-in name of the operator', 'anna');
    await type('Password of the operator', 'a long password');
    const sign = all('button', 'Sign').find((each) => !(each as HTMLButtonElement).disabled)!;
    sign.closest('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await settled();
    await eventually(() => expect(server.asked(assessRoutes.signByName)).toHaveLength(1));
    expect(server.asked(assessRoutes.signByName)[0]!.body).toMatchObject({
      role: 'operator',
      name: 'Anna Berg',
      login: 'anna',
    });
  });
});
