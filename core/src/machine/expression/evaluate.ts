import { type Expression, UNITS } from './syntax';
import type { Vocabulary } from './vocabulary';

/** What a name reads now: whether it holds, a figure in its measure's own unit, a position; null where not fitted. */
export type Reading = boolean | number | string | null;

/** Ticks in a second: the engine's fixed step is a tenth of one. */
export const TICKS = 10;

/** What an expression sees of a machine. */
export interface View {
  /** Ticks since the session began. */
  tick: number;
  /** What each name reads, by its number. */
  readings: readonly Reading[];
  /** What was true when, for what looks back in time; see `Compiler.remember`. */
  memory: readonly number[];
}

type Evaluating = (view: View) => Reading;

/** Nothing yet, in the memory. */
const NEVER = -1;

/**
 * Turns checked expressions into what is worked out every tick. Expressions of one desk share a compiler: names are
 * numbers once and for all, and what looks back in time has its places in one memory, which `remember` brings up to
 * date once a tick, before anything is asked.
 */
export class Compiler {
  private readonly numbers = new Map<string, number>();
  private readonly updates: ((view: View, memory: number[]) => void)[] = [];
  private places = 0;
  /** Places that tell whether something held in the tick before. */
  private readonly before: number[] = [];

  constructor(private readonly vocabulary: Vocabulary) {}

  /** The number of a name among the readings. */
  numberOf(name: string): number {
    let known = this.numbers.get(name);
    if (known === undefined) this.numbers.set(name, (known = this.numbers.size));
    return known;
  }

  /** Another compiler in which the same names have the same numbers, with a memory of its own. */
  alike(): Compiler {
    const other = new Compiler(this.vocabulary);
    for (const name of this.names) other.numberOf(name);
    return other;
  }

  /** Names by their numbers. */
  get names(): string[] {
    return [...this.numbers.keys()];
  }

  /** The memory of a machine for which nothing has been true yet. */
  freshMemory(): number[] {
    return Array.from({ length: this.places }, () => NEVER);
  }

  /** The same, but what holds in the first tick has become true in it: for what is counted from a moment on. */
  memoryFromNow(): number[] {
    const memory = this.freshMemory();
    for (const place of this.before) memory[place] = 0;
    return memory;
  }

  /**
   * The memory of a tick from that of the tick before. In the first tick what holds already has not "become" true.
   * Inner expressions come before those that use them.
   */
  remember(view: View): number[] {
    const memory = [...view.memory];
    const now = { ...view, memory };
    for (const update of this.updates) update(now, memory);
    return memory;
  }

  /** Whether an expression holds. */
  truth(expression: Expression): (view: View) => boolean {
    const evaluate = this.reading(expression);
    // A pedal is worked while it is pressed at all.
    return (view) => {
      const value = evaluate(view);
      return value === true || (typeof value === 'number' && value > 0);
    };
  }

  /** What an expression reads. */
  reading(expression: Expression): Evaluating {
    switch (expression.kind) {
      case 'number': {
        const { value, unit } = expression;
        const figure = unit === null ? value : value * UNITS[unit].factor;
        return () => figure;
      }
      case 'name': {
        const { name } = expression;
        // A word that is no name is a position to compare with.
        if (!this.vocabulary.has(name)) return () => name;
        const number = this.numberOf(name);
        return ({ readings }) => readings[number] ?? null;
      }
      case 'not': {
        const of = this.truth(expression.of);
        return (view) => !of(view);
      }
      case 'and': {
        const parts = expression.parts.map((each) => this.truth(each));
        return (view) => parts.every((each) => each(view));
      }
      case 'or': {
        const parts = expression.parts.map((each) => this.truth(each));
        return (view) => parts.some((each) => each(view));
      }
      case 'compare':
        return this.comparison(expression);
      case 'for':
        return this.lasting(expression.of, expression.seconds);
      case 'within':
        return this.lately(expression.of, expression.seconds);
      case 'soon': {
        const most = Math.round(expression.seconds * TICKS);
        return ({ tick }) => tick <= most;
      }
      case 'since':
        return this.sinceTrue(expression.of);
      case 'count':
        return this.counted(expression.of);
      case 'done': {
        const { name } = expression;
        const ever = this.everTrue({ kind: 'name', name, at: 0 });
        return (view) => view.memory[ever]! >= 0;
      }
      case 'ever': {
        const ever = this.everTrue(expression.of);
        return ({ memory }) => memory[ever]! >= 0;
      }
      case 'before': {
        const [first, then] = [this.everTrue(expression.first), this.everTrue(expression.then)];
        return ({ memory }) => memory[first]! >= 0 && (memory[then]! < 0 || memory[first]! < memory[then]!);
      }
    }
  }

  private comparison({ op, left, right }: Expression & { kind: 'compare' }): Evaluating {
    const a = this.reading(left);
    // A position is compared as it is written, be it a number or a word that is a name elsewhere.
    const meaning = left.kind === 'name' ? this.vocabulary.get(left.name) : undefined;
    const position = meaning?.kind === 'choice' ? positionIn(meaning.values, right) : null;
    const b: Evaluating = position === null ? this.reading(right) : () => position;
    const fitted = (view: View, holds: (x: Reading, y: Reading) => boolean) => {
      const [x, y] = [a(view), b(view)];
      return x !== null && y !== null && holds(x, y);
    };
    switch (op) {
      case '=':
        return (view) => fitted(view, (x, y) => x === y);
      case '!=':
        return (view) => fitted(view, (x, y) => x !== y);
      case '<':
        return (view) => fitted(view, (x, y) => (x as number) < (y as number));
      case '<=':
        return (view) => fitted(view, (x, y) => (x as number) <= (y as number));
      case '>':
        return (view) => fitted(view, (x, y) => (x as number) > (y as number));
      case '>=':
        return (view) => fitted(view, (x, y) => (x as number) >= (y as number));
    }
  }

  /** A place in the memory that is kept up to date; the update comes after those of what it is made of. */
  private place(update: (view: View, memory: number[], place: number) => void): number {
    const place = this.places++;
    this.updates.push((view, memory) => update(view, memory, place));
    return place;
  }

  private placeBefore(): number {
    const place = this.place(() => undefined);
    this.before.push(place);
    return place;
  }

  /** The tick since which it has held without a break. */
  private lasting(of: Expression, seconds: number): Evaluating {
    const holds = this.truth(of);
    const since = this.place((view, memory, place) => {
      if (!holds(view)) memory[place] = NEVER;
      else if (memory[place] === NEVER) memory[place] = view.tick;
    });
    const least = Math.round(seconds * TICKS);
    return ({ tick, memory }) => memory[since]! !== NEVER && tick - memory[since]! >= least;
  }

  /** Where the tick stands in which it last became true. What holds in the first tick never became so. */
  private became(of: Expression): number {
    const holds = this.truth(of);
    const before = this.placeBefore();
    return this.place((view, memory, place) => {
      const now = holds(view);
      if (now && memory[before] === 0) memory[place] = view.tick;
      memory[before] = Number(now);
    });
  }

  private lately(of: Expression, seconds: number): Evaluating {
    const place = this.became(of);
    const most = Math.round(seconds * TICKS);
    return ({ tick, memory }) => memory[place]! !== NEVER && tick - memory[place]! <= most;
  }

  /** Where the tick stands in which it was last true. */
  private sinceTrue(of: Expression): Evaluating {
    const holds = this.truth(of);
    const last = this.place((view, memory, place) => {
      if (holds(view)) memory[place] = view.tick;
    });
    return ({ tick, memory }) => (memory[last] === NEVER ? null : (tick - memory[last]!) / TICKS);
  }

  /** Where the tick stands in which it was first true. */
  private everTrue(of: Expression): number {
    const holds = this.truth(of);
    return this.place((view, memory, place) => {
      if (memory[place] === NEVER && holds(view)) memory[place] = view.tick;
    });
  }

  private counted(of: Expression): Evaluating {
    const holds = this.truth(of);
    const before = this.placeBefore();
    const count = this.place((view, memory, place) => {
      const now = holds(view);
      const so = memory[place] === NEVER ? 0 : memory[place]!;
      memory[place] = so + Number(now && memory[before] === 0);
      memory[before] = Number(now);
    });
    return ({ memory }) => Math.max(0, memory[count]!);
  }
}

/** The position that an expression stands for beside a choice; null where it is none. */
function positionIn(values: readonly string[], expression: Expression): string | null {
  const word =
    expression.kind === 'number'
      ? String(expression.value)
      : expression.kind === 'name'
        ? expression.name
        : null;
  return word !== null && values.includes(word) ? word : null;
}
