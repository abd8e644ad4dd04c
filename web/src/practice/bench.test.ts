import { benchRoutes, type BenchView } from '@rounds/contract/bench';
import { type BenchAnswer, benchKey, dealBench, findingView, judgeAnswer } from '@rounds/core/bench';
import { compose } from '@rounds/core/catalogue';
import { reasonOriginWords, rightActs, rightBound } from '@rounds/core/grading';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, eventually, press, show, text, the } from '../testing/mount';
import BenchScreen from './BenchScreen.vue';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const deal = dealBench(pack, { form: 'all', seed: 5, size: 4, system: 'si' });
const ID = '01900000-0000-7000-8000-00000000e001';
const answers: BenchAnswer[] = [];
let server: FakeServer;

const put = (n: number) => ({ n, finding: findingView(pack, deal.cases[n]!, 'all') });
function view(ended = false): BenchView {
  return {
    id: ID,
    classId: pack.id,
    classTitle: pack.title,
    variant: 'diesel',
    kind: 'all',
    person: null,
    startedAt: '2026-03-02T09:00:00.000Z',
    of: deal.cases.length,
    timed: null,
    ended,
    answered: answers.map((answer, n) => {
      const { key, gradeRight, actRight, by } = judgeAnswer(pack, deal.cases[n]!, answer);
      return {
        ...put(n),
        answer,
        late: false,
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
          until: key.until?.says ?? null,
          mayClear: key.mayClear,
        },
        gradeRight,
        actRight,
        by,
      };
    }),
    now: ended || answers.length === deal.cases.length ? null : put(answers.length),
  };
}
beforeEach(() => {
  answers.length = 0;
  server = fakeServer();
  server.answer(benchRoutes.bench, () => view());
  server.answer(benchRoutes.answerBench, ({ body }) => {
    answers.push((body as { answer: BenchAnswer }).answer);
    return view();
  });
});
const open = () => show(BenchScreen, { path: '/practise/bench/:id', at: `/practise/bench/${ID}` });
const answer = () => the('button', 'Answer') as HTMLButtonElement;

describe('the bench', () => {
  it('asks for grade, act and, where there is something to cure, by when', async () => {
    await open();
    expect(text()).toContain(put(0).finding.part);
    expect(answer().disabled).toBe(true);
    await click('button', 'Mend');
    await click('button', /^Order repair/);
    expect(answer().disabled).toBe(true);
    await click('button', 'This shift');
    expect(answer().disabled).toBe(false);
    // What goes on has nothing to be cured by a time.
    await click('button', /^Go on/);
    expect(all('button', 'This shift')).toEqual([]);
    expect(answer().disabled).toBe(false);
  });

  it('asks nothing more of a sound part', async () => {
    await open();
    await press('1');
    expect(answer().disabled).toBe(false);
    expect((the('button', /^Stop and tag/) as HTMLButtonElement).disabled).toBe(true);
  });

  it('says the verdict, every reason with its origin, and goes on', async () => {
    await open();
    const key = benchKey(pack, deal.cases[0]!);
    await press('4');
    await press('8');
    await click('button', 'Answer');
    await eventually(() => expect(all('button', 'Next')).toHaveLength(1));
    const shown = text();
    expect(shown).toContain(key.grade === 'stop' ? 'Stop: right.' : 'You said stop.');
    for (const { origin } of key.reasons) expect(shown).toContain(reasonOriginWords(origin));
    expect(answers).toEqual([{ grade: 'stop', act: 'stop-and-tag', by: null }]);
    await click('button', 'Next');
    await eventually(() => expect(text()).toContain('2 of 4'));
    expect(all('button', 'Next')).toEqual([]);
  });

  it('keeps what was chosen where the answer is refused or does not arrive', async () => {
    await open();
    server.answer(benchRoutes.answerBench, () => {
      throw new Refusal('bench-answer', 'That is not the case that is put now. Nothing was recorded.');
    });
    await press('3');
    await click('button', /^Order repair/);
    await click('button', 'Today');
    await click('button', 'Answer');
    await eventually(() => expect(text()).toContain('That is not the case that is put now.'));
    expect(the('button', 'Today').getAttribute('aria-pressed')).toBe('true');
    expect(answer().disabled).toBe(false);
  });
});
