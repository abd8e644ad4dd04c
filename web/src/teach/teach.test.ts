import { classRoutes } from '@rounds/contract/classes';
import { peopleRoutes } from '@rounds/contract/people';
import { type LessonPosition, teachRoutes } from '@rounds/contract/teach';
import { compose } from '@rounds/core/catalogue';
import { DEFAULT_RULES } from '@rounds/core/certification';
import { lessonSlides, proposeLesson } from '@rounds/core/teaching';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, choose, click, press, settled, show, text, the, type } from '../testing/mount';
import { somebody } from '../testing/people';
import PresenterScreen from './PresenterScreen.vue';
import RoomScreen from './RoomScreen.vue';
import TeachScreen from './TeachScreen.vue';

const raw = forkliftPack();
const pack = compose(raw, { variant: 'diesel' });
const plan = proposeLesson(pack, { subject: 'round', minutes: 30 });
const slides = lessonSlides(pack, plan);
const ID = '01900000-0000-7000-8000-00000000e001';
const AT = '2026-03-02T09:00:00.000Z';
const START: LessonPosition = { slide: 0, blank: false, pointAndCall: false, answered: false };

/** The event streams that were opened; what is told to one comes as from the server. */
const streams: Stream[] = [];
class Stream extends EventTarget {
  constructor(readonly address: string) {
    super();
    streams.push(this);
  }
  close(): void {}
  tell(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data: JSON.stringify(data) }));
  }
}
let server: FakeServer;
let position: LessonPosition;
beforeEach(() => {
  streams.length = 0;
  vi.stubGlobal('EventSource', Stream);
  server = fakeServer();
  position = START;
  server.answer(teachRoutes.lesson, () => ({
    id: ID,
    classTitle: pack.title,
    code: 'ABCDEF',
    pack,
    plan,
    position,
    startedAt: AT,
    ended: false,
    presents: true,
  }));
  server.answer(teachRoutes.moveLesson, { done: true });
});
const present = () => show(PresenterScreen, { path: '/teach/:id', at: `/teach/${ID}` });
const room = (at = `/teach/${ID}/screen`) =>
  show(RoomScreen, { path: at === '/screen' ? '/screen' : '/teach/:id/screen', at });
const moved = () => server.asked(teachRoutes.moveLesson).map((each) => each.body as LessonPosition);

describe('the presenter', () => {
  it('goes on and back, asks of a fault before it answers, blanks the screen', async () => {
    await present();
    expect(text()).toContain('ABCDEF');
    await press(' ', document.body);
    await settled();
    expect(moved().at(-1)).toEqual({ ...START, slide: 1 });
    const fault = slides.findIndex((each) => each.item.kind === 'fault');
    await click('button', slides[fault]!.heading);
    expect(the('heading', slides[fault]!.heading)).toBeTruthy();
    await click('button', 'Show the answer');
    expect(moved().at(-1)).toEqual({ ...START, slide: fault, answered: true });
    await press('b', document.body);
    await settled();
    expect(moved().at(-1)).toMatchObject({ blank: true });
    expect(text()).toContain('The screen is blank');
    await press('ArrowLeft', document.body);
    await settled();
    expect(moved().at(-1)).toEqual({ ...START, slide: fault - 1 });
  });

  it('says what could not reach the screens, and goes on by itself', async () => {
    await present();
    server.goOffline(true);
    await press('ArrowRight', document.body);
    await settled();
    expect(text()).toContain('No connection');
    expect(the('heading', slides[1]!.heading)).toBeTruthy();
  });

  it('ends with who attended', async () => {
    server.answer(peopleRoutes.people, {
      rows: [
        {
          person: somebody(),
          standings: [],
        },
      ],
      next: null,
      total: 1,
      sites: [],
      teams: [],
    });
    server.answer(teachRoutes.endLesson, () => {
      throw new Refusal('lesson-over', 'This lesson has ended. Nothing was changed.');
    });
    await present();
    await click('button', 'End the lesson');
    await choose('Who attended', 'Anna Berg');
    await click('button', 'End and sign');
    expect(server.asked(teachRoutes.endLesson)[0]!.body).toEqual({
      attended: ['01900000-0000-7000-8000-00000000b001'],
    });
    expect(text()).toContain('This lesson has ended. Nothing was changed.');
  });
});

describe('the big screen', () => {
  it('follows what it is told, with the answer only once it is shown', async () => {
    const fault = slides.findIndex((each) => each.item.kind === 'fault' && each.grade === 'stop');
    position = { ...START, slide: fault };
    await room();
    expect(text()).toContain(slides[fault]!.heading);
    expect(text()).toContain('What grade, and what do you do?');
    expect(text()).not.toContain(slides[fault]!.sentence);
    streams[0]!.tell({ ...position, answered: true, ended: false });
    await settled();
    expect(text()).toContain(slides[fault]!.sentence);
    streams[0]!.tell({ ...position, blank: true, ended: false });
    await settled();
    expect(text()).not.toContain(slides[fault]!.heading);
    streams[0]!.tell({ ...position, ended: true });
    await settled();
    expect(text()).toContain('The lesson has ended');
  });

  it('shows the words to point at and call, large', async () => {
    const check = slides.findIndex((each) => each.item.kind === 'check');
    position = { ...START, slide: check, pointAndCall: true };
    await room();
    expect(text()).toContain(`“${slides[check]!.call}”`);
  });

  it('joins by a code, and says when there is none like it', async () => {
    server.answer(teachRoutes.joinLesson, () => {
      throw new Refusal('not-found', 'No lesson under way has this code.');
    });
    const shown = await room('/screen');
    await type('Code on the presenter’s screen', 'abc123');
    await click('button', 'Join');
    expect(text()).toContain('No lesson under way has this code.');
    server.answer(teachRoutes.joinLesson, { id: ID });
    await click('button', 'Join');
    expect(shown.router.currentRoute.value.path).toBe(`/teach/${ID}/screen`);
  });
});

describe('a plan', () => {
  it('is proposed, put in order by the keyboard, and begun as it stands', async () => {
    const summary = {
      id: raw.id,
      title: raw.title,
      family: raw.family,
      revision: 1,
      checkpoints: raw.checkpoints.length,
      faults: raw.faults.length,
      units: 0,
      outlines: [],
    };
    server.answer(classRoutes.classes, { classes: [summary] });
    server.answer(classRoutes.machineClass, {
      summary,
      pack: raw,
      publishedAt: AT,
      rules: DEFAULT_RULES,
      units: [],
      sites: ['Quay'],
      choices: {},
      choiceLog: [],
      policy: [],
    });
    server.answer(teachRoutes.lessons, { rows: [] });
    server.answer(teachRoutes.startLesson, () => {
      throw new Refusal('composition', 'It does not fit.');
    });
    await show(TeachScreen, { at: `/?class=${raw.id}` });
    const order = () => all('button', /^Move: /).map((each) => each.getAttribute('aria-label')!.slice(6));
    const [first, second] = order();
    all('button', /^Move: /)[1]!.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }),
    );
    await settled();
    expect(order().slice(0, 2)).toEqual([second, first]);
    await click('button', `Leave out: ${first}`);
    expect(order()).not.toContain(first);
    await click('button', 'Begin the lesson');
    expect(text()).toContain('It does not fit.');
    const body = server.asked(teachRoutes.startLesson)[0]!.body as { plan: typeof plan };
    expect(body.plan.items).toHaveLength(order().length);
    expect(body.plan.items[0]!.kind).toBe('station');
  });
});
