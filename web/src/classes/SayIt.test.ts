import { spokenProcedure, spokenRound } from '@rounds/core/teaching';
import { describe, expect, it } from 'vitest';
import { defineComponent, h, ref } from 'vue';
import { forklift } from '../testing/evaluation';
import { click, settled, show, text, the } from '../testing/mount';
import SayIt from './SayIt.vue';

const press = async (key: string, on: EventTarget = document.body) => {
  on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  await settled();
};

async function open(what: string) {
  const closed = ref(0);
  await show(
    defineComponent(() => () => h(SayIt, { pack: forklift, what, onClose: () => (closed.value += 1) })),
  );
  return closed;
}

describe('the class said aloud', () => {
  it('goes on by space, arrow, button and a tap on the words, and back, no further than its ends', async () => {
    await open('round');
    const lines = spokenRound(forklift);
    const at = (n: number) => expect(text()).toContain(`${n} of ${lines.length}`);
    at(1);
    expect(text()).toContain(lines[0]!.says);
    expect(text()).toContain(lines[0]!.details[0]!.text);
    await press('ArrowLeft');
    at(1);
    await press(' ');
    at(2);
    await press('ArrowRight');
    at(3);
    await click('button', /^Next/);
    at(4);
    (document.querySelector('.line') as HTMLElement).click();
    await settled();
    at(5);
    await click('button', /^Back/);
    at(4);
    await press('End');
    at(lines.length);
    await press(' ');
    at(lines.length);
    await press('Home');
    at(1);
  });
  it('leaves a space on a button to the button', async () => {
    await open('round');
    await press(' ', the('button', 'Close'));
    expect(text()).toContain(`1 of ${spokenRound(forklift).length}`);
  });
  it('says a procedure with its times and what to do when a step fails', async () => {
    await open('CF-P2');
    const lines = spokenProcedure(forklift, 'CF-P2');
    expect(lines.length).toBeGreaterThan(5);
    const crank = lines.findIndex((each) => each.id === 'CF-SU-6');
    for (let i = 0; i < crank; i++) await press('ArrowRight');
    expect(text()).toContain(lines[crank]!.says);
    for (const { text: words } of lines[crank]!.details) expect(text()).toContain(words);
  });
});
