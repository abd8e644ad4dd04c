import { session } from '../procedure';
import { isWrittenAsAct, parseAct } from './acts';
import type { Machine } from './build';
import { askedOf, cardAnswers } from './cards';
import { type DeskPack, deskProcedures } from './ofPack';
import { type Expression, parseExpression, TICKS } from './expression';
import { workThrough } from './operator';
import { Provoker } from './provoke';
import { isHandled, ReactionWatch } from './reactions';
import { dealtMachine } from './run';
import type { MachineState } from './work';

/** How a row of a desk came out when it was tried. */
export interface Trial {
  id: string;
  /** It came out as it should. */
  shown: boolean;
  says: string;
  /** It belongs elsewhere, and is asked on a card. */
  asked?: boolean;
}

/** The machine as it may be found when something is tried: at rest, started, and as each procedure finds it. */
function moments(pack: DeskPack, machine: Machine): MachineState[] {
  const atRest = dealtMachine(machine, { procedures: [], found: null, failures: [] });
  const ids = deskProcedures(pack)
    .filter((each) => each.kind === 'prepare' || each.kind === 'startup')
    .map((each) => each.id);
  const started = ids.length > 0 ? workThrough(machine, session(pack, ids), atRest).state : atRest;
  const found = Object.keys(machine.desk.starts)
    .filter((id) => pack.procedures.some((each) => each.id === id))
    .map((id) => dealtMachine(machine, { procedures: [id], found: id, failures: [] }));
  return [started, ...found, atRest].map((each) => ({ ...each, breaches: [], failing: [] }));
}

/**
 * What is done to bring a row of a desk about, line by line (see `Provoker.play`), where no way is found by itself. What is
 * left out is looked for.
 */
export interface TrialScript {
  /** What the machine has fitted for it. */
  features?: Record<string, string> | undefined;
  /** Of what is forbidden: what is done. */
  does?: readonly string[] | undefined;
  /** Of a failure: what leads to it, what makes it show itself, and what is right and wrong about it. */
  begins?: readonly string[] | undefined;
  seen?: readonly string[] | undefined;
  right?: readonly string[] | undefined;
  wrong?: readonly string[] | undefined;
}
export type TrialScripts = Readonly<Record<string, TrialScript>>;

/** Tries to do what is forbidden, and sees that it is told with its moment and its length. */
export function tryRules(
  pack: DeskPack,
  machine: Machine,
  scripts: TrialScripts = {},
  wanted: (id: string) => boolean = () => true,
): Trial[] {
  const rows = Object.entries(machine.desk.forbidden).filter(([id]) => wanted(id));
  if (rows.length === 0) return [];
  const from = moments(pack, machine);
  return rows.map(([id, row]): Trial => {
    if ('notHere' in row) {
      const asked = tryCard(machine, id);
      return asked ?? { id, shown: false, says: `not at the desk: ${row.notHere}` };
    }
    const when = parseExpression(row.when);
    for (const state of from) {
      const provoker = new Provoker(machine, state, [when]);
      const does = scripts[id]?.does;
      if (does) does.forEach((line) => provoker.play(line));
      else provoker.make(when);
      provoker.wait(1);
      const breach = provoker.state.breaches.find((each) => each.id === id);
      if (!breach) continue;
      const lasted = ((breach.to ?? provoker.state.tick) - breach.from) / TICKS;
      return { id, shown: true, says: `after ${breach.from / TICKS} s, for ${lasted} s` };
    }
    return { id, shown: false, says: `no way was found to "${row.when}"` };
  });
}

/** Answers the card of a row that a desk cannot show, rightly and wrongly; null where nothing is asked about it. */
function tryCard(machine: Machine, rule: string): Trial | null {
  const asked = askedOf(machine.desk, rule);
  if (!asked) return null;
  const card = { rule, tick: 100, offers: [0, ...asked.wrong.map((_, i) => i + 1)] };
  const answers = card.offers.map((offer) => {
    const log = [{ tick: 130, act: { kind: 'answer' as const, rule, offer } }];
    return cardAnswers(machine.desk, [card], log, 200)[0]!;
  });
  const told = answers.every((each, offer) => each.right === (offer === 0) && each.chose !== null);
  return {
    id: rule,
    shown: told,
    asked: true,
    says: told
      ? `asked: "${asked.says}", told of each of ${asked.wrong.length} wrong answers after 10 s`
      : 'asked, and its answers are not told apart',
  };
}

/** Lets each failure begin, sees that it shows itself, that what is right scores, and that what is wrong does not. */
export function tryFailures(
  pack: DeskPack,
  machine: Machine,
  scripts: TrialScripts = {},
  wanted: (id: string) => boolean = () => true,
): Trial[] {
  const rows = Object.entries(machine.desk.failures).filter(([id]) => wanted(id));
  if (rows.length === 0) return [];
  const from = moments(pack, machine);
  return rows.map(([id, row]): Trial => {
    if ('notHere' in row) return { id, shown: false, says: `not at the desk: ${row.notHere}` };
    const tried = from.map((state) => tryFailure(machine, id, row, state, scripts[id]));
    return tried.find((each) => each.shown) ?? tried.sort((a, b) => b.came - a.came)[0]!;
  });
}

type Failing = Extract<Machine['desk']['failures'][string], { begins: string }>;

/** How far a failure came: it began, it showed itself, it could be handled, it could be made worse. */
function tryFailure(
  machine: Machine,
  id: string,
  row: Failing,
  start: MachineState,
  script: TrialScript = {},
): Trial & { came: number } {
  const begins = parseExpression(row.begins);
  const told = [...row.right, ...row.wrong].flatMap((text) => conditionOf(text) ?? []);
  /** A run up to where it has begun, with what is done about it watched. */
  const begun = () => {
    const watch = new ReactionWatch(machine, id);
    const state = { ...start, failing: [{ id, begun: null }] };
    const provoker = new Provoker(machine, state, [begins, ...told], (before, after, acts) =>
      watch.take(before, after, acts),
    );
    if (script.begins) script.begins.forEach((line) => provoker.play(line));
    else {
      // As a machine is found it may have begun at once.
      provoker.wait(1 / TICKS);
      if (watch.result() === null) provoker.make(begins);
    }
    provoker.wait(0.5);
    return { watch, provoker };
  };
  const came = (n: number, says: string) => ({ id, shown: n === 4, came: n, says });
  const { watch, provoker } = begun();
  if (watch.result() === null) return came(0, `does not begin: no way was found to "${row.begins}"`);
  script.seen?.forEach((line) => provoker.play(line));
  const at = machine.desk.shows.filter((each) => row.seen.includes(each.id)).flatMap((each) => each.at);
  for (const place of new Set(at)) {
    provoker.wait(watch.result()!.seen === null ? 12 : 0);
    if (watch.result()!.seen === null) provoker.go([place]);
    provoker.wait(1);
  }
  // What shows itself only when something is worked is worked as it would be worked on a sound machine.
  for (const show of row.seen) {
    if (watch.result()!.seen !== null) break;
    const healthy = new Provoker(machine, { ...provoker.state, failing: [], forced: start.forced });
    const own = machine.desk.shows.find((each) => each.id === show);
    if (own?.when) healthy.make(parseExpression(own.when));
    for (const { act } of healthy.log) provoker.repeat(act);
    provoker.wait(1);
    if (own) provoker.go([own.at].flat());
    provoker.wait(3);
  }
  if (watch.result()!.seen === null)
    return came(1, `began, and does not show itself (${row.seen.join(', ')})`);

  const right = begun();
  for (const line of script.right ?? row.right) right.provoker.play(line);
  right.provoker.wait(2);
  const after = right.watch.result();
  if (!after || !isHandled(after)) {
    const missing = after?.right.filter((each) => each.at === null).map((each) => each.text) ?? [];
    const wrong = after?.wrong.filter((each) => each.at !== null).map((each) => each.text) ?? [];
    return came(
      2,
      `shows itself; not handled: ${[...missing, ...wrong.map((each) => `wrong "${each}"`)].join('; ')}`,
    );
  }
  for (const text of script.wrong ? [script.wrong.join(', ')] : row.wrong) {
    const worse = begun();
    for (const line of script.wrong ?? [text]) worse.provoker.play(line);
    worse.provoker.wait(1);
    const result = worse.watch.result();
    if (result && !isHandled(result) && result.wrong.some((each) => each.at !== null))
      return came(
        4,
        `seen after ${((after.seen ?? after.begun) - after.begun).toFixed(1)} s, handled, and made worse by "${text}"`,
      );
  }
  return row.wrong.length === 0
    ? came(4, 'shows itself and can be handled; nothing is said to be wrong')
    : came(3, `can be handled; nothing wrong was found a way to: ${row.wrong.join('; ')}`);
}

/** The condition in a reaction: itself, or what an act is kept up for. */
function conditionOf(text: string): Expression | null {
  if (!isWrittenAsAct(text)) return parseExpression(text);
  const act = parseAct(text);
  return act.kind === 'call' ? null : act.until;
}
