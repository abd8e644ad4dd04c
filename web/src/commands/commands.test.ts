import { commandRoutes, type CommandView } from '@rounds/contract/commands';
import { compose } from '@rounds/core/catalogue';
import {
  type Answer,
  callPlaces,
  commandResult,
  controlsOf,
  type CommandDeal,
  USUAL_STANDARD,
} from '@rounds/core/commands';
import { deskPackOf } from '@rounds/core/machine';
import { shippedPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { click, eventually, show, text, the } from '../testing/mount';
import CommandResultScreen from './CommandResultScreen.vue';
import CommandScreen from './CommandScreen.vue';

const ID = '01900000-0000-7000-8000-00000000e001';
const AT = '2026-03-02T09:00:00.000Z';
const at = { at: `/practise/commands/${ID}`, path: '/practise/commands/:id' };
let server: FakeServer;
beforeEach(() => {
  sessionStorage.clear();
  server = fakeServer();
});

const pack = deskPackOf(compose(shippedPack('wheel-loader'), { variant: 'diesel' }));
const controls = controlsOf(pack)!;
const { place, calls } = callPlaces(controls)[0]!;
const deal: CommandDeal = { place, calls: ['arms-up', 'arms-down', 'sound-horn'], pauses: [0, 0, 0] };
const view = (calledAt: CommandView['calledAt'], more: Partial<CommandView> = {}): CommandView => ({
  id: ID,
  classId: pack.id,
  classTitle: pack.title,
  calledAt,
  person: null,
  startedAt: AT,
  ended: false,
  pack,
  deal,
  standard: USUAL_STANDARD,
  ...more,
});
const outcome = (answers: Answer[], more = {}) => ({
  ...view('machine'),
  ended: true,
  endedAt: AT,
  placeName: 'In the seat',
  says: Object.fromEntries(calls.map((each) => [each.id, each.say])),
  result: commandResult(calls, answers, USUAL_STANDARD),
  sets: [],
  ready: false,
  ...more,
});

describe('the command caller', () => {
  it('calls one after the other, takes a tap for each, takes one back, and sends what was tapped', async () => {
    server.answer(commandRoutes.commands, () => view('machine'));
    await show(CommandScreen, at);
    await eventually(() => the('button', 'Start'));
    expect(text()).toContain('Engine off, key out');
    await click('button', 'Start');
    await eventually(() => expect(text()).toContain('Raise the arms'));
    await click('button', 'Right');
    await eventually(() => expect(text()).toContain('Lower the arms'));
    await click('button', 'Wrong');
    await eventually(() => expect(text()).toContain('Horn'));
    await click('button', 'Take the last one back');
    await eventually(() => expect(text()).toContain('2 of 3'));
    await eventually(() => expect(the('button', 'Late').hasAttribute('disabled')).toBe(false));
    await click('button', 'Late');
    await eventually(() => expect(the('button', 'Right').hasAttribute('disabled')).toBe(false));
    await click('button', 'Right');
    let sent: unknown = null;
    server.answer(commandRoutes.endCommands, (request) => {
      sent = request.body;
      return outcome([]);
    });
    await eventually(() => the('button', 'Keep it and see'));
    await click('button', 'Keep it and see');
    await eventually(() => expect(sent).not.toBeNull());
    const { answers } = sent as { answers: Answer[] };
    expect(answers.map((each) => [each.call, each.kind])).toEqual([
      ['arms-up', 'right'],
      ['arms-down', 'late'],
      ['sound-horn', 'right'],
    ]);
    expect(answers.every((each) => each.seconds !== null && each.seconds >= 0)).toBe(true);
  });

  it('keeps the answers over a reload, and when the network is gone at the end', async () => {
    server.answer(commandRoutes.commands, () => view('machine'));
    const first = await show(CommandScreen, at);
    await eventually(() => the('button', 'Start'));
    await click('button', 'Start');
    await eventually(() => expect(the('button', 'Right').hasAttribute('disabled')).toBe(false));
    await click('button', 'Right');
    await eventually(() => expect(text()).toContain('2 of 3'));
    first.wrapper.unmount();
    await show(CommandScreen, at);
    await eventually(() => the('button', 'Go on'));
    expect(text()).toContain('Paused');
    expect(text()).toContain('2 of 3');
    await click('button', 'Go on');
    for (const left of ['3 of 3', 'All of it was called']) {
      await eventually(() => expect(the('button', 'Right').hasAttribute('disabled')).toBe(false));
      await click('button', 'Right');
      await eventually(() => expect(text()).toContain(left));
    }
    server.goOffline(true);
    await click('button', 'Keep it and see');
    await eventually(() => the('alert'));
    await eventually(() => expect(the('button', 'Keep it and see').hasAttribute('disabled')).toBe(false));
    expect(server.asked(commandRoutes.endCommands)).toHaveLength(0);
    server.goOffline(false);
    server.answer(commandRoutes.endCommands, () => outcome([]));
    await click('button', 'Keep it and see');
    await eventually(() => expect(server.asked(commandRoutes.endCommands)).toHaveLength(1));
    const [asked] = server.asked(commandRoutes.endCommands);
    expect((asked!.body as { answers: Answer[] }).answers).toHaveLength(3);
  });

  it('is answered at the desk by the first thing that is touched', async () => {
    server.answer(commandRoutes.commands, () => view('desk'));
    await show(CommandScreen, at);
    await eventually(() => the('button', 'Start'));
    await click('button', 'Start');
    await eventually(() => expect(text()).toContain('Raise the arms'));
    const press = (name: RegExp) =>
      the('button', name).dispatchEvent(new Event('pointerdown', { bubbles: true }));
    press(/^Arm lever: back$/);
    await eventually(() => expect(text()).toContain('Last: Raise the arms, right'));
    await eventually(() => expect(text()).toContain('Lower the arms'));
    press(/^Horn button.*: Hold$/);
    await eventually(() => expect(text()).toContain('Last: Lower the arms, wrong'));
  });
});

describe('what a set comes to', () => {
  const right = (call: string, seconds: number): Answer => ({ call, kind: 'right', seconds });

  it('says first whether it is enough, then why not, what to look at, and each control', async () => {
    server.answer(
      commandRoutes.commandOutcome,
      outcome([
        right('arms-up', 0.8),
        { call: 'arms-down', kind: 'wrong', seconds: 0.6 },
        right('sound-horn', 0.7),
        right('arms-up', 2.4),
      ]),
    );
    await show(CommandResultScreen, {
      at: `/practise/commands/${ID}/result`,
      path: '/practise/commands/:id/result',
    });
    await eventually(() => the('heading', 'Not yet'));
    expect(text()).toContain('One wrong answer; none may be.');
    expect(text()).toContain('Lower the arms after 0.6 s, following “Raise the arms”');
    expect(text()).toMatch(/Hesitated Raise the arms after 2\.4 s/);
    expect(text()).toContain('Arm lever');
  });

  it('shows the sets so far, and who is ready', async () => {
    const set = { endedAt: AT, calledAt: 'desk' as const, calls: 27, wrong: 0, late: 1, median: 1.1 };
    server.answer(
      commandRoutes.commandOutcome,
      outcome(
        Array.from({ length: 27 }, (_, i) => right(i % 2 ? 'arms-up' : 'arms-down', 1)),
        {
          person: { id: ID, name: 'Somebody' },
          ready: true,
          sets: [
            { ...set, id: ID.replace(/.$/, '2'), meets: true },
            { ...set, id: ID, meets: true },
          ],
        },
      ),
    );
    await show(CommandResultScreen, {
      at: `/practise/commands/${ID}/result`,
      path: '/practise/commands/:id/result',
    });
    await eventually(() => the('heading', 'Ready for these controls'));
    expect(text()).toContain('Nothing wrong, nothing late');
    expect(text()).toContain('Sets so far');
  });
});
