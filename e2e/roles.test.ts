import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { browser, chooseMachine, signIn } from './house';

/**
 * What each role comes for, by what each sees; and the edges of an evaluation that the whole line does not
 * touch.
 */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const areas = async (page: Awaited<ReturnType<typeof browser>>['page']) =>
  (await page.getByRole('navigation', { name: 'Areas' }).getByRole('link').allInnerTexts())
    .map((each) => each.trim())
    .filter(Boolean);

describe('each role', () => {
  it('an operator sees their own results and card, and nobody else', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'isla');
    expect(await areas(page)).toEqual(['Today', 'Assess', 'Practise', 'Classes', 'Settings']);
    await page.getByRole('link', { name: 'Assess' }).click();
    await page.getByRole('heading', { name: 'My evaluations' }).waitFor();
    await page.getByRole('table').waitFor();
    const people = await page.getByRole('table').locator('tbody tr td:first-child').allInnerTexts();
    expect(new Set(people)).toEqual(new Set(['Isla Marwick']));
    await page
      .getByRole('row')
      .filter({ hasText: 'Counterbalance forklift' })
      .getByRole('link')
      .first()
      .click();
    await page.getByRole('region', { name: 'Outcome' }).waitFor();
    // Looking is all: nothing on the round can be tapped.
    await page.getByRole('tab', { name: /Round/ }).click();
    await page.getByRole('button', { name: /^Fork arms:/ }).click();
    for (const button of await page
      .getByRole('group', { name: /^CF-10 / })
      .getByRole('button')
      .all())
      expect(await button.isDisabled()).toBe(true);
    await page.goto(demo.address);
    await page.getByRole('link', { name: 'My record and cards' }).click();
    await page.getByRole('heading', { name: 'Isla Marwick' }).waitFor();
    await page.getByText('May operate today').first().waitFor();
    expect(await page.getByRole('link', { name: 'Card' }).count()).toBeGreaterThan(0);
    await page.goto(`${demo.address}/people`);
    await page.getByRole('heading', { name: 'Not open to your role' }).waitFor();
    await close();
  });

  it('a supervisor sees the team, raises a trigger, and sees it take hold', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'gordon');
    expect(await areas(page)).toEqual([
      'Today',
      'Assess',
      'Practise',
      'People',
      'Matrix',
      'Classes',
      'Insight',
      'Settings',
    ]);
    expect(await page.getByRole('link', { name: 'Prepare an evaluation' }).count()).toBe(0);
    await page.getByRole('link', { name: 'People' }).click();
    await page.getByRole('table').waitFor();
    expect(
      new Set(await page.getByRole('table').locator('tbody tr td:nth-child(3)').allInnerTexts()),
    ).toEqual(new Set(['Cargo shed']));
    await page.getByLabel('Search by name or payroll number').fill('Boateng');
    await page
      .getByText('Nobody matches')
      .or(page.getByRole('link', { name: /Boateng/ }))
      .first()
      .waitFor();
    await page.getByLabel('Search by name or payroll number').fill('');
    const valid = page
      .getByRole('row')
      .filter({ has: page.getByRole('img', { name: /Counterbalance forklift truck: Valid/ }) });
    await valid.first().getByRole('link').click();
    await page.getByText('May operate today').first().waitFor();
    await page.getByRole('button', { name: 'Record an event' }).click();
    const form = page.getByRole('dialog');
    await chooseOption(page, 'Class', 'Counterbalance forklift truck', form);
    await chooseOption(page, 'Trigger', 'Incident', form);
    await form.getByLabel('In a few words').fill('pallet dropped at the shed door');
    await form.getByRole('button', { name: 'Record' }).click();
    await page
      .getByText(/Suspended since .* after an incident \(pallet dropped at the shed door\)/)
      .first()
      .waitFor();
    await page.getByText('May not operate').first().waitFor();
    await close();
  });

  it('the workshop learns which machine still has a training fault in it, and whom to ask', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'viktor');
    expect(await areas(page)).toEqual(['Today', 'Classes', 'Settings']);
    await page.getByText('Ask Hilda Rousay before this machine is used.').waitFor();
    await close();
  });

  it('an administrator closes an account, which is signed out at once, and dates new rules', async () => {
    const { page, close } = await browser();
    const other = await browser();
    await signIn(other.page, demo.address, 'bashir');
    await signIn(page, demo.address, 'una');
    await page.getByRole('link', { name: 'Settings' }).click();
    await page.getByRole('tab', { name: 'Accounts' }).click();
    await page.getByRole('switch', { name: 'Account of Bashir Qadri is open' }).click();
    await page.getByRole('button', { name: 'Close it' }).click();
    await page.getByText('The account is closed and signed out everywhere.').waitFor();
    await other.page.getByRole('link', { name: 'People' }).click();
    await other.page.getByRole('heading', { name: 'Your session has ended' }).waitFor();
    await other.page.getByLabel('Password').fill('walk-the-ring');
    await other.page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await other.page.getByText('the account is closed').waitFor();
    await page.getByRole('tab', { name: 'Certification rules' }).click();
    await page.getByRole('spinbutton', { name: 'A certificate holds' }).fill('24');
    await page.getByRole('radio', { name: /They change at once/ }).check();
    await page.getByRole('button', { name: 'Look who is affected' }).click();
    const affected = page.getByRole('region', { name: 'Who is affected' });
    await affected.getByText(/standings change on/).waitFor();
    expect(await affected.getByRole('row').count()).toBeGreaterThan(1);
    await affected.getByRole('button', { name: 'Keep these rules' }).click();
    await page.getByText('The new rules are kept', { exact: true }).waitFor();
    await other.close();
    await close();
  });
});

describe('at the desk', () => {
  it('the keyboard reaches areas, search and the ring', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'ronan');
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Shortcuts' }).waitFor();
    await page.keyboard.press('Escape');
    await page.keyboard.press('g');
    await page.keyboard.press('p');
    await page.getByRole('heading', { name: /^People/ }).waitFor();
    await page.keyboard.press('/');
    await page.keyboard.type('Heddle');
    await page.getByRole('link', { name: 'Heddle, Magnus' }).waitFor();
    expect(new URL(page.url()).pathname).toBe('/people');
    await page.getByRole('heading', { name: /^People/ }).click();
    await page.keyboard.press('g');
    await page.keyboard.press('c');
    await page.getByRole('link', { name: /Counterbalance forklift truck/ }).click();
    const rear = page.getByRole('button', { name: /^Rear:/ });
    await rear.focus();
    await page.keyboard.press('Enter');
    expect(await rear.getAttribute('aria-pressed')).toBe('true');
    expect(await page.getByText('Gas cylinder bracket, strap and locating pin').count()).toBe(0);
    await chooseOption(page, 'Power', 'LPG');
    await page.getByText('Gas cylinder bracket, strap and locating pin').waitFor();
    await close();
  });

  it('somebody who has left comes off the roster, and can be put back with the record kept', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'ronan');
    await page.goto(`${demo.address}/people?search=Sandison`);
    await page.getByRole('link', { name: 'Sandison, Arvid' }).click();
    await page.getByRole('button', { name: 'More acts' }).click();
    await page.getByRole('menuitem', { name: 'Take off the roster' }).click();
    await page.getByText('Off the roster.').waitFor();
    await page.goBack();
    await page.getByRole('heading', { name: 'Nobody matches' }).waitFor();
    await page.goForward();
    await page.getByRole('button', { name: 'More acts' }).click();
    await page.getByRole('menuitem', { name: 'Put back on the roster' }).click();
    await page.getByText('Off the roster.').waitFor({ state: 'hidden' });
    await page.getByRole('heading', { name: 'History' }).waitFor();
    await close();
  });

  it('the theme stays across a reload', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'ronan');
    await page.getByRole('button', { name: /your menu$/ }).click();
    await page.getByRole('menuitem', { name: /^Night/ }).click();
    await page.reload();
    await page.getByRole('navigation', { name: 'Areas' }).waitFor();
    expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe('night');
    await close();
  });

  it('a search in the address comes back with the back button', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'ronan');
    await page.goto(`${demo.address}/people?search=Marwick`);
    await page.getByRole('link', { name: 'Marwick, Isla' }).click();
    await page.getByRole('heading', { name: 'Isla Marwick' }).waitFor();
    await page.goBack();
    await page.getByRole('link', { name: 'Marwick, Isla' }).waitFor();
    expect(await page.getByLabel('Search by name or payroll number').inputValue()).toBe('Marwick');
    await close();
  });

  it.each([
    [
      'a file in the wrong encoding',
      Buffer.from([0x4e, 0x61, 0x6d, 0x65, 0x0a, 0xe5, 0xe4, 0xf6, 0x0a]),
      /not in UTF-8/,
    ],
    [
      'an open quotation mark',
      Buffer.from('Payroll,Given name,Family name,Site,Team\r\n1,"Anna,B,Q,T\r\n'),
      /Reading stopped/,
    ],
    ['a file over 5 MB', Buffer.from(`Payroll\r\n${'9'.repeat(5_100_000)}`), /larger than 5 MB/],
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x00, 0x1a, 0x0a, 0x0d]), /not in UTF-8|zero bytes/],
  ])('importing %s says what is wrong and that nothing was written', async (_what, buffer, says) => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'ronan');
    await page.goto(`${demo.address}/people/import`);
    await page.getByLabel('CSV file').setInputFiles({ name: 'people.csv', mimeType: 'text/csv', buffer });
    const alert = page.getByRole('alert');
    await alert.waitFor();
    expect(await alert.innerText()).toMatch(says);
    expect(await alert.innerText()).toMatch(/Nothing was written/);
    await close();
  });
});

describe('an evaluation that goes otherwise', () => {
  it('ended by a critical error, decided against by override, shows the reason for ever', async () => {
    const { page, close } = await browser();
    await signIn(page, demo.address, 'signe');
    await page.keyboard.press('n');
    await chooseOption(page, 'Operator', 'Halcrow');
    await chooseMachine(page, /FLT-05/);
    await page.getByRole('button', { name: 'Leave out' }).first().waitFor();
    while ((await page.getByRole('button', { name: 'Leave out' }).count()) > 0)
      await page.getByRole('button', { name: 'Leave out' }).first().click();
    await page.getByText('Nothing is planted').waitFor();
    await page.getByRole('button', { name: 'Go to the machine' }).click();
    await page.getByRole('button', { name: 'Start the round' }).click();
    await page.getByRole('button', { name: /^Fork arms:/ }).click();
    await page
      .getByRole('group', { name: /^CF-10 / })
      .getByRole('button', { name: 'Done' })
      .click();
    await page.getByRole('button', { name: 'End the round' }).click();
    await page.getByRole('button', { name: 'Go to the start' }).click();
    await page.getByRole('button', { name: 'Score it by hand instead' }).click();
    await page.getByRole('heading', { name: /Score sheet/ }).waitFor();
    const ramp = page.getByRole('group', { name: /^Keeps the right end uphill/ });
    await ramp.getByRole('button', { name: 'N/A' }).click();
    await page.getByLabel('Why it does not apply').fill('no ramp at this site');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByText('not applicable: no ramp at this site').waitFor();
    await page.getByRole('button', { name: 'Critical error' }).click();
    await page.getByRole('button', { name: 'Moves the truck with the belt undone' }).click();
    await page.getByText('Critical: Moves the truck with the belt undone').waitFor();
    await page.getByRole('tab', { name: /Review/ }).click();
    await page.getByRole('heading', { name: 'Stopped: critical error', exact: true }).waitFor();
    await page.getByRole('tab', { name: /Decide and sign/ }).click();
    await page.getByRole('radio', { name: 'Not yet competent' }).click();
    const reason = 'belt buckle was faulty, taken up with the workshop <b>today</b>';
    await page.getByLabel('The reason in words').fill(reason);
    await page.getByRole('button', { name: 'Decide: Not yet competent' }).click();
    await page.getByText('Both sign here').waitFor();
    await page.getByRole('tab', { name: /Review/ }).click();
    await page.getByText(reason).waitFor();
    const href = (await page.getByRole('link', { name: 'Report (PDF)' }).getAttribute('href'))!;
    const pdf = await page.evaluate(
      async (address) => [...new Uint8Array(await (await fetch(address)).arrayBuffer())],
      href,
    );
    const file = join(mkdtempSync(join(tmpdir(), 'report-')), 'report.pdf');
    writeFileSync(file, Buffer.from(pdf));
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).replace(/\s+/g, ' ');
    expect(text).toContain('The trainer overrode the computed outcome "Stopped: critical error"');
    expect(text).toContain(reason);
    expect(text).toContain('not signed');
    await close();
  });
});
