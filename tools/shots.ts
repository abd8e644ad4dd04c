/**
 * `npm run shots`: pictures of the main views at 1280x800 in docs/screenshots, from a fresh demo.
 * `npm run shots -- --out DIR [--size 390x844] [--theme night] [--only name,name] [--at http://...]` takes
 * others elsewhere.
 */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { outlineDrawing } from '@rounds/core/drawing';
import { openBrowser } from './browser';
import { packsOfCheckout, startDemo } from './demoServer';
import { ensureBuilt, ensureDebianPackages } from './setup.mjs';
import { signIn, VIEWS } from './views';

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
ensureDebianPackages();
ensureBuilt();
const out = values.out ?? join(import.meta.dirname, '..', 'docs', 'screenshots');
mkdirSync(out, { recursive: true });
const [width, height] = values.size.split('x').map(Number) as [number, number];
const wanted = VIEWS.filter((each) =>
  values.only ? values.only.split(',').includes(each.name) : values.out ? true : each.kept,
);
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
if (!values.only || values.only.split(',').includes('outlines')) {
  await contactSheet();
  console.log('outlines.png');
}
await demo?.stop();

/** One picture of every class's outline from above, each to its own scale. */
async function contactSheet(): Promise<void> {
  const cells = packsOfCheckout().map(({ title, plan }) => {
    const { paths, box } = outlineDrawing(plan.outlines);
    const side = Math.max(box.width, box.height) * 1.08;
    const fill = { body: '#f0b429', deep: '#3d3320', light: '#fffdf7', line: 'none' } as const;
    const drawn = paths
      .map(
        (p) =>
          `<path d="${p.d}" fill="${fill[p.tone]}" ` +
          `stroke="${p.tone === 'deep' ? '#fffdf7' : '#3d3320'}" stroke-width="${side / 160}"/>`,
      )
      .join('');
    return (
      `<figure><svg width="150" height="150" viewBox="${box.x + box.width / 2 - side / 2} ` +
      `${box.y + box.height / 2 - side / 2} ${side} ` +
      `${side}">${drawn}</svg><figcaption>${title}<br/><small>${Math.round(box.height * 10) / 10} ` +
      'm long</small></figcaption></figure>'
    );
  });
  const { context, close } = await openBrowser({ viewport: { width: 1280, height: 800 } });
  const page = context.pages()[0] ?? (await context.newPage());
  await page.setContent(
    '<style>body{margin:12px;display:grid;grid-template-columns:repeat(7,1fr);gap:8px ' +
      '4px;font:13px/1.25 ' +
      `sans-serif;background:#fffdf7;color:#12302e}figure{margin:0;text-align:center}small{color:#4a5f5c}</style>${cells.join('')}`,
  );
  await page.screenshot({ path: join(out, 'outlines.png'), fullPage: true });
  await close();
}
