import { canonicalJson } from './contentHash';
import type { Pack } from './schema';
import { type PackRow, packRows, type SectionId, SECTIONS } from './sections';

/** One field of a row that reads differently. */
export interface FieldChange {
  field: string;
  before: string;
  after: string;
}

/** One row that was added, removed, moved or changed between two packs. */
export interface RowChange {
  section: SectionId | 'class';
  sectionName: string;
  id: string;
  title: string;
  kind: 'added' | 'removed' | 'changed';
  fields: FieldChange[];
}

/** Words for a value in a difference: text as it is, anything else as compact JSON. */
function inWords(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  if (Array.isArray(value) && value.every((each) => typeof each === 'string' || typeof each === 'number'))
    return value.join(', ');
  return canonicalJson(value);
}

function fieldChanges(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
  skip: ReadonlySet<string>,
): FieldChange[] {
  const changes: FieldChange[] = [];
  for (const field of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if (skip.has(field)) continue;
    if (canonicalJson(before[field] ?? null) !== canonicalJson(after[field] ?? null))
      changes.push({ field, before: inWords(before[field]), after: inWords(after[field]) });
  }
  return changes;
}

/** Fields of a row that are rows of their own. */
const NESTED: Readonly<Partial<Record<SectionId, ReadonlySet<string>>>> = { procedures: new Set(['steps']) };
const NONE: ReadonlySet<string> = new Set();

/** What stands in the class outside its rows, flattened so that a change is named. */
function classFields(pack: Pack): Record<string, unknown> {
  const { sections, criticalErrors: _errors, ...sheet } = pack.sheet;
  const { failures: _failures, ...machine } = pack.machine;
  return {
    title: pack.title,
    family: pack.family,
    summary: pack.summary,
    provenance: pack.provenance,
    variants: pack.variants,
    conditions: pack.conditions,
    ppe: pack.ppe,
    'plan note': pack.plan.note,
    outlines: pack.plan.outlines,
    'members of the set': pack.plan.units,
    tables: pack.tables,
    teaching: pack.teaching,
    sheet,
    'sheet sections': sections.map(({ criteria: _criteria, ...each }) => each),
    machine,
  };
}

/**
 * What changed from one pack to another, row by row in reading order. Rows are matched by section and id;
 * the revision number is left out.
 * Order alone is no change. An empty list means the packs say the same.
 */
export function packDifferences(before: Pack, after: Pack): RowChange[] {
  const changes: RowChange[] = [];
  const top = fieldChanges(classFields(before), classFields(after), NONE);
  if (top.length > 0)
    changes.push({
      section: 'class',
      sectionName: 'Class',
      id: after.id,
      title: after.title,
      kind: 'changed',
      fields: top,
    });
  const key = (row: PackRow) => `${row.section}/${row.id}`;
  const earlier = new Map(packRows(before).map((row) => [key(row), row]));
  for (const row of packRows(after)) {
    const old = earlier.get(key(row));
    earlier.delete(key(row));
    const head = { section: row.section, sectionName: SECTIONS[row.section], id: row.id, title: row.title };
    if (!old)
      changes.push({
        ...head,
        kind: 'added',
        fields: fieldChanges({}, row.row, NESTED[row.section] ?? NONE),
      });
    else {
      const fields = fieldChanges(old.row, row.row, NESTED[row.section] ?? NONE);
      if (fields.length > 0) changes.push({ ...head, kind: 'changed', fields });
    }
  }
  for (const row of earlier.values())
    changes.push({
      section: row.section,
      sectionName: SECTIONS[row.section],
      id: row.id,
      title: row.title,
      kind: 'removed',
      fields: fieldChanges(row.row, {}, NESTED[row.section] ?? NONE),
    });
  return changes;
}
