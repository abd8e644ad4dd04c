import { judge, type Session, type SessionStep, type Trace, type TraceEvent } from '../procedure';
import type { EffectivePack } from '../catalogue';
import { parseAct, type StepAct } from './acts';
import { isFitted, type Machine } from './build';
import { type Desk, placeOfWay } from './desk';
import { type Compiler, type Expression, parseExpression, TICKS, type View } from './expression';
import {
  actsByTick,
  type DeskAct,
  type LoggedAct,
  type MachineState,
  startMachine,
  tickMachine,
} from './work';

type StepSpec = Desk['steps'][string];

/** An act that a step wants, and when it was last begun and done. */
interface Wanted {
  act: StepAct;
  until: ((view: View) => boolean) | null;
  /** In an order: when the first of them was begun that led to this one. */
  start: number;
  begun: number;
  done: number;
}

/** A step of a session as it is watched for. */
interface Watched {
  step: SessionStep;
  spec: StepSpec | null;
  /** One list of acts, or several of which one counts. */
  ways: Wanted[][];
  wait: ((view: View) => boolean) | null;
  rule: ((view: View) => boolean) | null;
  wanted: ((view: View) => boolean) | null;
  moves: boolean;
  events: number;
  /** The tick in which it last came out; NEVER before it did. */
  last: number;
  /** Indices of the steps that must come first, and of those that may come only after it. */
  after: number[];
  before: number[];
}

const NEVER = -1;

/**
 * Watches a desk for the steps of a session: what is done there becomes the trace that the judge takes. One act may serve
 * several steps; a step whose acts were all done is one event, at the last of them, or, where a time is judged, from the
 * first that is kept up to the end of the last; a step that only waits comes of itself once what it waits for holds and
 * the steps before it were done.
 */
export class Recogniser {
  private readonly watched: Watched[];
  private readonly silent: ReadonlySet<Watched>;
  private readonly compiler: Compiler;
  private memory: number[];
  private readonly events: TraceEvent[] = [];

  constructor(
    private readonly machine: Machine,
    session: Session,
  ) {
    const kinds = new Map(session.procedures.map((each) => [each.id, each.kind as string]));
    this.compiler = machine.compiler.alike();
    const truth = (text: string | undefined) =>
      text === undefined ? null : this.compiler.truth(parseExpression(text));
    const held = (until: Expression | null) => (until ? this.compiler.truth(until) : null);
    this.watched = session.steps.map((step, s) => {
      const spec = machine.desk.steps[step.id] ?? null;
      const ways = (spec?.alternatives ?? (spec?.acts ? [spec.acts] : [])).map((list) =>
        list
          .map(parseAct)
          .filter((act) => isFitted(machine, act))
          .map((act) => ({
            act,
            until: act.kind === 'call' ? null : held(act.until),
            start: NEVER,
            begun: NEVER,
            done: NEVER,
          })),
      );
      return {
        step,
        spec,
        ways,
        wait: truth(spec?.wait?.until),
        rule: truth(spec?.rule),
        wanted: truth(spec?.if),
        // In a function test the one thing that is put somewhere must really move.
        moves:
          !spec?.confirms &&
          kinds.get(step.procedure) === 'function-test' &&
          ways.every((list) => list.filter((each) => each.act.kind === 'put').length === 1),
        events: 0,
        last: NEVER,
        after: session.steps.flatMap((other, o) =>
          o !== s && session.order.before(other.id, step.id) ? [o] : [],
        ),
        before: session.steps.flatMap((other, o) =>
          o !== s && session.order.before(step.id, other.id) ? [o] : [],
        ),
      };
    });
    // What is optional and only ever does what other steps do is not told apart from them.
    const wantedElsewhere = (own: Watched) =>
      own.step.optional &&
      own.ways.length > 0 &&
      own.ways.every((list) =>
        this.watched.some(
          (other) =>
            !other.step.optional &&
            other.ways.some((way) =>
              list.every((each) => way.some((one) => JSON.stringify(one.act) === JSON.stringify(each.act))),
            ),
        ),
      );
    this.silent = new Set(this.watched.filter(wantedElsewhere));
    this.memory = this.compiler.freshMemory();
  }

  /** Takes in a tick: the machine before and after it, and what was done in it. */
  take(before: MachineState, state: MachineState, acts: readonly DeskAct[]): void {
    const view = { tick: state.tick, readings: state.readings, memory: this.memory };
    this.memory = this.compiler.remember(view);
    const seen = { ...view, memory: this.memory };
    const passive = (each: Watched) => each.ways.length === 0 && each.after.length === 0;
    const heard = this.watched.filter((each) => !this.silent.has(each));
    // What nothing must come before is looked at last: it waits for what comes after it.
    for (const each of heard) if (!passive(each)) this.watch(each, before, seen, acts);
    for (const each of heard) if (passive(each)) this.watch(each, before, seen, acts);
  }

  private watch(own: Watched, before: MachineState, view: View, acts: readonly DeskAct[]): void {
    const { step, spec } = own;
    if (!spec || spec.away) {
      if (acts.some((act) => act.kind === 'away' && act.step === step.id))
        this.emit(own, view.tick, null, view.tick);
      return;
    }
    const others = own.after.map((s) => this.watched[s]!);
    const ready = others.every((each) => each.events > 0 || each.step.optional);
    /** When its turn came: as soon as the last of the steps before it was done, again each time they are. */
    const since = Math.max(0, ...others.map((each) => each.last));
    const due = ready && (own.events === 0 || since > own.last);
    // What is wanted only then, and is not, counts as done when its turn comes.
    if (own.wanted && !own.wanted(view)) {
      if (due) this.emit(own, view.tick, null, view.tick);
      return;
    }
    if (own.ways.length === 0 || own.ways.some((list) => list.length === 0)) {
      const holds = (own.rule?.(view) ?? true) && (own.wait?.(view) ?? true);
      // What is optional is not done by merely holding.
      // It begins when its turn has come, not when what it waits for has.
      if (step.optional || !due || !holds) return;
      // With nothing before it, it is looked at when the first comes that may come only after it.
      const opened = own.before.some((s) => this.watched[s]!.last === view.tick);
      if (others.length > 0 || own.before.length === 0) this.emit(own, Math.max(1, since), null, view.tick);
      else if (opened) this.emit(own, Math.max(1, view.tick - 1), null, view.tick);
      return;
    }
    for (const list of own.ways) {
      const done = list.map((wanted) => acts.some((act) => this.isAct(wanted.act, act, before, own.moves)));
      /** Begins a thing of the list; in order it goes on from what comes before it. */
      const begin = (i: number): boolean => {
        const start = !spec.inOrder || i === 0 ? view.tick : list[i - 1]!.start;
        if (start === NEVER) return false;
        Object.assign(list[i]!, { start, begun: view.tick, done: NEVER });
        return true;
      };
      // A place is come to also by who is there already when the next thing of the step is done.
      if (done.some(Boolean) || (own.events === 0 && list.length === 1))
        list.forEach((wanted, i) => {
          if (!done[i] && wanted.start === NEVER && this.standsThere(wanted.act, view)) begin(i);
        });
      // From the last to the first, and one act is not two of an order.
      const taken = new Set<string>();
      for (let i = list.length - 1; i >= 0; i--) {
        const same = JSON.stringify(
          list[i]!.act.kind === 'put' ? { ...list[i]!.act, until: null } : list[i]!.act,
        );
        if (done[i] && !(spec.inOrder && taken.has(same)) && begin(i)) taken.add(same);
      }
      for (const wanted of list)
        if (wanted.begun !== NEVER && wanted.done === NEVER && (wanted.until?.(view) ?? true))
          wanted.done = view.tick;
      if (
        list.every((each) => each.done !== NEVER) &&
        list.at(-1)!.start !== NEVER &&
        (own.wait?.(view) ?? true)
      ) {
        const kept = list.filter((each) => each.until !== null);
        const timed = ['limit', 'within', 'dwell'].includes(step.timing?.means ?? '');
        // A time is about what is kept worked, from its beginning to its end.
        if (timed && kept.length > 0)
          this.emit(own, kept[0]!.begun, Math.max(...kept.map((each) => each.done)), view.tick);
        // The last of its acts makes the step; what it waits for comes after.
        else this.emit(own, Math.max(...list.map((each) => each.begun)), null, view.tick);
        for (const way of own.ways) for (const each of way) each.start = each.begun = each.done = NEVER;
        return;
      }
    }
  }

  private emit(own: Watched, begun: number, end: number | null, now: number): void {
    own.events += 1;
    own.last = now;
    this.events.push({
      token: own.step.token,
      at: begun / TICKS,
      ...(end === null ? {} : { end: end / TICKS }),
    });
  }

  /** A place is come to also by who is there already. */
  private standsThere(act: StepAct, view: View): boolean {
    if (act.kind !== 'do') return false;
    const place = placeOfWay(this.machine.desk, act.what);
    return place !== null && view.readings[this.machine.numberOf('place')] === place;
  }

  /** Whether what was done is what an act wants. */
  private isAct(wanted: StepAct, act: DeskAct, before: MachineState, moves: boolean): boolean {
    switch (wanted.kind) {
      case 'call':
        return act.kind === 'call' && act.says.trim().toLowerCase() === wanted.says.toLowerCase();
      case 'put': {
        if (act.kind === 'pedal') return act.control === wanted.control && act.to === Number(wanted.position);
        // A lever that is let go goes where it springs to.
        if (act.kind === 'release')
          return (
            act.control === wanted.control &&
            this.machine.controls.get(act.control)?.springs === wanted.position
          );
        if (act.kind !== 'set' || act.control !== wanted.control || act.to !== wanted.position) return false;
        // In a function test something must really move.
        return !moves || before.readings[this.machine.numberOf(act.control)] !== act.to;
      }
      case 'do':
        switch (act.kind) {
          case 'look':
            return act.look === wanted.what;
          case 'hold':
          case 'press':
            return act.control === wanted.what;
          case 'pedal':
            return act.control === wanted.what && act.to > 0;
          case 'go':
            return placeOfWay(this.machine.desk, wanted.what) === act.place;
          default:
            return false;
        }
    }
  }

  /** What was recognised up to a tick. */
  trace(state: MachineState): Trace {
    return {
      events: [...this.events].sort((a, b) => a.at - b.at),
      broken: state.breaches.map(({ id, from, to }) => ({
        rule: id,
        at: from / TICKS,
        ...(to === null ? {} : { until: to / TICKS }),
      })),
      conditions: [],
      ended: state.tick / TICKS,
    };
  }
}

/**
 * The trace of a log: the machine is run anew with it, and what is done becomes steps. A step that came out several times
 * is the one that explains best what was done.
 */
export function recognise(
  machine: Machine,
  pack: Pick<EffectivePack, 'procedures' | 'forbidden' | 'sheet' | 'conditions'>,
  session: Session,
  log: readonly LoggedAct[],
  until: number,
  from: MachineState = startMachine(machine),
): { trace: Trace; state: MachineState } {
  const recogniser = new Recogniser(machine, session);
  const byTick = actsByTick(log);
  let state = from;
  while (state.tick < until) {
    const acts = byTick.get(state.tick + 1) ?? [];
    const next = tickMachine(machine, state, acts);
    recogniser.take(state, next, acts);
    state = next;
  }
  const whole = recogniser.trace(state);
  const { explanation } = judge(
    pack,
    session.procedures.map((each) => each.id),
    whole,
  );
  const best = new Set(explanation.eventOf);
  const explained = new Set(
    session.steps.flatMap((each, s) => (explanation.eventOf[s] === null ? [] : [each.token])),
  );
  return {
    trace: { ...whole, events: whole.events.filter(({ token }, e) => best.has(e) || !explained.has(token)) },
    state,
  };
}
