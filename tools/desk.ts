import { compose, type EffectivePack } from '@rounds/core/catalogue';
import {
  type DeskAct,
  deskProcedures,
  machineOf,
  recognise,
  type ScriptedWork,
  TICKS,
  workThrough,
} from '@rounds/core/machine';
import { judge, type Judgement, session, type Trace } from '@rounds/core/procedure';
import { shippedClasses, shippedPack, tryOut } from '@rounds/core/testing';

/** What becomes of a class in a variant when a scripted operator does everything as it is meant. */
interface Carried {
  pack: EffectivePack;
  work: ScriptedWork;
  trace: Trace;
  judgement: Judgement;
}

function carriedOut(classId: string, variant: string): Carried {
  const pack = compose(shippedPack(classId), { variant });
  const machine = machineOf(pack)!;
  const ids = deskProcedures(pack).map((each) => each.id);
  const steps = session(pack, ids);
  const work = workThrough(machine, steps);
  const { trace } = recognise(machine, pack, steps, work.log, work.state.tick);
  return { pack, work, trace, judgement: judge(pack, ids, trace) };
}

/** Says of every class and variant how its start, function tests and stop come out at the desk. */
function table(only: string | undefined): void {
  let right = 0;
  let all = 0;
  for (const classId of shippedClasses().filter((each) => !only || each === only))
    for (const { id } of shippedPack(classId).variants) {
      const { pack, work, judgement } = carriedOut(classId, id);
      const wrong = judgement.steps.filter((each) => each.due && each.state !== 'done');
      const late = judgement.steps.flatMap((each) =>
        each.times.filter((time) => time.verdict === 'broken').map((time) => `${each.step.id} ${time.rule}`),
      );
      const rules = [...new Set(judgement.rules.map((each) => each.id))];
      const fine = wrong.length + late.length + rules.length === 0;
      all += 1;
      right += Number(fine);
      console.log(
        `${fine ? 'right' : 'NOT YET'}  ${classId}, ${id}: ${judgement.score?.toFixed(1)} of 100, ${judgement.steps.length} steps`,
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

/** Says second by second what the scripted operator does, and which steps it came out as. */
function log(classId: string, variant: string): void {
  const { work, trace } = carriedOut(classId, variant);
  const lines = [
    ...work.begun.map(({ step, tick }) => ({ at: tick / TICKS, line: `-- ${step}` })),
    ...work.log.map(({ tick, act }) => ({ at: tick / TICKS, line: `   ${inWords(act)}` })),
    ...trace.events.map(({ at, token }) => ({ at, line: `      > ${token}` })),
    ...trace.broken.map(({ at, rule }) => ({ at, line: `      ! ${rule}` })),
  ];
  for (const { at, line } of lines.sort((a, b) => a.at - b.at))
    console.log(`${at.toFixed(1).padStart(8)} ${line}`);
}

/** Says of every forbidden row and every failure what comes of it when it is tried. */
function trials(only: string | undefined): void {
  for (const kind of ['forbidden', 'failures'] as const) {
    const rows = shippedClasses()
      .filter((each) => !only || each === only)
      .flatMap((classId) => tryOut(kind, classId).map((row) => ({ classId, ...row })));
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
  }
}

const [what, only, variant] = process.argv.slice(2);
if (what === 'table') table(only);
else if (what === 'trials') trials(only);
else if (what === 'log' && only && variant) log(only, variant);
else {
  console.error('npm run desk -- table [CLASS] | trials [CLASS] | log CLASS VARIANT');
  process.exitCode = 1;
}
