/**
 * `npm run -s pack -- check|format|diff|coverage|schema`: works on class packs as files. Errors name file,
 * line and rule.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import {
  coverage,
  type Coverage,
  formatPackYaml,
  type Pack,
  packDifferences,
  packJsonSchema,
  readPack,
} from '@rounds/core/catalogue';

const USAGE = `usage: npm run -s pack -- check FILE...       validate packs: file, line and rule of each error
       npm run -s pack -- format FILE...      put packs into the house style (content and comments stay); says which changed
       npm run -s pack -- diff BEFORE AFTER   what changed from one pack to another, row by row
       npm run -s pack -- coverage [FILE...]  rows by kind and class, and the rows that want an origin, a cue or a reason
       npm run -s pack -- schema              the JSON Schema (draft 2020-12) of a pack`;

/** A pack from a file; null after its errors were printed. */
function load(file: string): Pack | null {
  let source: string;
  try {
    source = readFileSync(file, 'utf8');
  } catch (error) {
    console.log(`${file}: cannot be read (${error instanceof Error ? error.message : String(error)})`);
    return null;
  }
  const reading = readPack(source);
  for (const error of reading.errors)
    console.log(
      `${file}:${error.line}: ${error.rule}: ${error.message}${error.path ? ` (at ${error.path})` : ''}`,
    );
  return reading.pack;
}

function check(files: readonly string[]): boolean {
  let good = true;
  for (const file of files) {
    const pack = load(file);
    good &&= pack !== null;
    if (!pack) continue;
    const { counts } = coverage(pack);
    console.log(
      `${file}: sound (${counts.checkpoints} checkpoints, ${counts.faults} faults, ` +
        `${counts.procedures} procedures, ${counts.steps} steps, ${counts.numbers} numbers, ` +
        `${counts.criteria} criteria)`,
    );
  }
  return good;
}

function format(files: readonly string[]): boolean {
  let good = true;
  for (const file of files) {
    if (!load(file)) {
      good = false;
      continue;
    }
    const before = readFileSync(file, 'utf8');
    const after = formatPackYaml(before);
    if (after !== before) writeFileSync(file, after);
    console.log(`${file}: ${after === before ? 'already in style' : 'formatted'}`);
  }
  return good;
}

function diff(before: string, after: string): boolean {
  const a = load(before);
  const b = load(after);
  if (!a || !b) return false;
  const changes = packDifferences(a, b);
  for (const change of changes) {
    console.log(
      `${{ added: '+', removed: '-', changed: '~' }[change.kind]} ${change.sectionName} ` +
        `${change.id}: ${change.title}`,
    );
    if (change.kind === 'changed')
      for (const field of change.fields)
        console.log(`    ${field.field}: ${field.before || '(nothing)'} -> ${field.after || '(nothing)'}`);
  }
  console.log(changes.length === 0 ? 'no difference' : `${changes.length} rows differ`);
  return true;
}

function printCoverage(files: readonly string[]): boolean {
  const all: Coverage[] = [];
  let good = true;
  for (const file of files) {
    const pack = load(file);
    if (pack) all.push(coverage(pack));
    else good = false;
  }
  if (all.length === 0) return false;
  const kinds = Object.keys(all[0]!.counts) as (keyof Coverage['counts'])[];
  const width = Math.max(...all.map((each) => each.classId.length), 5);
  const line = (name: string, cells: readonly (string | number)[]) =>
    console.log(
      `${name.padEnd(width)} ${cells.map((cell, i) => String(cell).padStart(kinds[i]!.length)).join('  ')}`,
    );
  line('class', kinds);
  for (const each of all)
    line(
      each.classId,
      kinds.map((kind) => each.counts[kind]),
    );
  line(
    'total',
    kinds.map((kind) => all.reduce((sum, each) => sum + each.counts[kind], 0)),
  );
  const lists = [
    ['without origin', 'withoutOrigin'],
    ['faults nobody can detect with the allowed methods', 'undetectable'],
    ['steps without reason', 'withoutReason'],
    ['steps that wait for nothing there', 'dangling'],
  ] as const;
  for (const [words, field] of lists) {
    const ids = all.flatMap((each) => each[field].map((id) => `${each.classId}/${id}`));
    console.log(`${words}: ${ids.length}${ids.length > 0 ? ` (${ids.join(', ')})` : ''}`);
  }
  return good;
}

const [command, ...files] = process.argv.slice(2);
const everyPack = () =>
  readdirSync('packs')
    .filter((name) => name.endsWith('.yaml'))
    .sort()
    .map((name) => `packs/${name}`);
let good: boolean;
if (command === 'schema') {
  console.log(JSON.stringify(packJsonSchema(), null, 2));
  good = true;
} else if (command === 'check' && files.length > 0) good = check(files);
else if (command === 'format' && files.length > 0) good = format(files);
else if (command === 'diff' && files.length === 2) good = diff(files[0]!, files[1]!);
else if (command === 'coverage') good = printCoverage(files.length > 0 ? files : everyPack());
else {
  console.error(USAGE);
  process.exit(2);
}
process.exitCode = good ? 0 : 1;
