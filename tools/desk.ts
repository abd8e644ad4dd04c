/**
 * `npm run -s desk -- table [CLASS]`: how the start, the function tests and the stop of a right operator come out on every
 * variant; `trials [CLASS]`: what is forbidden and what fails, tried; `log CLASS VARIANT`: the right operator's run second
 * by second; `run CLASS VARIANT SCRIPT`: one's own. A class is the id of one that ships, or a pack file.
 */
import { readFileSync } from 'node:fs';
import { compose, type EffectivePack, type Pack, readPack } from '@rounds/core/catalogue';
import {
  dealDesk,
  dealtMachine,
  type DeskAct,
  DESK_PROGRAMS,
  deskProcedures,
  isInClockOrder,
  judgeDesk,
  loggedActSchema,
  type LoggedAct,
  machineOf,
  MOST_TICKS,
  playScript,
  recognise,
  type ScriptedWork,
  TICKS,
  workThrough,
} from '@rounds/core/machine';
import { judge, type Judgement, judgementWords, session, type Trace } from '@rounds/core/procedure';
import { readScripts, shippedClasses, shippedPack, tryOut } from '@rounds/core/testing';
import { parse } from 'yaml';
import { z } from 'zod';

const USAGE = `usage: npm run -s desk -- table [CLASS]                  start, function tests and stop of every variant
       npm run -s desk -- trials [CLASS [SCRIPTS]]       what is forbidden and what fails, tried on every variant
       npm run -s desk -- log CLASS VARIANT              what the right operator does, second by second
       npm run -s desk -- run CLASS VARIANT SCRIPT [${DESK_PROGRAMS.join('|')}]
                                                         a run of one's own, judged: SCRIPT is a YAML or JSON list of
                                                         lines as in packs/scripts, or of acts with their ticks
CLASS is the id of a class that ships, or the .yaml file of another`;

/** What was asked for cannot be done; said without a trace of where. */
class Refused extends Error {}

/** A pack by the id of its class, or out of a file; every one that ships where none is named. */
function packsOf(named: string | undefined): Pack[] {
  if (!named) return shippedClasses().map(shippedPack);
  if (shippedClasses().includes(named)) return [shippedPack(named)];
  if (!/\.ya?ml$/.test(named))
    throw new Refused(
      `No class "${named}". There are: ${shippedClasses().join(', ')}; or name a .yaml file.`,
    );
  const { pack, errors } = readPack(readFileSync(named, 'utf8'));
  if (!pack) throw new Refused(errors.map((each) => `${named}:${each.line}: ${each.message}`).join('\n'));
  if (!pack.machine.desk) throw new Refused(`${named}: ${pack.title} has no desk.`);
  return [pack];
}

/** The machine of a class in a variant. */
function fitted(named: string, variant: string): EffectivePack {
  const pack = packsOf(named)[0]!;
  const variants = pack.variants.map((each) => each.id);
  if (!variants.includes(variant))
    throw new Refused(`No variant "${variant}" of ${pack.title}. There are: ${variants.join(', ')}.`);
  return compose(pack, { variant });
}

/** What becomes of a class in a variant when a scripted operator does everything as it is meant. */
interface Carried {
  pack: EffectivePack;
  work: ScriptedWork;
  trace: Trace;
  judgement: Judgement;
}

function carriedOut(pack: EffectivePack): Carried {
  const machine = machineOf(pack)!;
  const ids = deskProcedures(pack).map((each) => each.id);
  const steps = session(pack, ids);
  const work = workThrough(machine, steps);
  const { trace } = recognise(machine, pack, steps, work.log, work.state.tick);
  return { pack, work, trace, judgement: judge(pack, ids, trace) };
}

/** Says of every class and variant how its start, function tests and stop come out at the desk. */
function table(packs: readonly Pack[]): void {
  let right = 0;
  let all = 0;
  for (const whole of packs)
    for (const { id } of whole.variants) {
      const { pack, work, judgement } = carriedOut(compose(whole, { variant: id }));
      const wrong = judgement.steps.filter((each) => each.due && each.state !== 'done');
      const late = judgement.steps.flatMap((each) =>
        each.times.filter((time) => time.verdict === 'broken').map((time) => `${each.step.id} ${time.rule}`),
      );
      const rules = [...new Set(judgement.rules.map((each) => each.id))];
      const fine = wrong.length + late.length + rules.length === 0;
      all += 1;
      right += Number(fine);
      console.log(
        `${fine ? 'right' : 'NOT YET'}  ${whole.id}, ${id}: ${judgement.score?.toFixed(1)} of 100, ${judgement.steps.length} steps`,
      );
      for (const { id: procedure, title } of pack.procedures) {
        const own = judgement.steps.filter((each) => each.due && each.step.procedure === procedure);
        const done = own.filter((each) => each.state === 'done').length;
        if (own.length > 0) console.log(`       ${title}: ${done} of ${own.length} steps`);
      }
      for (const { step, why } of work.problems) console.log(`    cannot do ${step}: ${why}`);
      for (const each of wrong) console.log(`    ${each.step.id}: ${each.state}`);
      for (const each of late) console.log(`    ${each}: not kept`);
      for (const each of rules) console.log(`    forbidden and done: ${each}`);
    }
  console.log(`${right} of ${all} right`);
  if (right < all) process.exitCode = 1;
}

const inWords = (act: DeskAct): string => {
  switch (act.kind) {
    case 'go':
      return `go to ${act.place}`;
    case 'set':
      return `${act.control} = ${act.to}`;
    case 'pedal':
      return `${act.control} = ${act.to}`;
    case 'look':
      return act.look;
    case 'call':
      return `call: ${act.says}`;
    case 'away':
      return `done away from the desk: ${act.step}`;
    case 'answer':
      return `answered about ${act.rule}: ${act.offer === 0 ? 'right' : 'wrong'}`;
    case 'arm':
      return `armed: ${act.failure}`;
    case 'scene':
      return `scene: ${act.name} = ${act.to}`;
    default:
      return `${act.kind} ${act.control}`;
  }
};

/** Says second by second what is done, and which steps it came out as. */
function timeline(log: readonly LoggedAct[], trace: Trace, begun: ScriptedWork['begun'] = []): void {
  const lines = [
    ...begun.map(({ step, tick }) => ({ at: tick / TICKS, line: `-- ${step}` })),
    ...log.map(({ tick, act }) => ({ at: tick / TICKS, line: `   ${inWords(act)}` })),
    ...trace.events.map(({ at, token }) => ({ at, line: `      > ${token}` })),
    ...trace.broken.map(({ at, until, rule }) => ({
      at,
      line: `      ! ${rule}${until === undefined ? '' : `, for ${(until - at).toFixed(1)} s`}`,
    })),
  ];
  for (const { at, line } of lines.sort((a, b) => a.at - b.at))
    console.log(`${at.toFixed(1).padStart(8)} ${line}`);
}

function log(pack: EffectivePack): void {
  const { work, trace } = carriedOut(pack);
  timeline(work.log, trace, work.begun);
}

/** A script as lines to be played, or as a log of acts with their ticks. */
function readScript(file: string): { lines: string[] } | { log: LoggedAct[] } {
  const text: unknown = parse(readFileSync(file, 'utf8'));
  const lines = z.array(z.string()).min(1).safeParse(text);
  if (lines.success) return { lines: lines.data };
  const log = z.array(loggedActSchema).min(1).safeParse(text);
  if (log.success && isInClockOrder(log.data, MOST_TICKS)) return { log: log.data };
  const where = log.error?.issues[0];
  throw new Refused(
    `${file}: wanted is a list of lines such as "key = on", or of acts in the order of their ticks, such as ` +
      `{ tick: 10, act: { kind: press, control: horn } }${where ? ` (at ${where.path.join('.')}: ${where.message})` : ''}.`,
  );
}

/** A log goes on for a second after its last act. */
const asLogged = (log: LoggedAct[]) => ({ log, ticks: log.at(-1)!.tick + TICKS, refused: [] });

/** Runs somebody's own script at a desk, and says what it came out as. */
function run(pack: EffectivePack, file: string, named = 'whole'): void {
  const program = DESK_PROGRAMS.find((each) => each === named);
  if (!program) throw new Refused(`No program "${named}". There are: ${DESK_PROGRAMS.join(', ')}.`);
  const machine = machineOf(pack)!;
  const deal = dealDesk(pack, machine, program, { surprise: false, seed: 1 });
  const script = readScript(file);
  const played =
    'log' in script ? asLogged(script.log) : playScript(machine, script.lines, dealtMachine(machine, deal));
  const { result, judgement } = judgeDesk(pack, machine, deal, played.log, played.ticks);
  timeline(played.log, result.trace);
  for (const { line, why } of played.refused) console.log(`could not be done: ${line} (${why})`);
  if (result.score !== null)
    for (const each of judgementWords(judgement, result.trace))
      console.log(`${each.critical ? '! ' : '  '}${each.says}`);
  const score = result.score === null ? 'nothing judged' : `${result.score.toFixed(1)} of 100`;
  console.log(
    `${score}, ${result.critical} critical, ${result.breaches.length} forbidden, ${result.seconds.toFixed(1)} s`,
  );
  if (played.refused.length > 0) process.exitCode = 1;
}

/** Says of every forbidden row and every failure what comes of it when it is tried. */
function trials(packs: readonly Pack[], scripts: string | undefined): void {
  const given = scripts ? { scripts: readScripts(readFileSync(scripts, 'utf8')) } : {};
  for (const kind of ['forbidden', 'failures'] as const) {
    const rows = packs.flatMap((pack) =>
      tryOut(kind, pack, given).map((row) => ({ classId: pack.id, ...row })),
    );
    for (const { classId, id, results } of rows) {
      const wrong = results.filter((each) => !each.shown);
      const told = wrong[0] ?? results[0];
      const on = wrong.length > 0 ? ` (${wrong.map((each) => each.on).join(', ')})` : '';
      console.log(
        `${told?.shown ? 'shown  ' : 'NOT YET'}  ${classId} ${id}: ${told?.says ?? 'no machine has it'}${on}`,
      );
    }
    const shown = rows.filter(({ results }) => results.length > 0 && results.every((each) => each.shown));
    const asked = shown.filter(({ results }) => results.every((each) => each.asked)).length;
    const tried = rows.reduce((sum, { results }) => sum + results.length, 0);
    console.log(
      `${kind}: ${shown.length} of ${rows.length} shown, tried ${tried} times on all variants; ` +
        `${shown.length - asked} at the desk, ${asked} asked on a card (${((100 * asked) / rows.length).toFixed(1)} %)`,
    );
    if (shown.length < rows.length) process.exitCode = 1;
  }
}

const [what, named, variant, file, program] = process.argv.slice(2);
try {
  if (what === 'table') table(packsOf(named));
  else if (what === 'trials') trials(packsOf(named), variant);
  else if (what === 'log' && named && variant) log(fitted(named, variant));
  else if (what === 'run' && named && variant && file) run(fitted(named, variant), file, program);
  else throw new Refused(USAGE);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
}
