/**
 * `npm run -s judge -- PACK PROCEDURE TRACE`: judges a trace (CSV or XES) by a procedure of a pack file and prints the
 * report. `npm run -s judge -- table`: the right run and five wrong ones of every class's startup and shutdown.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { compose, type EffectivePack, readPack } from '@rounds/core/catalogue';
import {
  judge,
  judgementWords,
  momentWords,
  rightRun,
  session,
  type Trace,
  wrongRuns,
} from '@rounds/core/procedure';
import { readTraceCsv, readTraceXes } from '../server/src/index';

const USAGE = `usage: npm run -s judge -- PACK PROCEDURE TRACE [VARIANT]   judge a trace (.csv or .xes); several procedures as P1+P2
       npm run -s judge -- table                             right and wrong runs of every class, judged`;

function effective(file: string, variant?: string): EffectivePack {
  const { pack, errors } = readPack(readFileSync(file, 'utf8'));
  if (!pack) throw new Error(`${file}:${errors[0]!.line}: ${errors[0]!.message}`);
  return compose(pack, { variant: variant ?? pack.variants[0]!.id });
}

function report(pack: EffectivePack, procedures: readonly string[], trace: Trace): void {
  const judgement = judge(pack, procedures, trace);
  const titles = judgement.session.procedures.map((each) => each.title).join(', ');
  console.log(`${pack.title}: ${titles}`);
  console.log(
    `Score ${judgement.score === null ? 'none' : judgement.score.toFixed(1)}, ${judgement.critical} critical, ` +
      `${judgement.moves} to move, ${judgement.invertedPairs} pairs the wrong way round`,
  );
  for (const each of judgementWords(judgement, trace))
    console.log(`${each.critical ? '! ' : '  '}${each.says}`);
  console.log('');
  for (const { step, event, state } of judgement.steps)
    console.log(
      `${event === null ? '    --' : momentWords(trace.events[event]!.at).padStart(6)}  ${state.padEnd(12)} ${step.id}  ${step.do}`,
    );
}

function one([file, procedure, traceFile, variant]: readonly string[]): void {
  const pack = effective(file!, variant);
  const procedures = procedure!.split('+');
  const own = session(pack, procedures);
  const text = readFileSync(traceFile!, 'utf8');
  const { trace, remarks } = /\.(xes|xml)$/i.test(traceFile!)
    ? readTraceXes(text, own)
    : readTraceCsv(text, own);
  for (const each of remarks) console.log(`${traceFile}:${each.line}: ${each.says}; ${each.kept}`);
  report(pack, procedures, trace);
}

/** Every class's startup and shutdown: the score of the right run, then of each wrong one with its first sentence. */
function table(): boolean {
  let good = true;
  const folder = join(import.meta.dirname, '..', 'packs');
  for (const file of readdirSync(folder).filter((each) => each.endsWith('.yaml'))) {
    const pack = effective(join(folder, file));
    for (const procedure of pack.procedures.filter(
      (each) => each.kind === 'startup' || each.kind === 'shutdown',
    )) {
      const right = judge(pack, [procedure.id], rightRun(pack, [procedure.id]));
      good &&= right.score === 100;
      console.log(`${pack.id} ${procedure.id} ${procedure.kind}: right run ${right.score}`);
      for (const { kind, names, trace } of wrongRuns(pack, [procedure.id])) {
        const judged = judge(pack, [procedure.id], trace);
        const says = judgementWords(judged, trace)[0]!.says;
        const named = says.includes(names) && judged.score !== null && judged.score < 100;
        good &&= named;
        console.log(
          `  ${named ? 'named ' : 'MISSED'} ${kind.padEnd(9)} ${(judged.score ?? 0).toFixed(1).padStart(5)}  ${says}`,
        );
      }
    }
  }
  return good;
}

const args = process.argv.slice(2);
try {
  if (args[0] === 'table') process.exitCode = table() ? 0 : 1;
  else if (args.length >= 3) one(args);
  else {
    console.error(USAGE);
    process.exitCode = 2;
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
}
