import { isWrittenAsAct, parseAct, type StepAct } from './acts';
import { isFitted, type Machine } from './build';
import { type Desk, placeOfWay, waysTo } from './desk';
import { Compiler, type Meaning, parseExpression, type Reading, TICKS, type View } from './expression';
import {
  actsByTick,
  type DeskAct,
  type LoggedAct,
  type MachineState,
  startMachine,
  tickMachine,
} from './work';

/** Something that should, or should not, be done about a failure: as the desk writes it, and when it was done. */
export interface Reaction {
  text: string;
  /** Seconds since the session began; null where it was not done. */
  at: number | null;
}

/** What was done about a failure. */
export interface Reacted {
  failure: string;
  /** Seconds since the session began. */
  begun: number;
  /** When it could first be perceived from where the operator stood; null where it never could. */
  seen: number | null;
  right: Reaction[];
  wrong: Reaction[];
}

/** Everything that is right was done, and nothing that is wrong. */
export const isHandled = ({ right, wrong }: Reacted): boolean =>
  right.every((each) => each.at !== null) && wrong.every((each) => each.at === null);

type FailureSpec = Extract<Desk['failures'][string], { begins: string }>;
interface Watching {
  reaction: Reaction;
  done: (view: View, acts: readonly DeskAct[]) => boolean;
  /** It held already when the failure began, and is done only once it comes again. */
  stands: boolean;
}

interface Way {
  name: string;
  place: string;
}

/** A compiler that knows, beside the names of a machine, the ways to its places: true in the tick in which they are gone. */
export function compilerWithWays(machine: Machine): { compiler: Compiler; ways: readonly Way[] } {
  const ways = machine.desk.places.flatMap((place) =>
    waysTo(place).map((name) => ({ name, place: place.id })),
  );
  const vocabulary = new Map<string, Meaning>([
    ...machine.vocabulary,
    ...ways.map(({ name }) => [name, { kind: 'truth' }] as const),
  ]);
  const compiler = new Compiler(vocabulary);
  for (const name of machine.compiler.names) compiler.numberOf(name);
  for (const { name } of ways) compiler.numberOf(name);
  return { compiler, ways };
}

/** The readings of a tick for `compilerWithWays`. */
export function readingsWithWays(
  machine: Machine,
  ways: readonly Way[],
  { readings }: MachineState,
  acts: readonly DeskAct[],
): Reading[] {
  const went = ways.map(({ place }) => acts.some((each) => each.kind === 'go' && each.place === place));
  return [...readings.slice(0, machine.compiler.names.length), ...went];
}

/** Watches what is done about one failure, from the tick in which it begins. */
export class ReactionWatch {
  private readonly compiler: Compiler;
  private readonly ways: readonly Way[];
  private readonly right: Watching[];
  private readonly wrong: Watching[];
  private readonly spec: FailureSpec;
  private memory: number[];
  /**
   * The same machine with nothing wrong, worked alike: what differs from it can be perceived. Where nothing breaks, and
   * only something was left undone, it is the machine as it was before.
   */
  private sound: MachineState | null = null;
  private readonly breaks: boolean;
  private begun: number | null = null;
  private seen: number | null = null;

  /** Throws RangeError for a failure that the machine does not have. */
  constructor(
    private readonly machine: Machine,
    private readonly failure: string,
  ) {
    const spec = machine.desk.failures[failure];
    if (!spec || !('begins' in spec)) throw new RangeError(`nothing is called "${failure}" that could fail`);
    this.spec = spec;
    this.breaks = Object.keys(spec.sets).length > 0;
    const { compiler, ways } = compilerWithWays(machine);
    this.compiler = compiler;
    this.ways = ways;
    this.right = spec.right.flatMap((text) => this.watching(text));
    this.wrong = spec.wrong.flatMap((text) => this.watching(text));
    this.memory = this.compiler.memoryFromNow();
  }

  private watching(text: string): Watching[] {
    const reaction: Reaction = { text, at: null };
    if (isWrittenAsAct(text)) {
      const act = parseAct(text);
      return isFitted(this.machine, act) ? [{ reaction, done: this.acted(act), stands: false }] : [];
    }
    const holds = this.compiler.truth(parseExpression(text));
    return [{ reaction, done: (view) => holds(view), stands: false }];
  }

  /** Whether an act was done, and kept up until what it is for came true. */
  private acted(act: StepAct): Watching['done'] {
    if (act.kind === 'call')
      return (_, acts) =>
        acts.some(
          (each) => each.kind === 'call' && each.says.trim().toLowerCase() === act.says.toLowerCase(),
        );
    const until = act.until ? this.compiler.truth(act.until) : () => true;
    let begun = false;
    return (view, acts) => {
      if (act.kind === 'put') begun = view.readings[this.compiler.numberOf(act.control)] === act.position;
      else {
        const place = placeOfWay(this.machine.desk, act.what);
        begun ||= acts.some((each) =>
          each.kind === 'look'
            ? each.look === act.what
            : each.kind === 'go'
              ? each.place === place
              : 'control' in each && each.control === act.what && each.kind !== 'release',
        );
      }
      return begun && until(view);
    };
  }

  /** Takes in a tick: the machine before and after it, and what was done in it. */
  take(before: MachineState, state: MachineState, acts: readonly DeskAct[]): void {
    if (this.begun === null) {
      const begun = state.failing.find((each) => each.id === this.failure)?.begun ?? null;
      if (begun === null) return;
      this.begun = begun;
      const untouched = { ...before, failing: [] };
      this.sound = this.breaks ? tickMachine(this.machine, untouched, acts) : untouched;
      this.follow(state, acts);
      for (const each of this.wrong) each.stands = each.reaction.at !== null;
      for (const each of this.wrong) each.reaction.at = null;
      return;
    }
    if (this.breaks) this.sound = tickMachine(this.machine, this.sound!, acts);
    this.follow(state, acts);
    if (this.seen === null && this.spec.seen.some((show) => this.perceived(state, show)))
      this.seen = state.tick / TICKS;
  }

  private follow(state: MachineState, acts: readonly DeskAct[]): void {
    // Time is counted from when the failure began.
    const tick = state.tick - this.begun!;
    const readings = readingsWithWays(this.machine, this.ways, state, acts);
    this.memory = this.compiler.remember({ tick, readings, memory: this.memory });
    const view = { tick, readings, memory: this.memory };
    for (const each of [...this.right, ...this.wrong]) {
      const now = each.done(view, acts);
      if (each.stands && !now) each.stands = false;
      if (each.reaction.at === null && now && !each.stands) each.reaction.at = state.tick / TICKS;
    }
  }

  /** What a show says, wherever one stands; null while it says nothing. */
  private shown(state: MachineState, id: string): Reading {
    const s = this.machine.desk.shows.findIndex((each) => each.id === id);
    const show = this.machine.shows[s];
    if (!show?.holds(state)) return null;
    return this.machine.values.get(id)?.(state) ?? true;
  }

  /** Whether what a failure changed of a show can be perceived from where the operator stands. */
  private perceived(state: MachineState, id: string): boolean {
    const s = this.machine.desk.shows.findIndex((each) => each.id === id);
    const spec = this.machine.desk.shows[s];
    const here = String(state.readings[this.machine.numberOf('place')]);
    if (!spec || !this.machine.shows[s]!.places.includes(here)) return false;
    const [now, then] = [this.shown(state, id), this.shown(this.sound!, id)];
    if (typeof now !== 'number' || typeof then !== 'number') return now !== then;
    return Math.abs(now - then) > (spec.range ? 0.02 * (spec.range[1] - spec.range[0]) : 0);
  }

  /** What was done about it so far; null while it has not begun. */
  result(): Reacted | null {
    if (this.begun === null) return null;
    const told = (list: readonly Watching[]) => list.map(({ reaction }) => ({ ...reaction }));
    return {
      failure: this.failure,
      begun: this.begun / TICKS,
      seen: this.seen,
      right: told(this.right),
      wrong: told(this.wrong),
    };
  }
}

/** What was done about each failure that began in a log. */
export function reactionsTo(
  machine: Machine,
  log: readonly LoggedAct[],
  until: number,
  from: MachineState = startMachine(machine),
): Reacted[] {
  const armed = new Set([
    ...from.failing.map((each) => each.id),
    ...log.flatMap(({ act }) => (act.kind === 'arm' ? [act.failure] : [])),
  ]);
  const watches = [...armed]
    .filter((id) => machine.failures.has(id))
    .map((id) => new ReactionWatch(machine, id));
  if (watches.length === 0) return [];
  const byTick = actsByTick(log);
  let state = from;
  while (state.tick < until) {
    const acts = byTick.get(state.tick + 1) ?? [];
    const next = tickMachine(machine, state, acts);
    for (const watch of watches) watch.take(state, next, acts);
    state = next;
  }
  return watches.flatMap((each) => each.result() ?? []);
}
