import type { BrowserContext, Page } from 'playwright-core';
import { expect } from 'vitest';
import { DEMO_PASSWORD } from '../server/src/index';
import { chooseOption, openBrowser } from '../tools/browser';

/** Signs in by the form, as a person does. */
export async function signIn(page: Page, address: string, login: string): Promise<void> {
  await page.goto(address);
  await page.getByLabel('Sign-in name').fill(login);
  await page.getByLabel('Password').fill(DEMO_PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('navigation', { name: 'Areas' }).waitFor();
}

/** Chooses class and machine on the screen that prepares an evaluation. */
export async function chooseMachine(
  page: Page,
  unit: RegExp,
  title = 'Counterbalance forklift truck',
): Promise<void> {
  await chooseOption(page, 'Class', title);
  await page.getByRole('button', { name: unit }).click();
}

/** Prepares an evaluation of Magnus Heddle with nothing planted, and goes to the machine. */
export async function prepareWithoutPlants(page: Page, address: string, unit = /FLT-01/): Promise<void> {
  await page.goto(`${address}/assess/new`);
  await chooseOption(page, 'Operator', 'Magnus Heddle');
  await chooseMachine(page, unit);
  const leaveOut = page.getByRole('button', { name: /^Leave out/ });
  await leaveOut.first().waitFor();
  while ((await leaveOut.count()) > 0) await leaveOut.first().click();
}

/** Signs out by the menu of the one who is signed in. */
export async function signOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: /your menu$/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
}

/** A browser of its own for a test; fails the test on errors in the page's console that nobody expected. */
export async function browser(
  expected: RegExp = /status of (401|403|404|409|413|422|429)|ERR_CONNECTION|ERR_INTERNET|Failed to fetch/,
): Promise<{ context: BrowserContext; page: Page; close: () => Promise<void> }> {
  const { context, close } = await openBrowser();
  const page = context.pages()[0] ?? (await context.newPage());
  const complaints: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error' && !expected.test(message.text())) complaints.push(message.text());
  });
  page.on('pageerror', (error) => complaints.push(error.message));
  return {
    context,
    page,
    close: async () => {
      await close();
      expect(complaints).toEqual([]);
    },
  };
}
