import { exerciseRoutes, type ExercisePhone, type ExerciseView } from '@rounds/contract/exercise';
import { benchKey, dealBench, findingView } from '@rounds/core/bench';
import { compose, type Grade, GRADES } from '@rounds/core/catalogue';
import { reasonOriginWords, rightActs, rightBound } from '@rounds/core/grading';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useSession } from '../device/session';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, eventually, settled, show, text, the, type } from '../testing/mount';
import LeadScreen from './LeadScreen.vue';
import PhoneScreen from './PhoneScreen.vue';

const told = vi.hoisted(() => ({ hear: (_event: never) => undefined as void }));
vi.mock('../device/stream', () => ({
  listen: (_route: unknown, _input: unknown, hear: (event: never) => void) => {
    told.hear = hear;
    return () => undefined;
  },
}));
const say = async (event: object) => {
  told.hear(event as never);
  await settled();
};

const pack = compose(forkliftPack(), { variant: 'diesel' });
const { cases } = dealBench(pack, { form: 'words', seed: 2, size: 3, system: 'si' });
const ID = '01900000-0000-7000-8000-00000000d001';
const ANN = '01900000-0000-7000-8000-00000000d002';
const key = benchKey(pack, cases[0]!);
let room: ExerciseView;
let phone: ExercisePhone;
let server: FakeServer;
const participant = (grade: Grade | null, answered: boolean) => ({
  id: ANN,
  name: 'Ann',
  guest: true,
  person: null,
  answered,
  grade,
});
beforeEach(() => {
  room = {
    id: ID,
    title: 'Monday class',
    classTitle: pack.title,
    code: 'QK7RW2',
    of: cases.length,
    n: null,
    revealed: false,
    ended: false,
    finding: null,
    key: null,
    spread: null,
    cards: null,
    participants: [participant(null, false)],
  };
  phone = {
    id: ID,
    title: 'Monday class',
    state: 'waiting',
    of: 3,
    n: null,
    finding: null,
    mine: null,
    result: null,
  };
  server = fakeServer();
  server.answer(exerciseRoutes.exercise, () => room);
  server.answer(exerciseRoutes.exercisePhone, () => phone);
  server.answer(exerciseRoutes.moveExercise, ({ body }) => {
    const move = body as { show?: number };
    room =
      move.show === undefined
        ? {
            ...room,
            revealed: true,
            spread: GRADES.map((grade) => Number(grade === 'watch')),
            participants: [participant('watch', true)],
            key: {
              grade: key.grade,
              reasons: key.reasons.map(({ says, grade, origin }) => ({
                says,
                grade,
                origin: reasonOriginWords(origin),
              })),
              acts: rightActs(key),
              instructions: key.act,
              by: rightBound(key),
              until: null,
              mayClear: key.mayClear,
            },
          }
        : {
            ...room,
            n: move.show,
            revealed: false,
            key: null,
            spread: null,
            finding: findingView(pack, cases[move.show]!, 'all'),
            participants: [participant(null, false)],
          };
    return room;
  });
});
const lead = () => show(LeadScreen, { path: '/teach/exercise/:id', at: `/teach/exercise/${ID}` });
const onPhone = () => show(PhoneScreen, { path: '/room/:id', at: `/room/${ID}` });

describe('the trainer of a class exercise', () => {
  it('sees who has answered, and what only once it is revealed, with key and reasons', async () => {
    await lead();
    expect(text()).toContain('QK7RW2');
    await click('button', 'Show the first finding');
    expect(text()).toContain(findingView(pack, cases[0]!, 'all').part);
    expect(text()).not.toContain(key.reasons[0]!.says);
    await say({ kind: 'answered', participant: ANN, n: 0 });
    expect(text()).toContain('has answered');
    // What was answered before the finding on show changes nothing here.
    await say({ kind: 'answered', participant: ANN, n: 2 });
    await click('button', 'Reveal (1 of 1 answered)');
    expect(text()).toContain(key.reasons[0]!.says);
    expect(text()).toContain('the key');
    expect(all('button', 'Next finding')).toHaveLength(1);
  });

  it('counts cards when a field is left, once', async () => {
    server.answer(exerciseRoutes.countCards, ({ body }) => {
      room = { ...room, cards: (body as { counts: number[] }).counts };
      return room;
    });
    await lead();
    await click('button', 'Show the first finding');
    await type('Cards: Mend', '4');
    await eventually(() => expect(server.asked(exerciseRoutes.countCards)).toHaveLength(1));
    expect(server.asked(exerciseRoutes.countCards)[0]!.body).toEqual({ n: 0, counts: [0, 0, 4, 0] });
    the('spinbutton', 'Cards: Mend').dispatchEvent(new FocusEvent('blur'));
    await settled();
    expect(server.asked(exerciseRoutes.countCards)).toHaveLength(1);
  });

  it('puts a guest out once it is asked for and confirmed', async () => {
    server.answer(exerciseRoutes.putOut, () => {
      room = { ...room, participants: [] };
      return room;
    });
    await lead();
    expect(all('button', 'Put Ann out')).toHaveLength(0);
    await click('button', 'Put a guest out');
    await click('button', 'Put Ann out');
    expect(server.asked(exerciseRoutes.putOut)).toHaveLength(0);
    await click('button', 'Put out');
    await eventually(() => expect(text()).toContain('Nobody is in yet.'));
    expect(server.asked(exerciseRoutes.putOut)[0]!.params).toEqual({ id: ID, participant: ANN });
    expect(all('button', 'Put a guest out')).toHaveLength(0);
  });

  it('stays where it was where a move is refused, and says why', async () => {
    server.answer(exerciseRoutes.moveExercise, () => {
      throw new Refusal('lesson-over', 'The exercise has ended.');
    });
    await lead();
    await click('button', 'Show the first finding');
    expect(text()).toContain('The exercise has ended.');
    expect(all('button', 'Show the first finding')).toHaveLength(1);
  });
});

describe('a phone in a class exercise', () => {
  const open = () => {
    phone = { ...phone, state: 'open', n: 0, finding: findingView(pack, cases[0]!, 'all') };
  };

  it('waits, grades what is put, and may change it until it is revealed', async () => {
    server.answer(exerciseRoutes.answerExercise, ({ body }) => {
      phone = { ...phone, mine: (body as { grade: Grade }).grade };
      return phone;
    });
    await onPhone();
    expect(text()).toContain('You are in.');
    open();
    await say({ kind: 'moved', n: 0, revealed: false });
    await eventually(() => expect(all('button', 'Mend')).toHaveLength(1));
    await click('button', 'Mend');
    await click('button', 'Stop');
    expect(the('button', 'Stop').getAttribute('aria-pressed')).toBe('true');
    expect(text()).toContain('You may change it until it is revealed.');
    phone = { ...phone, state: 'closed' };
    await say({ kind: 'moved', n: 0, revealed: true });
    await eventually(() => expect((the('button', 'Mend') as HTMLButtonElement).disabled).toBe(true));
    expect(text()).toContain('Look at the big screen.');
  });

  it('says that an answer came too late, and shows where the room is', async () => {
    open();
    server.answer(exerciseRoutes.answerExercise, () => {
      phone = { ...phone, state: 'closed' };
      throw new Refusal('exercise-order', 'It is revealed already.');
    });
    await onPhone();
    await click('button', 'Watch');
    await eventually(() => expect(text()).toContain('It is revealed already.'));
    expect(text()).toContain('Not graded in time.');
  });

  it('says so, and the way back in, once it was put out', async () => {
    open();
    await onPhone();
    await say({ kind: 'left' });
    expect(text()).toContain('You are not in this room');
    expect(the('link', 'Come in with the code on the big screen').getAttribute('href')).toBe('/join');
    expect(all('button', 'Mend')).toHaveLength(0);
  });

  it('says so too where it slept while its seat was ended', async () => {
    await onPhone();
    useSession().account = null;
    server.answer(exerciseRoutes.exercisePhone, () => {
      throw new Refusal('not-signed-in', 'Sign in first.');
    });
    await say({ kind: 'moved', n: 0, revealed: false });
    await eventually(() => expect(text()).toContain('You are not in this room'));
  });

  it('tells its own result when the room closes, though its place is gone', async () => {
    await onPhone();
    server.answer(exerciseRoutes.exercisePhone, () => {
      throw new Refusal('not-found', 'There is no such exercise.');
    });
    await say({ kind: 'ended', result: { right: 2, of: 3 } });
    expect(text()).toContain('2 of 3');
    expect(text()).toContain('Thank you for taking part.');
  });
});
