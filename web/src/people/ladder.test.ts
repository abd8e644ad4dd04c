import { ladderRoutes, type PersonLadder } from '@rounds/contract/ladder';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { all, choose, click, eventually, show, text, the, type } from '../testing/mount';
import LadderPart from './LadderPart.vue';

const PERSON = '01900000-0000-7000-8000-00000000a001';
const SIGNED = '01900000-0000-7000-8000-00000000a002';
let server: FakeServer;
beforeEach(() => (server = fakeServer()));

const rung = (id: string, more: Partial<PersonLadder['rungs'][number]> = {}) => ({
  id,
  says: `Rung ${id}`,
  criterion: `Criterion ${id}`,
  signed: null,
  shown: null,
  met: false,
  ...more,
});
const answer = (rungs: PersonLadder['rungs']) => ({
  ladders: [{ classId: 'loader', classTitle: 'Loader', rungs, gone: [] }],
  classes: [
    { id: 'loader', title: 'Loader' },
    { id: 'truck', title: 'Truck' },
  ],
});
const signed = { id: SIGNED, on: '2026-02-01', by: 'Some trainer', note: 'twice' };

describe('the ladder of a person', () => {
  it('says how far they have come, what makes each rung, and what practice says for it', async () => {
    server.answer(
      ladderRoutes.personLadders,
      answer([
        rung('a', { signed }),
        rung('b', { shown: 'Commands: 24 of 24 right last', met: true }),
        rung('c'),
      ]),
    );
    await show(LadderPart, { props: { personId: PERSON } });
    await eventually(() => expect(text()).toContain('1 of 3 signed off'));
    expect(text()).toContain('1 February 2026, Some trainer');
    expect(text()).toContain('Commands: 24 of 24 right last');
    expect(all('button', /^Sign off: /)).toHaveLength(2);
  });

  it('is signed with a day and a note, and taken back with a reason', async () => {
    let rungs = [rung('a'), rung('b')];
    server.answer(ladderRoutes.personLadders, () => answer(rungs));
    server.answer(ladderRoutes.signRung, ({ body }) => {
      const { on, note } = body as { on: string; note: string | null };
      rungs = [rung('a', { signed: { ...signed, on, note } }), rung('b')];
      return answer(rungs);
    });
    server.answer(ladderRoutes.takeRungBack, () => {
      rungs = [rung('a'), rung('b')];
      return answer(rungs);
    });
    await show(LadderPart, { props: { personId: PERSON } });
    await eventually(() => the('button', 'Sign off: Rung a'));
    await click('button', 'Sign off: Rung a');
    await eventually(() => the('textbox', /^Note/));
    await type(/^Note/, 'in the rain');
    await click('button', 'Sign off');
    await eventually(() => expect(text()).toContain('1 of 2 signed off'));
    expect(server.asked(ladderRoutes.signRung)[0]!.body).toMatchObject({
      classId: 'loader',
      rung: 'a',
      on: '2026-03-02',
      note: 'in the rain',
    });
    await click('button', 'Take back: Rung a');
    await eventually(() => the('textbox', /^Why/));
    await click('button', 'Take it back');
    await eventually(() => expect(text()).toMatch(/must not be empty/));
    expect(server.asked(ladderRoutes.takeRungBack)).toHaveLength(0);
    await type(/^Why/, 'somebody else');
    await click('button', 'Take it back');
    await eventually(() => expect(text()).toContain('0 of 2 signed off'));
  });

  it('shows another class when it is chosen, and signs nothing for whoever may not', async () => {
    server.answer(ladderRoutes.personLadders, ({ query }) => {
      const own = answer([rung('a')]);
      return (query as { classId?: string }).classId === 'truck'
        ? {
            ...own,
            ladders: [
              ...own.ladders,
              { classId: 'truck', classTitle: 'Truck', rungs: [rung('t')], gone: [] },
            ],
          }
        : own;
    });
    await show(LadderPart, { props: { personId: PERSON }, role: 'supervisor' });
    await eventually(() => expect(text()).toContain('Rung a'));
    expect(all('button', /^Sign off/)).toHaveLength(0);
    await choose('Class of the ladder', /^Truck/);
    await eventually(() => expect(text()).toContain('Rung t'));
  });

  it('signs nothing of oneself', async () => {
    server.answer(ladderRoutes.personLadders, answer([rung('a')]));
    await show(LadderPart, { props: { personId: PERSON }, personId: PERSON });
    await eventually(() => expect(text()).toContain('Rung a'));
    expect(all('button', /^Sign off/)).toHaveLength(0);
  });
});
