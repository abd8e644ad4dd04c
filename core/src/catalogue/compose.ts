import { contentHash } from './contentHash';
import type { PackIssue } from './packIssue';
import { type FitOut, needsMet } from './needs';
import { applyPolicy, type PolicyRaise, type Raised } from './policy';
import type { Fault, Pack, Step } from './schema';

/** What a pack says, whatever its format. */
export type PackContent = Omit<Pack, 'format'>;

/**
 * What a pack is composed for: its power variant, the features that differ from their defaults, and the
 * site's choices between schools.
 */
export interface Composition {
  variant: string;
  features?: Readonly<Record<string, string>>;
  choices?: Readonly<Record<string, string>>;
  /** What the site has raised; lines that touch nothing of the class change nothing. */
  policy?: readonly PolicyRaise[];
}

/**
 * A pack cut down to one machine's fit-out with the site's choices worked in. `hash` identifies exactly
 * this content: the pack, the fit-out, the choices and what the site's policy raised.
 */
export interface EffectivePack extends PackContent {
  /** 1 for what was composed before the present format; it is judged as it was then. */
  format: 1 | 2;
  fitOut: FitOut;
  choices: Readonly<Record<string, string>>;
  /** A fault that the site's policy raised says from what, and by which line. */
  faults: (Fault & { raised?: Raised })[];
  /** The lines that raised something; absent where none did. */
  policy?: readonly PolicyRaise[];
  hash: string;
}

/** Thrown by `compose` when the request names something the pack does not have. */
export class CompositionError extends Error {
  constructor(readonly issues: PackIssue[]) {
    super(issues.map((each) => each.message).join('; '));
    this.name = 'CompositionError';
  }
}

/**
 * Composes a pack: rows whose needs are not met go, steps that waited for a row gone wait for what it
 * waited for, school choices are worked in.
 * Pure and total over valid requests; throws CompositionError for an unknown variant, feature, value,
 * school or option.
 */
export function compose(pack: Pack, request: Composition): EffectivePack {
  const issues: PackIssue[] = [];
  const fitOut: Record<string, string> = { variant: request.variant };
  if (!pack.variants.some((each) => each.id === request.variant))
    issues.push({
      path: ['variants'],
      rule: 'unknown-variant',
      message: `${pack.title} has no variant "${request.variant}"`,
    });
  for (const feature of pack.features) fitOut[feature.id] = feature.default;
  for (const [id, value] of Object.entries(request.features ?? {})) {
    const index = pack.features.findIndex((each) => each.id === id);
    if (index < 0)
      issues.push({
        path: ['features'],
        rule: 'unknown-feature',
        message: `${pack.title} has no feature "${id}"`,
      });
    else if (!pack.features[index]!.values.includes(value))
      issues.push({
        path: ['features', index],
        rule: 'unknown-feature',
        message: `feature "${id}" has no value "${value}"`,
      });
    else fitOut[id] = value;
  }
  const choices: Record<string, string> = {};
  for (const school of pack.schools) choices[school.id] = school.default;
  for (const [id, option] of Object.entries(request.choices ?? {})) {
    const index = pack.schools.findIndex((each) => each.id === id);
    if (index < 0)
      issues.push({
        path: ['schools'],
        rule: 'unknown-school',
        message: `${pack.title} has no school "${id}"`,
      });
    else if (!pack.schools[index]!.options.some((each) => each.id === option))
      issues.push({
        path: ['schools', index],
        rule: 'unknown-school',
        message: `school "${id}" has no option "${option}"`,
      });
    else choices[id] = option;
  }
  if (issues.length > 0) throw new CompositionError(issues);

  const kept = <T extends { needs: string[] }>(rows: readonly T[]): T[] =>
    rows.filter((row) => needsMet(row.needs, fitOut));
  const { pack: chosen, policy } = applyPolicy(applyChoices(pack, choices), request.policy ?? []);
  const checkpoints = kept(chosen.checkpoints).map((each) =>
    each.each && typeof each.each.count === 'object'
      ? { ...each, each: { ...each.each, count: repetitions(fitOut[each.each.count.feature]) } }
      : each,
  );
  const present = new Set(checkpoints.map((each) => each.id));
  const faults = kept(chosen.faults).filter((each) => present.has(each.checkpoint));
  const procedures = relink(
    chosen.procedures,
    kept(chosen.procedures)
      .map((procedure) => ({ ...procedure, steps: kept(procedure.steps) }))
      .filter((procedure) => procedure.steps.length > 0),
  );
  const sections = chosen.sheet.sections
    .map((section) => ({
      ...section,
      criteria: kept(section.criteria)
        .map((c) =>
          c.link?.checkpoints
            ? { ...c, link: { ...c.link, checkpoints: c.link.checkpoints.filter((id) => present.has(id)) } }
            : c,
        )
        .filter((c) => c.link?.checkpoints === undefined || c.link.checkpoints.length > 0),
    }))
    .filter((section) => section.criteria.length > 0);
  return {
    ...chosen,
    checkpoints,
    faults,
    procedures,
    forbidden: kept(chosen.forbidden),
    sheet: { ...chosen.sheet, sections, criticalErrors: kept(chosen.sheet.criticalErrors) },
    numbers: kept(chosen.numbers),
    fitOut,
    choices,
    ...(policy.length > 0 ? { policy } : {}),
    hash: contentHash({ pack: packHash(pack), fitOut, choices, ...(policy.length > 0 ? { policy } : {}) }),
  };
}

const packHashes = new WeakMap<Pack, string>();

/** Content hash of a pack, remembered for the object; a pack is never changed in place. */
export function packHash(pack: Pack): string {
  let hash = packHashes.get(pack);
  if (hash === undefined) {
    hash = contentHash(pack);
    packHashes.set(pack, hash);
  }
  return hash;
}

function repetitions(value: string | undefined): number {
  const number = Number.parseInt(value ?? '', 10);
  return Number.isFinite(number) && number > 0 ? number : 1;
}

/** A row as some `sets` of school options leave it; null where none of them names it. */
export function changedRow<T extends { id: string }>(
  kind: string,
  row: T,
  sets: Pack['schools'][number]['options'][number]['sets'],
): T | null {
  const own = sets.filter((set) => set.path.startsWith(`${kind}/${row.id}/`));
  return own.length === 0
    ? null
    : { ...row, ...Object.fromEntries(own.map((set) => [set.path.split('/')[2]!, set.value])) };
}

/** Works the chosen options' `sets` into copies of the rows they name. */
function applyChoices(pack: Pack, choices: Readonly<Record<string, string>>): Pack {
  const sets = pack.schools.flatMap(
    (school) => school.options.find((each) => each.id === choices[school.id])?.sets ?? [],
  );
  if (sets.length === 0) return pack;
  const change = <T extends { id: string }>(kind: string, row: T): T => changedRow(kind, row, sets) ?? row;
  const policy = Object.fromEntries(
    sets.filter((set) => set.path.startsWith('policy/')).map((set) => [set.path.split('/')[1]!, set.value]),
  );
  return {
    ...pack,
    numbers: pack.numbers.map((each) => change('numbers', each)),
    checkpoints: pack.checkpoints.map((each) => change('checkpoints', each)),
    faults: pack.faults.map((each) => {
      const changed = change('faults', each);
      const { until, ...rest } =
        policy['grading'] === 'all-stop' && changed.grade !== 'sound'
          ? { ...changed, grade: 'stop' as const }
          : changed;
      // Raised to a stop, it may not go on at all.
      return rest.grade === 'mend' && until ? { ...rest, until } : rest;
    }),
    procedures: pack.procedures.map((each) => ({
      ...each,
      steps: each.steps.map((s) => change('steps', s)),
    })),
  };
}

/**
 * Replaces prerequisites that were composed away by their own prerequisites, so that order is kept across
 * the gap.
 */
function relink(all: Pack['procedures'], kept: Pack['procedures']): Pack['procedures'] {
  const everyStep = new Map(all.flatMap((procedure) => procedure.steps.map((s) => [s.id, s] as const)));
  const present = new Set(kept.flatMap((procedure) => procedure.steps.map((s) => s.id)));
  /** A step that is gone, as what it waited for: all of the clauses, and of each clause one member. */
  const stand = (id: string): Clause[] =>
    present.has(id) ? [[id]] : (everyStep.get(id)?.after ?? []).flatMap(clauses);
  const clauses = (each: Step['after'][number]): Clause[] => {
    if (typeof each === 'string') return stand(each);
    const here = each.anyOf.filter((id) => present.has(id));
    return here.length > 0 ? [here] : oneOf(each.anyOf.map(stand));
  };
  const after = (step: Step): Step['after'] => {
    const distinct = new Map(
      step.after.flatMap(clauses).map((clause) => [[...clause].sort().join(' '), clause]),
    );
    return [...distinct.values()].map((clause) => (clause.length === 1 ? clause[0]! : { anyOf: clause }));
  };
  return kept.map((procedure) => ({
    ...procedure,
    steps: procedure.steps.map((s) => ({ ...s, after: after(s) })),
  }));
}

/** One of these steps must come before. */
type Clause = string[];

/**
 * "One of these alternatives, each a list of clauses" as clauses that must all hold; an alternative that
 * asks for nothing leaves nothing to ask.
 */
function oneOf(alternatives: readonly Clause[][]): Clause[] {
  return alternatives.reduce<Clause[]>(
    (sofar, alternative) =>
      sofar.flatMap((clause) => alternative.map((other) => [...new Set([...clause, ...other])])),
    [[]],
  );
}
