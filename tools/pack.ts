/** `npm run -s pack -- check FILE...`: validates class packs and names file, line and rule of each error. */
import { readFileSync } from 'node:fs';
import { packJsonSchema, readPack } from '../core/src/index';

const [command, ...files] = process.argv.slice(2);

if (command === 'schema') {
  console.log(JSON.stringify(packJsonSchema(), null, 2));
} else if (command === 'check' && files.length > 0) {
  let bad = 0;
  for (const file of files) {
    let source: string;
    try {
      source = readFileSync(file, 'utf8');
    } catch (error) {
      console.log(`${file}: cannot be read (${error instanceof Error ? error.message : String(error)})`);
      bad += 1;
      continue;
    }
    const reading = readPack(source);
    if (reading.pack) {
      const { pack } = reading;
      const steps = pack.procedures.reduce((sum, each) => sum + each.steps.length, 0);
      const criteria = pack.sheet.sections.reduce((sum, each) => sum + each.criteria.length, 0);
      console.log(
        `${file}: sound (${pack.checkpoints.length} checkpoints, ${pack.faults.length} faults, ${pack.procedures.length} procedures, ${steps} steps, ${pack.numbers.length} numbers, ${criteria} criteria)`,
      );
    } else {
      bad += 1;
      for (const error of reading.errors) console.log(`${file}:${error.line}: ${error.rule}: ${error.message}${error.path ? ` (at ${error.path})` : ''}`);
    }
  }
  process.exitCode = bad > 0 ? 1 : 0;
} else {
  console.error('usage: npm run -s pack -- check FILE...   or   npm run -s pack -- schema');
  process.exitCode = 2;
}
