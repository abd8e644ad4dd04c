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
import { beginDesk, signIn, VIEWS } from './views';

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
if (!values.only || values.only.split(',').includes('desks')) {
  await deskSheet();
  console.log('desks.png');
}
await demo?.stop();

/** One picture of every class's outline from above, each to its own scale, in the application's colours and type. */
/** The fonts of the application, for a page of its own. */
function fonts(): string {
  return [400, 700]
    .map((weight) => {
      const file = `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff2`;
      const data = readFileSync(join(import.meta.dirname, '..', file)).toString('base64');
      return `@font-face{font-family:sheet;font-weight:${weight};src:url(data:font/woff2;base64,${data})}`;
    })
    .join('');
}

/** Every class's desk where most of it is in reach, on a small laptop and on a phone. */
async function deskSheet(): Promise<void> {
  const colours = PALETTES.paper;
  const cells: string[] = [];
  for (const { id, title, variants, machine } of packsOfCheckout()) {
    const { desk } = machine;
    if (!desk) continue;
    const reach = (place: string) => desk.controls.filter((each) => [each.at].flat().includes(place)).length;
    const [best] = [...desk.places].sort((a, b) => reach(b.id) - reach(a.id));
    const pictures: string[] = [];
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ]) {
      const { context, close } = await openBrowser({ viewport });
      const page = context.pages()[0] ?? (await context.newPage());
      await signIn(page, address, 'hilda');
      const run = await beginDesk(page, {
        classId: id,
        variant: variants[0]!.id,
        program: 'free',
        mode: 'free',
      });
      await page.goto(`${address}/practise/desk/${run}`);
      await page.getByLabel('Machine time').waitFor();
      const place = page
        .getByRole('region', { name: 'Where you are' })
        .getByRole('button', { name: best!.name });
      if ((await place.count()) > 0 && (await place.isEnabled())) await place.click();
      await page.evaluate(() => document.fonts.ready.then(() => undefined));
      await page.waitForTimeout(250);
      pictures.push((await page.screenshot({ type: 'jpeg', quality: 80 })).toString('base64'));
      await close();
    }
    const [wide, tall] = pictures;
    cells.push(
      `<figure><div><img src="data:image/jpeg;base64,${wide}" width="432"/>` +
        `<img src="data:image/jpeg;base64,${tall}" width="125"/></div><figcaption>${title}</figcaption></figure>`,
    );
    if (values.out) console.log(`  ${id}`);
  }
  const { context, close } = await openBrowser({ viewport: { width: 1800, height: 800 } });
  const page = context.pages()[0] ?? (await context.newPage());
  await page.setContent(
    `<style>${fonts()}body{margin:12px;display:grid;grid-template-columns:repeat(3,1fr);gap:8px;` +
      `font:14px/1.25 sheet;background:${colours.ground};color:${colours.ink}}` +
      `figure{margin:0;padding:8px;background:${colours.sheet};border:1px solid ${colours.line}}` +
      `figure div{display:flex;gap:8px}figcaption{font-weight:700}</style>${cells.join('')}`,
  );
  await page.evaluate(() => document.fonts.ready.then(() => undefined));
  await page.screenshot({ path: join(out, 'desks.png'), fullPage: true });
  await close();
}

async function contactSheet(): Promise<void> {
  const colours = PALETTES.paper;
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
    `<style>${fonts()}body{margin:16px;display:grid;grid-template-columns:repeat(7,1fr);gap:8px;` +
      `font:14px/1.25 sheet;background:${colours.ground};color:${colours.ink}}` +
      `figure{margin:0;padding:8px;text-align:center;background:${colours.sheet};border:1px solid ${colours.line}}` +
      `small{color:${colours.quiet}}figcaption{font-weight:700}small{font-weight:400}</style>${cells.join('')}`,
  );
  await page.evaluate(() => document.fonts.ready.then(() => undefined));
  await page.screenshot({ path: join(out, 'outlines.png'), fullPage: true });
  await close();
}
