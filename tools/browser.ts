import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type BrowserContext,
  type BrowserContextOptions,
  chromium,
  type Locator,
  type Page,
} from 'playwright-core';

/** Opens Debian's headless Chromium with an empty profile; `close` ends it and removes the profile. */
export async function openBrowser(
  options: BrowserContextOptions = {},
): Promise<{ context: BrowserContext; close: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), 'rounds-browser-'));
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium',
    headless: true,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
    viewport: { width: 1280, height: 800 },
    ...options,
  });
  context.setDefaultTimeout(60_000);
  return {
    context,
    close: async () => {
      await context.close();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}

/** Chooses an option from a choice by its label, typing its words where the choice is long. */
export async function chooseOption(
  page: Page,
  label: string | RegExp,
  option: string,
  within: Locator | Page = page,
): Promise<void> {
  const field = within.getByRole('combobox', { name: label, exact: true });
  await field.locator('xpath=ancestor::*[contains(@class, "ant-select-selector")]').click();
  if (await field.isEditable()) await field.fill(option);
  const open = page.locator('.ant-select-item-option:visible');
  await open.filter({ hasText: option }).first().click();
}

/** Empties a choice that may be empty. */
export async function clearChoice(page: Page, label: string): Promise<void> {
  const select = page
    .getByRole('combobox', { name: label, exact: true })
    .locator('xpath=ancestor::*[contains(concat(" ", @class, " "), " ant-select ")]');
  await select.hover();
  await select.locator('.ant-select-clear').click();
}
