import { compose } from './compose';
import type { Path, Report } from './packIssue';
import { prerequisites } from './prerequisites';
import type { Pack, Procedure, Step } from './schema';
import { startsOrStops } from './sections';
import type { Moment } from './vocabulary';

/** The steps that must all have been done before a step, in a composed pack; a group counts by each member. */
function ancestors(steps: ReadonlyMap<string, Step>, of: string): Set<string> {
  const found = new Set<string>();
  const open = [of];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const before of prerequisites(steps.get(id) ?? { after: [] }))
      if (!found.has(before)) {
        found.add(before);
        open.push(before);
      }
  return found;
}

/** What is wrong with the order of starting and stopping in one composed class. */
export function orderFlaws(
  procedures: readonly Procedure[],
): { procedure: string; step: string; rule: string; message: string }[] {
  const flaws: { procedure: string; step: string; rule: string; message: string }[] = [];
  const steps = new Map(procedures.flatMap((each) => each.steps.map((step) => [step.id, step] as const)));
  const before = new Map([...steps.keys()].map((id) => [id, ancestors(steps, id)]));
  const at = (moment: Moment, within: readonly Step[] = [...steps.values()]) =>
    within.filter((each) => each.moment === moment);
  const motions = at('first-motion');
  const comesAlive = [...at('power-on'), ...motions];
  /** Before the machine comes alive or moves, or only after it has moved. */
  const inTime = (step: Step) =>
    comesAlive.some((each) => before.get(each.id)!.has(step.id)) ||
    motions.some((each) => before.get(step.id)!.has(each.id));
  const waitedFor = new Set([...steps.values()].flatMap(prerequisites));
  for (const procedure of procedures) {
    const tell = (step: string, rule: string, message: string) =>
      flaws.push({ procedure: procedure.id, step, rule, message });
    if (startsOrStops(procedure.kind))
      for (const step of procedure.steps)
        if (step.critical && procedure.steps.length > 1 && step.after.length === 0 && !waitedFor.has(step.id))
          tell(step.id, 'critical-floats', `critical step "${step.id}" may be done at any time`);
    if (procedure.kind === 'startup') {
      for (const step of procedure.steps)
        if (step.critical && !step.moment && !inTime(step))
          tell(
            step.id,
            'critical-late',
            `critical step "${step.id}" need not be done before the machine comes alive or moves`,
          );
    }
    if (procedure.kind === 'shutdown') {
      const off = at('power-off', procedure.steps);
      for (const leaving of at('dismount', procedure.steps))
        if (!off.some((each) => before.get(leaving.id)!.has(each.id)))
          tell(leaving.id, 'off-before-leaving', `the machine may be left at "${leaving.id}" with power on`);
    }
  }
  if (motions.length === 0)
    flaws.push({
      procedure: procedures.find((each) => each.kind === 'startup')?.id ?? '',
      step: '',
      rule: 'first-motion',
      message: 'no step is marked as the first motion',
    });
  for (const kind of ['startup', 'shutdown'] as const)
    if (!procedures.some((each) => each.kind === kind))
      flaws.push({
        procedure: '',
        step: '',
        rule: 'start-and-stop',
        message: `nothing is left of the ${kind}`,
      });
  return flaws;
}

/** Steps that are written, and so said, before one they wait for. */
export function lintWritten(pack: Pack, report: Report): void {
  pack.procedures.forEach((procedure, i) => {
    const place = new Map(procedure.steps.map((step, j) => [step.id, j]));
    procedure.steps.forEach((step, j) => {
      const late = prerequisites(step).find((id) => (place.get(id) ?? -1) > j);
      if (late)
        report(
          ['procedures', i, 'steps', j],
          'written-order',
          `step "${step.id}" is written before "${late}", which it waits for`,
        );
    });
  });
}

/** Flaws of the order in each power variant, each told once. */
export function lintOrder(pack: Pack, report: Report): void {
  const told = new Set<string>();
  for (const variant of pack.variants)
    for (const flaw of orderFlaws(compose(pack, { variant: variant.id }).procedures)) {
      const i = pack.procedures.findIndex((each) => each.id === flaw.procedure);
      const j = i < 0 ? -1 : pack.procedures[i]!.steps.findIndex((each) => each.id === flaw.step);
      const key = `${flaw.rule} ${flaw.step}`;
      if (told.has(key)) continue;
      told.add(key);
      const path: Path = i < 0 ? ['procedures'] : j < 0 ? ['procedures', i] : ['procedures', i, 'steps', j];
      report(path, flaw.rule, `${flaw.message} (${variant.name})`);
    }
}
