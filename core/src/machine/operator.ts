import { allowedOrder, type Session, type SessionStep, timingSeconds } from '../procedure';
import { parseAct, type StepAct } from './acts';
import { isFitted, type Machine } from './build';
import { type Control, placeOfWay, placesOf, shortestWay } from './desk';
import { parseExpression, TICKS } from './expression';
import {
  actProblem,
  type DeskAct,
  type LoggedAct,
  type MachineState,
  readingOf,
  startMachine,
  tickMachine,
} from './work';

/** What a scripted operator did, and what could not be done. */
export interface ScriptedWork {
  log: LoggedAct[];
  state: MachineState;
  /** Steps that could not be carried out, each with the reason. */
  problems: { step: string; why: string }[];
  /** In which tick each step was begun. */
  begun: { step: string; tick: number }[];
}

/** Longest that something is waited for, in seconds. */
const PATIENCE = 1800;
/** Seconds from one act to the next. */
const GAP = 1;
/** Seconds by which a time is kept with something to spare. */
const HAIR = 0.5;
/** What is to come true by being done again is tried so often, in seconds. */
const AGAIN = 10;
/** How long something is waited for, in seconds, that what follows may bring about. */
const SOON = 130;

/**
 * Carries out the steps of a session at a desk as they are meant: in an allowed order, at the right place, holding what is
 * to be held and waiting as long as it says. For tests, and to see that every step can be done.
 */
export function workThrough(
  machine: Machine,
  session: Session,
  from: MachineState = startMachine(machine),
): ScriptedWork {
  return new Operator(machine, session, from).work();
}

class Operator {
  private readonly log: LoggedAct[] = [];
  private readonly problems: ScriptedWork['problems'] = [];
  private readonly order: ScriptedWork['begun'] = [];
  /** When each step began, in ticks, for times that count from a step. */
  private readonly begun = new Map<string, number>();
  private holding = new Set<string>();
  /** Conditions of the step, watched from its beginning. */
  private readonly watched = new Map<string, (state: MachineState) => boolean>();
  /** What is kept worked and has not come true yet. */
  private readonly open: string[] = [];

  constructor(
    private readonly machine: Machine,
    private readonly session: Session,
    private state: MachineState,
  ) {}

  work(): ScriptedWork {
    for (const step of promptly(allowedOrder(this.session), this.session)) {
      try {
        this.step(step);
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        this.problems.push({ step: step.id, why: error.message });
      }
      this.letGo();
    }
    return { log: this.log, state: this.state, problems: this.problems, begun: this.order };
  }

  private advance(acts: readonly DeskAct[] = []): void {
    this.state = tickMachine(this.machine, this.state, acts);
    for (const watched of this.watched.values()) watched(this.state);
  }

  /** Whether something holds, watched since its step began. */
  private watch(text: string): (state: MachineState) => boolean {
    const known = this.watched.get(text) ?? watcher(this.machine, text);
    this.watched.set(text, known);
    return known;
  }

  private wait(seconds: number): void {
    for (let t = 0; t < Math.round(seconds * TICKS); t++) this.advance();
  }

  private do(act: DeskAct): void {
    const problem = actProblem(this.machine, this.state, act);
    if (problem !== null) throw new RangeError(problem);
    this.advance([act]);
    this.log.push({ tick: this.state.tick, act });
  }

  /** Waits until something holds, trying again what is to be tried. */
  private until(text: string, again?: () => void, patience = PATIENCE): void {
    const holds = this.watch(text);
    for (let t = 0; t < patience * TICKS; t++) {
      if (holds(this.state)) return;
      if (again && t > 0 && t % (AGAIN * TICKS) === 0) again();
      else this.advance();
    }
    throw new RangeError(`"${text}" does not come true`);
  }

  private letGo(): void {
    for (const id of this.holding)
      if (actProblem(this.machine, this.state, { kind: 'release', control: id }) === null)
        this.do({ kind: 'release', control: id });
    this.holding = new Set();
  }

  private step(step: SessionStep): void {
    const spec = this.machine.desk.steps[step.id];
    this.begun.set(step.id, this.state.tick);
    this.order.push({ step: step.id, tick: this.state.tick });
    this.watched.clear();
    if (spec?.wait?.until) this.watch(spec.wait.until);
    if (!spec || spec.away) {
      this.do({ kind: 'away', step: step.id });
      this.dwell(step);
      this.wait(GAP);
      return;
    }
    const ways = (spec.alternatives ?? (spec.acts ? [spec.acts] : [])).map((list) =>
      list.map((text) => ({ text, act: parseAct(text) })).filter((each) => isFitted(this.machine, each.act)),
    );
    this.rest(step);
    const tried = this.state;
    const logged = this.log.length;
    let failed: RangeError | null = null;
    for (const list of ways.length > 0 ? ways : [[]]) {
      try {
        if (spec.at) this.goToOne(placesOf(spec.at));
        let last: (() => void) | undefined;
        list.forEach(({ text, act }, i) => {
          last = this.act(act, text, i < list.length - 1) ?? last;
          this.settle();
        });
        for (const each of this.open.splice(0)) this.until(each);
        if (spec.wait?.until) this.until(spec.wait.until, last);
        failed = null;
        break;
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        failed = error;
        // Another way is tried from where this one began.
        this.state = tried;
        this.log.length = logged;
        this.holding = new Set();
        this.open.length = 0;
      }
    }
    if (failed) throw failed;
    this.begun.set(step.id, this.state.tick);
    this.dwell(step);
    this.letGo();
    this.wait(GAP);
  }

  /** Waits before a step that may only come so long after another. */
  private rest({ id, timing }: SessionStep): void {
    if (timing?.means !== 'dwell' || timing.since === undefined || timing.since === id) return;
    const least = timingSeconds(timing.least, timing.unit);
    const since = this.begun.get(timing.since);
    if (least === null || since === undefined) return;
    const left = least + HAIR - (this.state.tick - since) / TICKS;
    if (left > 0) this.wait(left);
  }

  /** Waits as long as the step says. */
  private dwell(step: SessionStep): void {
    const { timing } = step;
    if (timing?.means !== 'dwell' && timing?.means !== 'rest') return;
    const least = timingSeconds(timing.least, timing.unit);
    if (least === null) return;
    const since = this.begun.get(timing.since ?? step.id) ?? this.begun.get(step.id)!;
    const left = least + 1 - (this.state.tick - since) / TICKS;
    if (left > 0) this.wait(left);
  }

  /** Does an act; answers what may be tried again while its step waits. */
  private act(act: StepAct, text: string, more: boolean): (() => void) | undefined {
    if (act.kind === 'call') {
      this.do({ kind: 'call', says: act.says });
      return undefined;
    }
    const held = /\sheld\s+until\s+(.+)$/.exec(text)?.[1];
    const { desk, controls } = this.machine;
    if (act.kind === 'put') {
      const control = this.reach(act.control);
      if (control.kind === 'pedal') {
        this.do({ kind: 'pedal', control: control.id, to: Number(act.position) });
        this.hold(control.id, Number(act.position) > 0);
      } else {
        this.do({ kind: 'set', control: act.control, to: act.position });
        if (control.kind === 'lever') this.hold(act.control, act.position !== control.springs);
      }
      if (this.keep(held, more) && control.kind === 'lever') this.release(control.id);
      return undefined;
    }
    const place = placeOfWay(desk, act.what);
    if (place !== null && !controls.has(act.what)) {
      this.goTo(place);
      return undefined;
    }
    const look = desk.looks.find((each) => each.id === act.what);
    if (look) {
      this.goToOne(placesOf(look.at));
      const again = () => this.do({ kind: 'look', look: look.id });
      again();
      if (held) this.until(held, again);
      return again;
    }
    const control = this.reach(act.what);
    if (control.kind === 'press' || control.kind === 'pull') {
      const again = () => this.do({ kind: 'press', control: control.id });
      again();
      if (held) this.until(held, again);
      return again;
    }
    if (control.kind === 'pedal') this.do({ kind: 'pedal', control: control.id, to: 0.6 });
    else if (control.kind === 'hold') this.do({ kind: 'hold', control: control.id });
    else throw new RangeError(`${control.name}: say in which position`);
    this.hold(control.id, true);
    if (held) {
      // What is done is let go; a pedal stays to the end of the step.
      if (this.keep(held, more) && control.kind === 'hold') this.release(control.id);
    } else {
      this.wait(0.5);
      // What does not stay by itself is let go again; a pedal stays to the end of the step.
      if (control.kind === 'hold' && !control.latch) this.release(control.id);
    }
    return undefined;
  }

  /** Keeps something worked until what it waits for holds; where more follows, that may bring it about. */
  private keep(held: string | undefined, more: boolean): boolean {
    if (!held) return false;
    const [state, logged] = [this.state, this.log.length];
    try {
      this.until(held, undefined, more ? SOON : PATIENCE);
      return true;
    } catch (error) {
      if (!more || !(error instanceof RangeError)) throw error;
      this.state = state;
      this.log.length = logged;
      this.wait(GAP);
      this.open.push(held);
      return false;
    }
  }

  private release(control: string): void {
    this.do({ kind: 'release', control });
    this.hold(control, false);
  }

  /** Gives what is kept worked the time to come true that an act may have begun. */
  private settle(): void {
    for (const each of [...this.open])
      for (let t = 0; t < 3 * TICKS; t++) {
        if (this.watch(each)(this.state)) {
          this.open.splice(this.open.indexOf(each), 1);
          break;
        }
        this.advance();
      }
  }

  private hold(control: string, held: boolean): void {
    if (held) this.holding.add(control);
    else this.holding.delete(control);
  }

  private reach(id: string): Control {
    const control = this.machine.controls.get(id);
    if (!control) throw new RangeError(`there is no control "${id}"`);
    const helper = placesOf(control.at).some(
      (place) => this.machine.desk.places.find((each) => each.id === place)?.helper,
    );
    if (!helper) this.goToOne(placesOf(control.at));
    return control;
  }

  private here(): string {
    return String(readingOf(this.machine, this.state, 'place'));
  }

  private goToOne(places: readonly string[]): void {
    // Nobody takes a wrong way, and a helper goes their own.
    const open = this.machine.desk.places.filter((each) => !each.wrong && !each.helper);
    const way = shortestWay(open, this.here(), places);
    if (!way) throw new RangeError(`there is no way from ${this.here()} to ${places.join(' or ')}`);
    for (const place of way) this.go(place);
  }

  private goTo(place: string): void {
    this.goToOne([place]);
  }

  private go(place: string): void {
    // Whoever leaves lets go of everything there.
    this.do({ kind: 'go', place });
    this.holding = new Set();
  }
}

/** An allowed order in which what must come soon after a step comes right after it, where nothing else must come between. */
function promptly(sequence: readonly SessionStep[], { order }: Session): SessionStep[] {
  const steps = [...sequence];
  for (const step of sequence) {
    const { means, since } = step.timing ?? {};
    if ((means !== 'within' && means !== 'limit') || since === undefined) continue;
    const [from, at] = [steps.findIndex((each) => each.id === since), steps.indexOf(step)];
    if (from < 0 || at <= from + 1) continue;
    if (steps.slice(from + 1, at).some((each) => order.before(each.id, step.id))) continue;
    steps.splice(from + 1, 0, ...steps.splice(at, 1));
  }
  return steps;
}

/** Whether something holds, watched from now on. */
function watcher(machine: Machine, text: string): (state: MachineState) => boolean {
  const compiler = machine.compiler.alike();
  const holds = compiler.truth(parseExpression(text));
  let memory = compiler.freshMemory();
  let last = -1;
  return ({ tick, readings }) => {
    if (tick !== last) memory = compiler.remember({ tick, readings, memory });
    last = tick;
    return holds({ tick, readings, memory });
  };
}
