import type { Pack } from './schema';

/** The parts of a class page, in the order a trainer reads them. */
export const PARTS = [
  'round',
  'faults',
  'start-stop',
  'procedures',
  'numbers',
  'sheet',
  'schools',
  'cautions',
  'teaching',
] as const;
export type Part = (typeof PARTS)[number];

/**
 * A row of a pack wherever it stands: its section, its path in the pack, the part of the class page that
 * shows it, and its words.
 */
export interface PackRow {
  section: SectionId;
  id: string;
  title: string;
  /** Everything the row says, for searching. */
  says: string;
  part: Part;
  path: (string | number)[];
  row: Readonly<Record<string, unknown>>;
}

/** Kinds of row in a pack. */
export const SECTIONS = {
  features: 'Switch',
  stations: 'Station',
  checkpoints: 'Check',
  faults: 'Fault',
  procedures: 'Procedure',
  steps: 'Step',
  forbidden: 'Forbidden',
  failures: 'Simulated failure',
  numbers: 'Number',
  workings: 'Working',
  criteria: 'Criterion',
  criticalErrors: 'Critical error',
  schools: 'School',
  cautions: 'Caution',
  ladder: 'Rung of teaching',
  certification: 'Certification note',
  mistakes: 'Common mistake',
} as const;
export type SectionId = keyof typeof SECTIONS;

/** Whether a procedure belongs to starting or stopping the machine, rather than to its work. */
export function startsOrStops(kind: Pack['procedures'][number]['kind']): boolean {
  return kind === 'startup' || kind === 'shutdown' || kind === 'prepare' || kind === 'function-test';
}

/** Every row of a pack, in reading order. */
export function packRows(pack: Pack): PackRow[] {
  const rows: PackRow[] = [];
  const add = (
    section: SectionId,
    part: Part,
    row: { id: string },
    path: (string | number)[],
    title: string,
    words: (string | undefined)[],
  ) =>
    rows.push({
      section,
      part,
      id: row.id,
      title,
      says: words.filter(Boolean).join('. '),
      path,
      row: row as unknown as Record<string, unknown>,
    });
  const partName = new Map(pack.checkpoints.map((each) => [each.id, each.part]));

  pack.features.forEach((each, i) =>
    add('features', 'round', each, ['features', i], each.name, [each.changes, each.values.join(', ')]),
  );
  pack.plan.stations.forEach((each, i) =>
    add('stations', 'round', each, ['plan', 'stations', i], each.name, [each.looks]),
  );
  pack.checkpoints.forEach((each, i) =>
    add('checkpoints', 'round', each, ['checkpoints', i], each.part, [
      each.sound,
      ...Object.values(each.appears),
      each.whenNote,
      each.methods.join(', '),
      each.system,
    ]),
  );
  pack.faults.forEach((each, i) =>
    add('faults', 'faults', each, ['faults', i], each.title, [
      partName.get(each.checkpoint),
      ...each.cues.map((cue) => cue.shows),
      each.grade,
      each.why,
      each.do,
      each.until?.says,
      each.escalates,
      each.plant?.how,
      each.substitute,
    ]),
  );
  pack.procedures.forEach((each, i) => {
    const part = startsOrStops(each.kind) ? 'start-stop' : 'procedures';
    add('procedures', part, each, ['procedures', i], each.title, each.notes);
    each.steps.forEach((s, j) =>
      add('steps', part, s, ['procedures', i, 'steps', j], s.do, [
        each.title,
        s.why,
        s.ifFails,
        s.timing?.says,
        s.holds.join(', '),
        s.afterNote,
      ]),
    );
  });
  pack.forbidden.forEach((each, i) =>
    add('forbidden', 'procedures', each, ['forbidden', i], each.rule, ['forbidden']),
  );
  pack.machine.failures.forEach((each, i) =>
    add('failures', 'procedures', each, ['machine', 'failures', i], each.failure, [
      each.shows,
      each.response,
    ]),
  );
  pack.numbers.forEach((each, i) =>
    add('numbers', 'numbers', each, ['numbers', i], each.name, [
      each.says,
      each.value?.toString(),
      each.range?.join(' to '),
      each.unit,
      each.meaning,
      each.origin.cite,
    ]),
  );
  pack.workings.forEach((each, i) =>
    add('workings', 'numbers', each, ['workings', i], each.title, [each.says, each.example]),
  );
  pack.sheet.sections.forEach((section, i) =>
    section.criteria.forEach((each, j) =>
      add('criteria', 'sheet', each, ['sheet', 'sections', i, 'criteria', j], each.says, [section.title]),
    ),
  );
  pack.sheet.criticalErrors.forEach((each, i) =>
    add('criticalErrors', 'sheet', each, ['sheet', 'criticalErrors', i], each.says, ['critical error']),
  );
  pack.schools.forEach((each, i) =>
    add(
      'schools',
      'schools',
      each,
      ['schools', i],
      each.question,
      each.options.map((o) => o.says),
    ),
  );
  pack.cautions.forEach((each, i) =>
    add('cautions', 'cautions', each, ['cautions', i], each.point, [each.detail]),
  );
  pack.teaching.ladder.forEach((each, i) =>
    add('ladder', 'teaching', each, ['teaching', 'ladder', i], each.says, [each.criterion]),
  );
  pack.certification.forEach((each, i) =>
    add('certification', 'teaching', each, ['certification', i], each.says, []),
  );
  pack.mistakes.forEach((each, i) =>
    add('mistakes', 'teaching', each, ['mistakes', i], each.says, [each.helps]),
  );
  return rows;
}
