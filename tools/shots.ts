/**
 * `npm run shots`: pictures of the main views at 1280x800 in docs/screenshots, from a fresh demo.
 * `npm run shots -- --out DIR [--size 390x844] [--theme night] [--only name,name] [--at http://...]` takes others elsewhere.
 */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { openBrowser } from './browser';
import { startDemo } from './demoServer';
import { ensureBrowser, ensureBuilt } from './setup.mjs';
import { VIEWS, signIn } from './views';

const { values } = parseArgs({
  options: {
    out: { type: 'string' },
    size: { type: 'string', default: '1280x800' },
    theme: { type: 'string', default: 'paper' },
    only: { type: 'string' },
    at: { type: 'string' },
    full: { type: 'boolean', default: false },
  },
});
ensureBrowser();
ensureBuilt();
const out = values.out ?? join(import.meta.dirname, '..', 'docs', 'screenshots');
mkdirSync(out, { recursive: true });
const [width, height] = values.size.split('x').map(Number) as [number, number];
const wanted = VIEWS.filter((each) => (values.only ? values.only.split(',').includes(each.name) : values.out ? true : each.kept));
const demo = values.at ? null : await startDemo();
const address = values.at ?? demo!.address;
for (const view of wanted) {
  const { context, close } = await openBrowser({ viewport: { width, height } });
  await context.addInitScript((theme) => {
    localStorage.setItem('rounds-theme', theme);
    localStorage.setItem('rounds-device', 'tablet-for-pictures');
  }, values.theme);
  const page = context.pages()[0] ?? (await context.newPage());
  try {
    if (view.as) await signIn(page, address, view.as);
    await view.open(page, address);
    await page.evaluate(() => document.fonts.ready.then(() => undefined));
    await page.waitForTimeout(250);
    await page.screenshot({ path: join(out, `${view.name}.png`), fullPage: values.full });
    console.log(`${view.name}.png`);
  } catch (error) {
    console.error(`${view.name}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
    process.exitCode = 1;
  }
  await close();
}
await demo?.stop();
