import { chooseOption, openBrowser } from './browser';
import { signIn } from './views';
const address = 'http://127.0.0.1:4602';
for (const [name, width, height, theme] of [['a', 1280, 800, 'paper'], ['b', 390, 844, 'night']] as const) {
  const { context, close } = await openBrowser({ viewport: { width, height } });
  await context.addInitScript((t) => localStorage.setItem('rounds-theme', t), theme);
  const page = context.pages()[0]!;
  await signIn(page, address, 'hilda');
  await page.goto(`${address}/practise?what=commands`);
  await chooseOption(page, 'Class', 'Wheel loader');
  await page.waitForTimeout(300);
  await page.screenshot({ path: `/tmp/look-${name}1.png` });
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  for (let i = 0; i < 5; i++) {
    const tap = page.getByRole('button', { name: i % 7 === 3 ? 'Late' : i === 5 ? 'Wrong' : 'Right', exact: true });
    await page.waitForFunction(() => !document.querySelector<HTMLButtonElement>('.tap')?.disabled, undefined, { timeout: 9000 });
    if (i === 2) { await page.waitForTimeout(500); await page.screenshot({ path: `/tmp/look-${name}2.png` }); }
    await page.waitForTimeout(300 + (i % 5) * 150);
    await tap.click();
    
  }
  if (true) { await page.getByRole('button', { name: 'End', exact: true }).click(); await page.getByRole('dialog').getByRole('button', { name: 'End it' }).click(); }

  await page.getByRole('link', { name: 'Another set' }).waitFor();
  await page.waitForTimeout(400);
  await page.screenshot({ path: `/tmp/look-${name}3.png`, fullPage: name === 'b' });
  await page.goto(`${address}/practise?what=commands`);
  await chooseOption(page, 'Class', 'Wheel loader');
  await page.getByRole('button', { name: /^At the desk/ }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await page.waitForTimeout(3200);
  await page.screenshot({ path: `/tmp/look-${name}4.png` });
  await close();
}
process.exit(0);
