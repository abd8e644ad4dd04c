import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * What axe-core finds wrong on the open page (WCAG 2.2 A and AA and best practice), one line a finding; with
 * `rules` only by those rules.
 */
export async function axeFindings(page: Page, rules?: readonly string[]): Promise<string[]> {
  await page.evaluate(source);
  return page.evaluate(async (only) => {
    const { axe } = globalThis as unknown as {
      axe: {
        run: (
          context: Document,
          options: object,
        ) => Promise<{
          violations: { id: string; help: string; nodes: { target: string[]; failureSummary?: string }[] }[];
        }>;
      };
    };
    const { violations } = await axe.run(document, {
      resultTypes: ['violations'],
      ...(only ? { runOnly: { type: 'rule', values: only } } : {}),
    });
    return violations.flatMap((each) =>
      each.nodes.slice(0, 3).map((node) => `${each.id} (${each.help}) at ${node.target.join(' ')}`),
    );
  }, rules);
}
