import { openBrowser } from './browser';
import { signIn } from './views';
const at = 'http://127.0.0.1:4602';
const [cls, variant, program, mode, size, theme, out, place] = process.argv.slice(2) as string[];
const [width, height] = size!.split('x').map(Number) as [number, number];
const { context, close } = await openBrowser({ viewport: { width, height } });
await context.addInitScript((t) => {
  localStorage.setItem('rounds-theme', t);
  localStorage.setItem('rounds-device', 'tablet-for-pictures');
}, theme!);
const page = context.pages()[0] ?? (await context.newPage());
page.on('pageerror', (e) => console.log('PAGE', e.message));
page.on('console', (m) => {
  if (m.type() === 'error') console.log('CONSOLE', m.text());
});
await signIn(page, at, 'hilda');
const id = crypto.randomUUID().replace(/^(.{14})./, '$17');
const answer = await page.evaluate(
  async ([id, cls, variant, program, mode]) => {
    const r = await fetch('/api/practice/desks', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id, classId: cls, variant, program, mode, surprise: false, personId: null }),
    });
    return [r.status, (await r.text()).slice(0, 200)];
  },
  [id, cls, variant, program, mode],
);
console.log(answer);
await page.goto(`${at}/practise/desk/${id}`);
await page.waitForTimeout(1500);
if (place) {
  await page
    .getByRole('button', { name: new RegExp(place) })
    .first()
    .click();
  await page.waitForTimeout(600);
}
await page.screenshot({ path: out! });
await close();
