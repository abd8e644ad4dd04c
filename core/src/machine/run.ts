import type { EffectivePack } from '../catalogue/compose';
import { judge, type Judgement, session, type Trace } from '../procedure';
import { seededRandom } from '../statistics';
import type { Machine } from './build';
import { type CardAnswer, cardAnswers, dealCards, type DeskCard } from './cards';
import { COMPONENT_KINDS } from './components';
import { type Reading, TICKS } from './expression';
import { DESK_KINDS, type DeskPack, deskProcedures } from './ofPack';
import { workThrough } from './operator';
import { isHandled, type Reacted, reactionsTo } from './reactions';
import { recognise } from './recognise';
import { valueFor } from './values';
import { actsByTick, type LoggedAct, type MachineState, startMachine, tickMachine } from './work';

/** What is practised at a desk: the start, with or without the function tests, the stop, all of it, or nothing that is judged. */
export const DESK_PROGRAMS = ['start', 'tests', 'stop', 'whole', 'free'] as const;
export type DeskProgram = (typeof DESK_PROGRAMS)[number];

const KINDS_OF: Readonly<Record<DeskProgram, readonly string[]>> = {
  start: ['prepare', 'startup'],
  tests: ['prepare', 'startup', 'function-test'],
  stop: ['shutdown'],
  whole: DESK_KINDS,
  free: [],
};

/** A run at a desk as it is dealt: what is judged, how the machine is found, what will go wrong. */
export interface DeskDeal {
  procedures: string[];
  /** The procedure whose `starts` say how the machine is found; null for a machine at rest. */
  found: string | null;
  failures: string[];
  /** Questions that come up on the way. */
  cards?: DeskCard[];
}

/** The longest that a run goes on, in machine time: four hours. */
export const MOST_TICKS = 4 * 3600 * TICKS;
/** The most acts of a run. */
export const MOST_DESK_ACTS = 4000;

/** The programs that a class's desk has. */
export function programsOf(pack: Pick<EffectivePack, 'procedures' | 'machine'>): DeskProgram[] {
  const { desk } = pack.machine;
  if (!desk) return [];
  return DESK_PROGRAMS.filter((program) => {
    const ids = proceduresOf(pack, program);
    if (program === 'free') return true;
    if (program === 'stop') return ids.some((id) => id in desk.starts);
    if (program === 'tests')
      return pack.procedures.some((each) => each.kind === 'function-test') && ids.length > 0;
    return ids.length > 0;
  });
}

function proceduresOf(pack: Pick<EffectivePack, 'procedures'>, program: DeskProgram): string[] {
  return deskProcedures(pack)
    .filter((each) => KINDS_OF[program].includes(each.kind))
    .map((each) => each.id);
}

/** Deals a run: with `surprise` one thing goes wrong that can in what is practised, drawn by the seed. */
export function dealDesk(
  pack: DeskPack,
  machine: Machine,
  program: DeskProgram,
  { surprise, seed }: { surprise: boolean; seed: number },
): DeskDeal {
  const procedures = proceduresOf(pack, program);
  const found = program === 'stop' ? (procedures.find((id) => id in machine.desk.starts) ?? null) : null;
  const deal: DeskDeal = {
    // Of several ways to stop, the one that begins as the machine is found.
    procedures: found ? [found] : procedures,
    found,
    failures: [],
  };
  if (!surprise) return deal;
  const cards = dealCards(machine.desk, seed);
  const able = failuresWithin(pack, machine, deal);
  const one = able[Math.floor(seededRandom(seed)() * able.length)];
  return { ...deal, failures: one ? [one] : [], ...(cards.length > 0 ? { cards } : {}) };
}

/** The failures that would begin where everything of a deal is done as it is meant; all of them where nothing is judged. */
export function failuresWithin(pack: DeskPack, machine: Machine, deal: DeskDeal): string[] {
  const all = [...machine.failures.keys()];
  if (deal.procedures.length === 0) return all;
  const start = dealtMachine(machine, { ...deal, failures: [] });
  const { log, state: end } = workThrough(machine, session(pack, deal.procedures), start);
  const byTick = actsByTick(log);
  const begun = new Set<string>();
  for (let state = start; state.tick < end.tick;) {
    state = tickMachine(machine, state, byTick.get(state.tick + 1));
    for (const [id, { begins }] of machine.failures) if (!begun.has(id) && begins(state)) begun.add(id);
  }
  return all.filter((id) => begun.has(id));
}

/** The machine as it is found: at rest, or as a procedure that is practised by itself begins; with what is to fail armed. */
export function dealtMachine(machine: Machine, { found, failures }: DeskDeal): MachineState {
  let state = startMachine(machine);
  const given = found === null ? {} : (machine.desk.starts[found] ?? {});
  const said = new Map<number, Reading>();
  const put = (name: string, value: unknown) => {
    const known = valueFor(machine.vocabulary.get(name), String(value));
    if (known !== null) said.set(machine.numberOf(name), known);
  };
  for (const { kind, id } of machine.desk.components) {
    const own = id ?? kind;
    for (const [name, value] of Object.entries(COMPONENT_KINDS.get(kind)?.found ?? {}))
      if (given[`${own}.${name}`] === true)
        for (const [other, reads] of Object.entries(value)) put(`${own}.${other}`, reads);
  }
  for (const [name, value] of Object.entries(given)) put(name, value);
  // Two ticks, in which everything that follows from it comes to rest; what was said stays.
  const asSaid = (readings: readonly Reading[]) =>
    readings.map((each, number) => (said.has(number) ? said.get(number)! : each));
  for (let t = 0; t < 2; t++) state = tickMachine(machine, { ...state, readings: asSaid(state.readings) });
  const readings = asSaid(state.readings);
  return {
    ...state,
    tick: 0,
    readings,
    memory: machine.compiler.remember({ tick: 0, readings, memory: machine.compiler.freshMemory() }),
    breaches: [],
    failing: failures.map((id) => ({ id, begun: null })),
  };
}

/** What became of a run at a desk. */
export interface DeskResult {
  /** 0 to 100; null where nothing was judged. */
  score: number | null;
  critical: number;
  /** Machine time in seconds. */
  seconds: number;
  /** Forbidden rows, in the order in which they began. */
  breaches: { id: string; from: number; to: number | null }[];
  reactions: Reacted[];
  /** The steps that were recognised in what was done. */
  trace: Trace;
  /** Failures that began, and those that were handled as they should be. */
  failed: number;
  handled: number;
  /** What was asked on the way; none of runs from before there were cards. */
  cards?: CardAnswer[];
}

/** Judges a run by its log: the machine is run anew with it, so that nothing but what was done counts. */
export function judgeDesk(
  pack: DeskPack,
  machine: Machine,
  deal: DeskDeal,
  log: readonly LoggedAct[],
  ticks: number,
): { result: DeskResult; judgement: Judgement } {
  const from = dealtMachine(machine, deal);
  const { trace } = recognise(machine, pack, session(pack, deal.procedures), log, ticks, from);
  const judgement = judge(pack, deal.procedures, trace);
  const reactions = reactionsTo(machine, log, ticks, from);
  const cards = cardAnswers(machine.desk, deal.cards ?? [], log, ticks);
  return {
    result: {
      score: deal.procedures.length === 0 ? null : judgement.score,
      // What is forbidden is critical, done or said.
      critical: judgement.critical + cards.filter((each) => each.chose !== null && !each.right).length,
      seconds: ticks / TICKS,
      breaches: trace.broken.map((each) => ({ id: each.rule, from: each.at, to: each.until ?? null })),
      reactions,
      trace,
      failed: reactions.length,
      handled: reactions.filter(isHandled).length,
      ...(cards.length > 0 ? { cards } : {}),
    },
    judgement,
  };
}
