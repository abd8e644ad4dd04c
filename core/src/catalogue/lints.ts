import { changedRow } from './compose';
import { lintEvidence } from './evidenceLints';
import { gradeKind } from './gradeKinds';
import type { PackIssue, Path, Report } from './packIssue';
import type { Checkpoint, Fault, Pack, Timing } from './schema';
import { lintOrder, lintWritten } from './startStopOrder';

type Option = Pack['schools'][number]['options'][number];

/** Most words of a fault's title, which stands on a button. */
const TITLE_WORDS = 8;
/** Least words of an instruction or a consequence. */
const LEAST_WORDS = 3;

/** Words that mean something to whoever wrote the row and nothing to whoever hears it. */
const UNSPEAKABLE = /\b(memory|practice|as left|same|see above)\b/i;
/** Texts about a row rather than for a trainer's voice. */
const UNSPOKEN = new Set([
  'id',
  'origin',
  'provenance',
  'needs',
  'kind',
  'departs',
  'path',
  'unit',
  'family',
  'machine',
  'token',
  'state',
  'evidence',
  'drawing',
]);

/** Systems whose parts are never put out of order to teach. */
const NEVER_ALTERED_SYSTEMS = new Set([
  'brakes',
  'steering',
  'safety-device',
  'structure',
  'hoist-rope-chain',
]);
const NEVER_ALTERED_PARTS = /\b(guards?|lock|locks|interlocks?|rope|ropes|chains?|structure)\b/i;

const wordCount = (text: string) => text.trim().split(/\s+/).length;

/**
 * What a pack must keep to beyond being sound: words that a trainer can say, figures whose meaning is
 * judged, faults that may be planted, grades alike in every class, and an order of starting and stopping in
 * which every critical step comes in time. Returns every issue; an empty list means none.
 */
export function packLints(pack: Pack): PackIssue[] {
  const issues: PackIssue[] = [];
  const report: Report = (path, rule, message) => issues.push({ path, rule, message });
  lintSpoken(pack, [], report);
  lintChecks(pack, report);
  lintFaults(pack, report);
  pack.procedures.forEach((procedure, i) =>
    procedure.steps.forEach((step, j) => {
      if (step.timing) lintTiming(step.timing, step.id, ['procedures', i, 'steps', j, 'timing'], report);
    }),
  );
  lintSchools(pack, report);
  lintSheet(pack, report);
  lintEvidence(pack, report);
  lintWritten(pack, report);
  lintOrder(pack, report);
  return issues;
}

function lintSpoken(value: unknown, path: Path, report: Report): void {
  if (typeof value === 'string') {
    const found = UNSPEAKABLE.exec(value);
    if (found)
      report(path, 'unspeakable', `"${found[0]}" says nothing to whoever hears it: "${value.slice(0, 80)}"`);
  } else if (Array.isArray(value)) value.forEach((each, i) => lintSpoken(each, [...path, i], report));
  else if (value !== null && typeof value === 'object')
    for (const [key, each] of Object.entries(value))
      if (!UNSPOKEN.has(key)) lintSpoken(each, [...path, key], report);
}

function lintChecks(pack: Pack, report: Report): void {
  pack.checkpoints.forEach((each, i) => {
    const appears = Object.keys(each.appears);
    for (const method of each.methods)
      if (!appears.includes(method))
        report(
          ['checkpoints', i, 'appears'],
          'appearance',
          `check "${each.id}" does not say what a sound part shows to "${method}"`,
        );
    for (const method of appears)
      if (!(each.methods as string[]).includes(method))
        report(
          ['checkpoints', i, 'appears', method],
          'appearance',
          `check "${each.id}" shows something to "${method}", which it does not allow`,
        );
  });
}

/** Whether a check's part is one that is never put out of order to teach. */
function neverAltered(checkpoint: Checkpoint): boolean {
  return NEVER_ALTERED_SYSTEMS.has(checkpoint.system) || NEVER_ALTERED_PARTS.test(checkpoint.part);
}

function lintFaults(pack: Pack, report: Report): void {
  const checkpoints = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const titles = new Map<string, string>();
  pack.faults.forEach((fault, i) => {
    const path: Path = ['faults', i];
    const checkpoint = checkpoints.get(fault.checkpoint);
    if (wordCount(fault.title) > TITLE_WORDS)
      report([...path, 'title'], 'title', `the title of "${fault.id}" has more than ${TITLE_WORDS} words`);
    const key = `${fault.checkpoint} ${fault.title.toLowerCase()}`;
    if (titles.has(key))
      report([...path, 'title'], 'title', `"${fault.id}" is called like "${titles.get(key)}" of one check`);
    else titles.set(key, fault.id);
    for (const field of ['do', 'why'] as const)
      if (wordCount(fault[field]) < LEAST_WORDS)
        report([...path, field], 'too-short', `"${fault[field]}" is no full ${field} for "${fault.id}"`);
    fault.cues.forEach((cue, j) => {
      if (checkpoint && !checkpoint.methods.includes(cue.method))
        report(
          [...path, 'cues', j, 'method'],
          'cue-method',
          `"${fault.id}" shows itself to "${cue.method}", which check "${checkpoint.id}" does not allow`,
        );
    });
    lintGrade(fault, path, report);
    if (!fault.plant && !fault.substitute)
      report(path, 'substitute', `"${fault.id}" is not planted and does not say how else it is shown`);
    if (fault.substitute && wordCount(fault.substitute) < LEAST_WORDS)
      report([...path, 'substitute'], 'too-short', `"${fault.substitute}" does not say how it is shown`);
    if (fault.plant && wordCount(fault.plant.how) < LEAST_WORDS)
      report([...path, 'plant', 'how'], 'too-short', `"${fault.plant.how}" does not say how it is planted`);
    if (fault.plant?.as === 'change' && checkpoint && neverAltered(checkpoint))
      report(
        [...path, 'plant'],
        'plant-alters',
        `"${fault.id}" alters ${checkpoint.part}: there a plant is a mark, a card or a sample`,
      );
  });
}

function lintGrade(fault: Fault, path: Path, report: Report): void {
  if (fault.grade === 'mend' && !fault.until)
    report(path, 'mend-bound', `the mend "${fault.id}" does not say how far it may go on`);
  if (fault.grade !== 'mend' && fault.until)
    report([...path, 'until'], 'mend-bound', `"${fault.id}" is no mend and has a bound`);
  if (fault.until && ['hours', 'days'].includes(fault.until.bound) && fault.until.n === undefined)
    report([...path, 'until'], 'mend-bound', `"${fault.id}" does not say how many ${fault.until.bound}`);
  if (!fault.kind) {
    if (fault.departs)
      report([...path, 'departs'], 'grade-kind', `"${fault.id}" departs from a kind it does not name`);
    return;
  }
  const kind = gradeKind(fault.kind);
  const keeps = fault.grade === kind.grade && (kind.bound === undefined || fault.until?.bound === kind.bound);
  const asked = `${kind.grade}${kind.bound ? `, ${kind.bound}` : ''}`;
  if (!keeps && !fault.departs)
    report(
      [...path, 'grade'],
      'grade-kind',
      `"${kind.says}" is ${asked} in every class; "${fault.id}" keeps to it or says why not`,
    );
  if (keeps && fault.departs)
    report([...path, 'departs'], 'grade-kind', `"${fault.id}" keeps to its kind and needs no reason`);
}

function lintTiming(timing: Timing, id: string, path: Path, report: Report): void {
  const { means, least, most, until } = timing;
  if ((means === 'dwell' || means === 'rest') && least === undefined && until === undefined)
    report(path, 'timing', `the ${means} of "${id}" has no least`);
  if ((means === 'limit' || means === 'within') && most === undefined)
    report(path, 'timing', `the ${means} of "${id}" has no most`);
  if (means === 'count' && least === undefined && most === undefined)
    report(path, 'timing', `the count of "${id}" has no number`);
  if (means === 'none' && (least ?? most ?? timing.tries ?? timing.rest) !== undefined)
    report(path, 'timing', `the timing of "${id}" is said only and has a figure`);
  if ((least ?? most) !== undefined && timing.unit === undefined)
    report(path, 'timing', `the timing of "${id}" has no unit`);
  if (least !== undefined && most !== undefined && least > most)
    report(path, 'timing', `the timing of "${id}" has its figures the wrong way round`);
}

function lintSchools(pack: Pack, report: Report): void {
  pack.schools.forEach((school, i) => {
    const defaultSets = school.options.find((each) => each.id === school.default)?.sets.length ?? 0;
    school.options.forEach((option, j) => {
      const acts = option.sets.length > 0 || defaultSets > 0;
      const path: Path = ['schools', i, 'options', j];
      if (option.id !== school.default && !acts && !option.taughtOnly)
        report(
          path,
          'school-acts',
          `option "${option.id}" of "${school.id}" sets nothing; mark it as taught only`,
        );
      if (option.sets.length > 0) lintChoice(pack, school.id, option, path, report);
      if (option.taughtOnly && option.sets.length > 0)
        report(
          path,
          'school-acts',
          `option "${option.id}" of "${school.id}" is taught only and sets something`,
        );
    });
  });
}

/** Rows that an option leaves as no row may be: a mend without a bound, a check without its appearances. */
function lintChoice(pack: Pack, school: string, option: Option, path: Path, report: Report): void {
  const leaves = (id: string, what: string) =>
    report(path, 'school-leaves', `option "${option.id}" of "${school}" leaves ${what} ("${id}")`);
  const changed = <T extends { id: string }>(kind: string, rows: readonly T[]): T[] =>
    rows.flatMap((row) => changedRow(kind, row, option.sets) ?? []);
  for (const fault of changed('faults', pack.faults))
    if (fault.grade === 'mend' && !fault.until) leaves(fault.id, 'a mend without a bound');
  for (const each of changed('checkpoints', pack.checkpoints))
    if (each.methods.some((method) => each.appears[method] === undefined))
      leaves(each.id, 'a method without an appearance');
  const steps = pack.procedures.flatMap((each) => each.steps);
  for (const step of changed('steps', steps)) if (step.timing) lintTiming(step.timing, step.id, path, report);
}

function lintSheet(pack: Pack, report: Report): void {
  const procedures = new Set(pack.procedures.map((each) => each.id));
  const measures = new Set<string>();
  pack.sheet.sections.forEach((section, i) =>
    section.criteria.forEach((criterion, j) => {
      const link = criterion.link;
      if (!link) return;
      measures.add(link.measure);
      const path: Path = ['sheet', 'sections', i, 'criteria', j, 'link'];
      if (link.measure === 'procedure' && !link.procedures?.length)
        report(path, 'sheet-procedure', `criterion "${criterion.id}" does not name the procedure it judges`);
      for (const id of link.procedures ?? [])
        if (!procedures.has(id))
          report(path, 'sheet-procedure', `criterion "${criterion.id}" judges unknown procedure "${id}"`);
    }),
  );
  for (const wanted of [
    'coverage',
    'hands-on',
    'start-and-closure',
    'pace',
    'planted-faults-found-and-graded',
  ])
    if (!measures.has(wanted)) report(['sheet'], 'sheet-measures', `nothing on the sheet measures ${wanted}`);
}
