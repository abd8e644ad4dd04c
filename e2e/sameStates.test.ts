import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { compose } from '@rounds/core/catalogue';
import type * as Core from '@rounds/core/machine';
import {
  type DeskAct,
  deskPackOf,
  type DeskPack,
  type LoggedAct,
  machineOf,
  runMachine,
  startMachine,
} from '@rounds/core/machine';
import { seededRandom } from '@rounds/core/statistics';
import { shippedClasses, shippedPack } from '@rounds/core/testing';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';

/** The machine at the desk runs alike in a browser and on the server: every reading, bit for bit. */
const root = join(import.meta.dirname, '..');
const TICKS_RUN = 900;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
  const { outputFiles } = await build({
    write: false,
    entryPoints: [join(root, 'core/src/machine/index.ts')],
    bundle: true,
    format: 'iife',
    globalName: 'machineOfTheDesk',
    platform: 'browser',
  });
  browser = await openBrowser();
  const page = browser.context.pages()[0]!;
  await page.goto('about:blank');
  await page.addScriptTag({ content: outputFiles[0]!.text });
});
afterAll(() => browser?.close());

const packs = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  return pack.variants.map(({ id: variant }) => ({
    name: `${id}, ${variant}`,
    pack: deskPackOf(compose(pack, { variant })),
  }));
});

/** What a reckless hand might do: anything, from anywhere. */
function anything(pack: DeskPack, seed: number): LoggedAct[] {
  const { places, controls, looks } = machineOf(pack)!.desk;
  const random = seededRandom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const acts = Array.from({ length: 150 }, (): LoggedAct => {
    const control = pick(controls);
    const works: DeskAct = control.positions
      ? { kind: 'set', control: control.id, to: pick(control.positions) }
      : control.kind === 'pedal'
        ? { kind: 'pedal', control: control.id, to: random() }
        : control.kind === 'hold'
          ? { kind: random() < 0.6 ? 'hold' : 'release', control: control.id }
          : { kind: 'press', control: control.id };
    const act = pick<DeskAct>([
      works,
      works,
      { kind: 'go', place: pick(places).id },
      ...(looks.length > 0 ? [{ kind: 'look', look: pick(looks).id } as const] : []),
    ]);
    return { tick: 1 + Math.floor(random() * TICKS_RUN), act };
  });
  return acts.sort((a, b) => a.tick - b.tick);
}

describe('the states of a machine', () => {
  it.each(packs)('$name: the same in the browser', async ({ pack }) => {
    const log = anything(pack, 17);
    const machine = machineOf(pack)!;
    const here = JSON.stringify(runMachine(machine, startMachine(machine), log, TICKS_RUN));
    const page = browser.context.pages()[0]!;
    const there = await page.evaluate(
      ([given, acts, ticks]) => {
        const core = (globalThis as unknown as { machineOfTheDesk: typeof Core }).machineOfTheDesk;
        const own = core.machineOf(JSON.parse(given) as never)!;
        return JSON.stringify(core.runMachine(own, core.startMachine(own), JSON.parse(acts) as never, ticks));
      },
      [JSON.stringify(pack), JSON.stringify(log), TICKS_RUN] as const,
    );
    const digest = (text: string) => createHash('sha256').update(text).digest('hex');
    expect(here.length).toBeGreaterThan(500);
    expect(digest(there)).toBe(digest(here));
  });
});
