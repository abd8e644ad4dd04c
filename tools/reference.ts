/**
 * `npm run -s reference -- FILE...`: runs every case of reference files; the last line is `N passed, N
 * failed` (and skipped, when a kind is not built).
 */
import { readFileSync } from 'node:fs';
import { type ReferenceCase, runReferenceCase } from '@rounds/core/reference';

const files = process.argv.slice(2);
if (files.length === 0) {
  console.error('usage: npm run -s reference -- FILE...');
  process.exit(2);
}
const tally = { passed: 0, failed: 0, skipped: 0 };
for (const file of files) {
  let cases: ReferenceCase[];
  try {
    const parsed = JSON.parse(readFileSync(file, 'utf8')) as { cases?: ReferenceCase[] };
    if (!Array.isArray(parsed.cases)) throw new Error('it has no list of cases');
    cases = parsed.cases;
  } catch (error) {
    console.log(
      `${file}: cannot be read as a reference file: ` +
        `${error instanceof Error ? error.message : String(error)}`,
    );
    tally.failed += 1;
    continue;
  }
  const skippedKinds = new Map<string, number>();
  const before = { ...tally };
  for (const each of cases) {
    const result = runReferenceCase(each);
    tally[result.outcome] += 1;
    if (result.outcome === 'failed')
      console.log(`FAILED  ${each.kind}: ${each.name}\n        ${result.differences.join('\n        ')}`);
    if (result.outcome === 'skipped') skippedKinds.set(each.kind, (skippedKinds.get(each.kind) ?? 0) + 1);
  }
  for (const [kind, n] of skippedKinds) console.log(`SKIPPED ${kind}: ${n} cases, this kind is not built`);
  console.log(
    `${file}: ${tally.passed - before.passed} passed, ${tally.failed - before.failed} ` +
      `failed, ${tally.skipped - before.skipped} skipped`,
  );
}
console.log(
  `${tally.passed} passed, ${tally.failed} failed${tally.skipped > 0 ? `, ${tally.skipped} skipped` : ''}`,
);
process.exitCode = tally.failed > 0 ? 1 : 0;
