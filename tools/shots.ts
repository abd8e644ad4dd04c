/**
 * `npm run shots`: pictures of the main views at 1280x800 in docs/screenshots, from a fresh demo.
 * `npm run shots -- --out DIR [--size 390x844] [--theme night] [--only name,name] [--at http://...]` takes
 * others elsewhere.
 */
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { outlineDrawing } from '@rounds/core/drawing';
import { PALETTES } from '../web/src/parts/tokens';
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
if (values.only?.split(',').includes('outlines')) {
  await contactSheet();
  console.log('outlines.png');
}
await demo?.stop();

/** One picture of every class's outline from above, each to its own scale, in the application's colours and type. */
async function contactSheet(): Promise<void> {
  const colours = PALETTES.paper;
  const fonts = [400, 700].map((weight) => {
    const file = `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff2`;
    const data = readFileSync(join(import.meta.dirname, '..', file)).toString('base64');
    return `@font-face{font-family:sheet;font-weight:${weight};src:url(data:font/woff2;base64,${data})}`;
  });
  const cells = packsOfCheckout().map(({ title, plan }) => {
    const { paths, box } = outlineDrawing(plan.outlines);
    const side = Math.max(box.width, box.height) * 1.08;
    const fill = { body: colours.machine, deep: colours.machineDeep, light: colours.sheet, line: 'none' };
    const drawn = paths
      .map(
        (p) =>
          `<path d="${p.d}" fill="${fill[p.tone]}" ` +
          `stroke="${p.tone === 'deep' ? colours.sheet : colours.machineDeep}" stroke-width="${side / 160}"/>`,
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
    `<style>${fonts.join('')}body{margin:16px;display:grid;grid-template-columns:repeat(7,1fr);gap:8px;` +
      `font:14px/1.25 sheet;background:${colours.ground};color:${colours.ink}}` +
      `figure{margin:0;padding:8px;text-align:center;background:${colours.sheet};border:1px solid ${colours.line}}` +
      `small{color:${colours.quiet}}figcaption{font-weight:700}small{font-weight:400}</style>${cells.join('')}`,
  );
  await page.evaluate(() => document.fonts.ready.then(() => undefined));
  await page.screenshot({ path: join(out, 'outlines.png'), fullPage: true });
  await close();
}
