import { buildMachine, DeskError } from '../machine/build';
import { fitDesk, pathInDesk } from '../machine/fit';
import type { FitOut } from './needs';
import type { PackIssue, Report } from './packIssue';
import type { Pack } from './schema';

/** Each power variant with everything else as it usually is, then each other fit-out of one feature. */
function fitOuts(pack: Pack): FitOut[] {
  const usual = Object.fromEntries(pack.features.map((each) => [each.id, each.default]));
  const [first] = pack.variants;
  return [
    ...pack.variants.map((each): FitOut => ({ ...usual, variant: each.id })),
    ...pack.features.flatMap((feature) =>
      feature.values
        .filter((value) => value !== feature.default)
        .map((value): FitOut => ({ ...usual, variant: first!.id, [feature.id]: value })),
    ),
  ];
}

/**
 * Checks a class's desk: it holds together however the machine is fitted out, and its steps, forbidden rows and failures
 * are the class's own.
 */
export function checkDesk(pack: Pack, report: Report): void {
  const { desk } = pack.machine;
  if (!desk) return;
  const top = ['machine', 'desk'];
  const own: [keyof typeof desk, string, ReadonlySet<string>][] = [
    ['steps', 'step', new Set(pack.procedures.flatMap((each) => each.steps.map((step) => step.id)))],
    ['forbidden', 'forbidden row', new Set(pack.forbidden.map((each) => each.id))],
    ['failures', 'failure', new Set(pack.machine.failures.map((each) => each.id))],
    ['starts', 'procedure', new Set(pack.procedures.map((each) => each.id))],
  ];
  for (const [list, what, ids] of own)
    for (const id of Object.keys(desk[list]))
      if (!ids.has(id)) report([...top, list, id], 'desk-row', `the class has no ${what} "${id}"`);
  const seen = new Map<string, PackIssue>();
  for (const fitOut of fitOuts(pack)) {
    const fitted = fitDesk(desk, fitOut);
    try {
      buildMachine(fitted.desk, fitted.unfitted);
    } catch (error) {
      if (!(error instanceof DeskError)) throw error;
      for (const { path, message } of error.problems) {
        const issue = { path: [...top, ...pathInDesk(fitted, path)], rule: 'desk', message };
        seen.set(JSON.stringify(issue), issue);
      }
    }
  }
  for (const { path, rule, message } of seen.values()) report(path, rule, message);
}
