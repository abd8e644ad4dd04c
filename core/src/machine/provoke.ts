import { conditionsOf } from './component';
import { COMPONENT_KINDS } from './components';
import type { Machine } from './build';
import { isWrittenAsAct, parseAct } from './acts';
import { type Control, placeOfWay, placesOf, shortestWay } from './desk';
import {
  type Comparison,
  type Compiler,
  type Expression,
  parseExpression,
  TICKS,
  type View,
} from './expression';
import { compilerWithWays, readingsWithWays } from './reactions';
import { actProblem, type DeskAct, type LoggedAct, type MachineState, readingOf, tickMachine } from './work';

/** Seconds that something is waited for once what leads to it has been done. */
const PATIENCE = 90;
/** Names of the conditions without which a component does nothing. */
const ALLOWS = /^(allowed|ready|may)/;
/** How deep conditions are followed back. */
const DEPTH = 5;

type Kept = { state: MachineState; log: LoggedAct[]; memory: number[]; base: number };

/**
 * Brings conditions of a desk about by acts: controls are worked where they are, class states and people are set as the
 * scene would set them, and what a component works out is brought about by what it depends on. For tests of forbidden
 * rows and of reactions, and to see that every one of them can be shown; not every condition can be found a way to.
 */
export class Provoker {
  readonly log: LoggedAct[] = [];
  private readonly compiler: Compiler;
  private readonly ways: ReturnType<typeof compilerWithWays>['ways'];
  /** What is read this tick, the ways that are gone among it. */
  private readings: View['readings'];
  private memory: number[];
  /** What holds of expressions that were prepared, by what they say. */
  private readonly truths = new Map<string, (view: View) => boolean>();
  /** The conditions that each component depends on. */
  private readonly conditions = new Map<string, string[]>();
  /** Those without which it does nothing. */
  private readonly allows = new Map<string, string[]>();
  /** When the failure began: what is counted in time is counted from then. */
  private base = 0;
  /** Hears of every tick: the machine before and after it, and what was done in it. */
  private readonly listener:
    ((before: MachineState, state: MachineState, acts: readonly DeskAct[]) => void) | null;

  constructor(
    private readonly machine: Machine,
    public state: MachineState,
    expressions: readonly Expression[] = [],
    listener: Provoker['listener'] = null,
  ) {
    this.listener = listener;
    ({ compiler: this.compiler, ways: this.ways } = compilerWithWays(machine));
    this.readings = readingsWithWays(machine, this.ways, state, []);
    for (const each of expressions) this.prepare(each);
    this.memory = this.compiler.freshMemory();
    for (const { kind, id, needs: _needs, origin: _origin, ...given } of machine.desk.components) {
      const found = COMPONENT_KINDS.get(kind);
      if (!found) continue;
      const written = (names: readonly string[]) =>
        names.flatMap((name) => {
          const text = (given as Record<string, unknown>)[name];
          return typeof text === 'string' ? [text] : [];
        });
      const names = conditionsOf(found);
      this.conditions.set(id ?? kind, written(names));
      this.allows.set(id ?? kind, written(names.filter((name) => ALLOWS.test(name))));
    }
  }

  /** Every part of an expression gets its truth before the first tick, so that its memory is complete. */
  private prepare(each: Expression): void {
    if (each.kind === 'number') return;
    const key = JSON.stringify(each);
    if (!this.truths.has(key)) this.truths.set(key, this.compiler.truth(each));
    if ('of' in each) this.prepare(each.of);
    if ('parts' in each) each.parts.forEach((part) => this.prepare(part));
    if (each.kind === 'before') [each.first, each.then].forEach((part) => this.prepare(part));
  }

  private get view(): View {
    return { tick: this.state.tick - this.base, readings: this.readings, memory: this.memory };
  }

  private holds(each: Expression): boolean {
    const known = this.truths.get(JSON.stringify(each));
    const { view } = this;
    if (known) return known(view);
    // Without a memory of its own: only what holds now can be asked.
    const compiler = this.compiler.alike();
    const truth = compiler.truth(each);
    return truth({ ...view, memory: compiler.remember({ ...view, memory: compiler.freshMemory() }) });
  }

  private advance(acts: readonly DeskAct[] = []): void {
    const before = this.state;
    this.state = tickMachine(this.machine, before, acts);
    this.readings = readingsWithWays(this.machine, this.ways, this.state, acts);
    const begins = this.state.failing.some(({ begun }) => begun === this.state.tick);
    if (begins) [this.base, this.memory] = [this.state.tick, this.compiler.memoryFromNow()];
    this.memory = this.compiler.remember(this.view);
    this.listener?.(before, this.state, acts);
  }

  wait(seconds: number): void {
    for (let t = 0; t < seconds * TICKS; t++) this.advance();
  }

  private do(act: DeskAct): boolean {
    if (actProblem(this.machine, this.state, act) !== null) return false;
    this.advance([act]);
    this.log.push({ tick: this.state.tick, act });
    return true;
  }

  /** Does an act that was found elsewhere, where it can be done here. */
  repeat(act: DeskAct): void {
    if (act.kind !== 'scene') this.do(act);
  }

  private keep(): Kept {
    return { state: this.state, log: [...this.log], memory: this.memory, base: this.base };
  }
  private back(kept: Kept): void {
    this.state = kept.state;
    this.readings = readingsWithWays(this.machine, this.ways, kept.state, []);
    this.memory = kept.memory;
    this.base = kept.base;
    this.log.length = 0;
    this.log.push(...kept.log);
  }

  /** Goes to one of some places by the shortest way, be it a wrong one. */
  go(places: readonly string[]): boolean {
    const { desk } = this.machine;
    if (places.some((each) => desk.places.find((one) => one.id === each)?.helper)) return true;
    const way = shortestWay(desk.places, String(readingOf(this.machine, this.state, 'place')), places);
    return way !== null && way.every((place) => this.do({ kind: 'go', place }));
  }

  /** Does an act as a desk writes it: a control put or worked, a look, a way, something said. */
  act(text: string): boolean {
    if (text.startsWith('call:')) return this.do({ kind: 'call', says: text.slice('call:'.length).trim() });
    const act = parseAct(text);
    const done =
      act.kind === 'put'
        ? this.put(act.control, act.position)
        : act.kind === 'do' && this.work(act.what, true);
    if (!done || act.kind === 'call' || !act.until) return done;
    const { until } = act;
    for (let t = 0; t < PATIENCE * TICKS && !this.holds(until); t++) this.advance();
    return this.holds(until);
  }

  private put(name: string, to: string): boolean {
    const control = this.machine.controls.get(name);
    if (!control) return false;
    if (!this.go(placesOf(control.at))) return false;
    if (control.kind === 'pedal') return this.do({ kind: 'pedal', control: name, to: Number(to) });
    return this.do({ kind: 'set', control: name, to });
  }

  /** Works something, or lets it go. */
  private work(name: string, wanted: boolean): boolean {
    const { desk } = this.machine;
    const place = placeOfWay(desk, name);
    if (place !== null && !this.machine.controls.has(name)) return wanted && this.go([place]);
    const look = desk.looks.find((each) => each.id === name);
    if (look) return !wanted || (this.go(placesOf(look.at)) && this.do({ kind: 'look', look: name }));
    const control = this.machine.controls.get(name);
    if (!control || !this.go(placesOf(control.at))) return false;
    return this.do(workedAct(control, wanted));
  }

  /**
   * Does what a line of a script says: `wait 3 s`, `let go NAME`, `go PLACE`, `scene NAME = VALUE`, `arm FAILURE`, an act
   * as a desk writes it, or a condition, which is brought about. Answers whether it could be done.
   */
  play(line: string): boolean {
    const [, verb, rest = ''] = /^(wait|let go|go|scene|arm)\s+(.+)$/.exec(line) ?? [];
    switch (verb) {
      case 'wait':
        this.wait(Number(rest.replace(/ s$/, '')));
        return true;
      case 'let go':
        return this.do({ kind: 'release', control: rest });
      case 'go':
        return this.go([rest]);
      case 'scene': {
        const [name = '', to = ''] = rest.split(/\s*=\s*/);
        return this.do({ kind: 'scene', name, to });
      }
      case 'arm':
        return this.do({ kind: 'arm', failure: rest });
      default:
        return isWrittenAsAct(line) ? this.act(line) : this.make(parseExpression(line));
    }
  }

  /** Makes something hold, or not hold. Answers whether it does in the end. */
  make(each: Expression, wanted = true, depth = 0): boolean {
    if (depth > DEPTH) return false;
    const lasting =
      (each.kind !== 'within' && each.kind !== 'count') || this.truths.has(JSON.stringify(each));
    if (lasting && this.holds(each) === wanted) return true;
    switch (each.kind) {
      case 'number':
        return false;
      case 'not':
        return this.make(each.of, !wanted, depth + 1) && this.holds(each) === wanted;
      case 'and':
      case 'or':
        return (each.kind === 'and') === wanted
          ? this.all(each.parts, wanted, depth)
          : this.one(each.parts, wanted, depth);
      case 'for':
        if (!wanted) return this.make(each.of, false, depth + 1);
        if (!this.make(each.of, true, depth + 1)) return false;
        this.wait(each.seconds + 0.3);
        return this.holds(each);
      case 'within':
        if (!wanted) return this.patiently(each, false);
        this.make(each.of, false, depth + 1);
        this.advance();
        return this.make(each.of, true, depth + 1) && this.patiently(each, true, 1);
      case 'done':
        return wanted && this.work(each.name, true);
      case 'ever':
        return this.make(each.of, wanted, depth + 1);
      case 'before':
        return this.make(each.first, wanted, depth + 1);
      case 'soon':
        return this.holds(each) === wanted;
      case 'name':
        return this.name(each, wanted, depth);
      case 'compare':
        return this.compared(each, wanted, depth);
      default:
        return false;
    }
  }

  private all(parts: readonly Expression[], wanted: boolean, depth: number): boolean {
    // What looks back in time comes last, or else first, and what is done first may undo what comes after it.
    const late = (one: Expression) => Number(['for', 'within', 'since', 'count'].includes(one.kind));
    const last = [...parts].sort((a, b) => late(a) - late(b));
    const first = [...parts].sort((a, b) => late(b) - late(a));
    const orders = parts.some((each) => late(each) > 0) ? [last, first] : [last, [...last].reverse()];
    for (const order of orders) {
      const kept = this.keep();
      for (let t = 0; t < 2; t++) {
        for (const part of order) this.make(part, wanted, depth + 1);
        if (order.every((part) => this.holds(part) === wanted)) return true;
      }
      this.back(kept);
    }
    return false;
  }

  private one(parts: readonly Expression[], wanted: boolean, depth: number): boolean {
    for (const part of parts) {
      const kept = this.keep();
      if (this.make(part, wanted, depth + 1)) return true;
      this.back(kept);
    }
    return false;
  }

  private patiently(each: Expression, wanted: boolean, seconds = PATIENCE): boolean {
    for (let t = 0; t < seconds * TICKS && this.holds(each) !== wanted; t++) this.advance();
    return this.holds(each) === wanted;
  }

  private name(each: Expression & { kind: 'name' }, wanted: boolean, depth: number): boolean {
    const { name } = each;
    const { desk } = this.machine;
    if (this.machine.controls.has(name) || desk.looks.some((one) => one.id === name))
      return this.work(name, wanted);
    const place = placeOfWay(desk, name);
    if (place !== null) return wanted && this.do({ kind: 'go', place });
    const show = desk.shows.find((one) => one.id === name);
    if (show) {
      if (!wanted) return false;
      if (show.when !== undefined && !this.make(parseExpression(show.when), true, depth + 1)) return false;
      return this.go(placesOf(show.at)) && this.patiently(each, true, 1);
    }
    return this.worked(each, name, wanted ? 'yes' : 'no', wanted, depth);
  }

  /** A state of the class or of a component: set by the scene, else brought about by what its component depends on. */
  private worked(each: Expression, name: string, to: string, wanted: boolean, depth: number): boolean {
    const kept = this.keep();
    if (this.do({ kind: 'scene', name, to }) && this.patiently(each, wanted, 0.3)) return true;
    this.back(kept);
    const component = name.slice(0, name.lastIndexOf('.'));
    const told = (text: string, way: boolean) => this.make(parseExpression(text), way, depth + 1);
    const allows = this.allows.get(component) ?? [];
    for (const condition of this.conditions.get(component) ?? [])
      for (const way of [true, false]) {
        for (const allow of allows) if (allow !== condition) told(allow, true);
        if (told(condition, way) && this.patiently(each, wanted)) return true;
        this.back(kept);
        if (allows.length === 0) continue;
        if (told(condition, way) && this.patiently(each, wanted)) return true;
        this.back(kept);
      }
    return false;
  }

  private compared(each: Expression & { kind: 'compare' }, wanted: boolean, depth: number): boolean {
    const { left, right } = each;
    if (left.kind === 'since') return this.since(each, left.of, wanted, depth);
    if (left.kind === 'count') return this.counted(each, left.of, wanted, depth);
    if (left.kind !== 'name') return false;
    const { name } = left;
    const meaning = this.machine.vocabulary.get(name);
    if (meaning?.kind === 'choice') {
      const given = right.kind === 'name' ? right.name : right.kind === 'number' ? String(right.value) : '';
      const is = (each.op === '=') === wanted;
      const values = is ? [given] : meaning.values.filter((one) => one !== given);
      for (const value of values) {
        const kept = this.keep();
        if (name === 'place') {
          if (this.go([value])) return true;
        } else if (this.machine.controls.has(name)) {
          if (this.put(name, value) && this.holds(each) === wanted) return true;
        } else if (this.worked(each, name, value, wanted, depth)) return true;
        this.back(kept);
      }
      return false;
    }
    const figure = this.figureOf(right);
    if (figure === null) return false;
    if (this.machine.controls.get(name)?.kind === 'pedal')
      return this.put(name, String(pedalFor(each.op, figure, wanted)));
    const more = ['>', '>='].includes(each.op) === wanted;
    const value =
      each.op === '='
        ? figure
        : more
          ? figure + 0.01 + Math.abs(figure) * 0.02
          : figure - 0.01 - Math.abs(figure) * 0.02;
    return this.worked(each, name, String(value), wanted, depth);
  }

  private figureOf(each: Expression): number | null {
    const value = this.compiler.alike().reading(each)(this.view);
    return typeof value === 'number' ? value : null;
  }

  private since(
    each: Expression & { kind: 'compare' },
    of: Expression,
    wanted: boolean,
    depth: number,
  ): boolean {
    if (!this.make(of, true, depth + 1)) return false;
    this.make(of, false, depth + 1);
    return this.patiently(each, wanted, 600);
  }

  private counted(
    each: Expression & { kind: 'compare' },
    of: Expression,
    wanted: boolean,
    depth: number,
  ): boolean {
    for (let t = 0; t < 14; t++) {
      if (this.holds(each) === wanted) return true;
      this.make(of, false, depth + 1);
      this.advance();
      if (!this.make(of, true, depth + 1)) return false;
    }
    return this.holds(each) === wanted;
  }
}

/** How far a pedal goes for a comparison with a figure to come out as wanted. */
function pedalFor(op: Comparison, figure: number, wanted: boolean): number {
  if (op === '=' || op === '!=') return (op === '=') === wanted ? figure : figure === 0 ? 1 : 0;
  const up = (op === '>' || op === '>=') === wanted;
  return up ? (figure >= 1 ? 1 : (figure + 1) / 2) : figure / 2;
}

function workedAct({ id, kind, springs }: Control, wanted: boolean): DeskAct {
  if (kind === 'pedal') return { kind: 'pedal', control: id, to: wanted ? 1 : 0 };
  if (kind === 'press' || kind === 'pull') return { kind: 'press', control: id };
  if (kind === 'lever' && springs !== undefined) return { kind: 'set', control: id, to: springs };
  return { kind: wanted ? 'hold' : 'release', control: id };
}
