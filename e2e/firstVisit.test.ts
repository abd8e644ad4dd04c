import { afterAll, beforeAll, expect, it } from 'vitest';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { browser, signOut } from './house';

/** A new installation, as `npm start` gives it: nobody in it, no demo accounts. */
let house: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  house = await startDemo({ demo: false });
});
afterAll(() => house?.stop());

it('the first visit creates the administrator; empty screens help; a trainer signs in', async () => {
  const { page, close } = await browser();
  await page.goto(house.address);
  await page.getByRole('heading', { name: 'Set up Rounds' }).waitFor();
  expect(await page.getByText('demo').count()).toBe(0);
  expect(await axeFindings(page)).toEqual([]);
  await page.getByLabel('Organisation').fill('Lower Yard');
  await page.getByLabel('Your name').fill('Ada Holm');
  await page.getByLabel('Time zone of the site').fill('Europe/Nowhere');
  await page.getByLabel('Sign-in name').fill('ada');
  await page.getByLabel('Password').fill('walk-the-ring');
  await page.getByRole('button', { name: 'Create the administrator' }).click();
  await page.getByRole('alert').getByText('not a time zone name').waitFor();
  await page.getByLabel('Time zone of the site').fill('Europe/Oslo');
  await page.getByRole('button', { name: 'Create the administrator' }).click();
  await page.getByRole('alert').getByText('printed in the demo').waitFor();
  await page.getByLabel('Password').fill('a better password');
  await page.getByRole('button', { name: 'Create the administrator' }).click();
  await page.getByText('Nobody is due, lapsed or suspended.').waitFor();

  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('heading', { name: 'The roster is empty' }).waitFor();
  await page.getByRole('link', { name: 'Matrix' }).click();
  await page.getByRole('heading', { name: 'Nobody to show' }).waitFor();
  await page.getByRole('link', { name: 'Assess' }).click();
  await page.getByRole('heading', { name: 'No evaluation yet' }).waitFor();
  expect(await axeFindings(page)).toEqual([]);

  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('tab', { name: 'Accounts' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Tor Vik');
  await page.getByLabel('Sign-in name').fill('tor');
  await page.getByLabel('First password').fill('another password');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByText('The account is ready.').waitFor();
  await signOut(page);
  // The settings form has fields of the same names; they must be gone before the next one is filled.
  await page.getByRole('button', { name: 'Sign in', exact: true }).waitFor();
  await page.getByLabel('Sign-in name').fill('tor');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('alert').getByText('wrong').first().waitFor();
  await page.getByLabel('Password').fill('another password');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('link', { name: 'Prepare an evaluation' }).click();
  await page.getByRole('heading', { name: 'Prepare an evaluation' }).waitFor();
  // Back and forward keep their place.
  await page.goBack();
  await page.getByText('Nobody is due, lapsed or suspended.').waitFor();
  await close();
});
