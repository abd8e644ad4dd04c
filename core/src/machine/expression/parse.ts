import { COMPARISONS, type Comparison, type Expression, ExpressionError, type Unit, UNITS } from './syntax';

interface Token {
  kind: 'number' | 'word' | 'sign' | 'end';
  text: string;
  at: number;
}

const WORDS = new Set(['and', 'or', 'not', 'for', 'within', 'of', 'since', 'before', 'count', 'done']);
const SHAPES: readonly [kind: Token['kind'], shape: RegExp][] = [
  ['number', /^-?\d+(\.\d+)?(?![\w.])|^-?\d+(\.\d+)?(?=\s*(?:°C|%)|[a-zA-Z]+\b)/],
  ['word', /^[A-Za-z][\w-]*(\.[A-Za-z0-9][\w-]*)*/],
  ['sign', /^(<=|>=|!=|°C|[=<>()%])/],
];

function tokens(text: string): Token[] {
  const found: Token[] = [];
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at]!)) {
      at += 1;
      continue;
    }
    const rest = text.slice(at);
    const shape = SHAPES.map(([kind, each]) => [kind, each.exec(rest)?.[0]] as const).find(
      ([, match]) => match !== undefined,
    );
    if (!shape) throw new ExpressionError(`"${text[at]}" has no meaning here`, at);
    found.push({ kind: shape[0], text: shape[1]!, at });
    at += shape[1]!.length;
  }
  return [...found, { kind: 'end', text: '', at: text.length }];
}

/**
 * Reads an expression. `not` binds to the comparison that follows it, `for` and `within` to what stands before them, then
 * comes `and`, then `or`. Throws ExpressionError, with the place, for what cannot be read.
 *
 * @example parseExpression('key = on').kind // 'compare'
 */
export function parseExpression(text: string): Expression {
  const reader = new Reader(tokens(text));
  const read = reader.either();
  reader.end();
  return read;
}

class Reader {
  private next = 0;
  constructor(private readonly list: readonly Token[]) {}

  private get token(): Token {
    return this.list[this.next]!;
  }

  private is(text: string): boolean {
    return this.token.kind !== 'number' && this.token.kind !== 'end' && this.token.text === text;
  }

  private take(text: string): boolean {
    if (!this.is(text)) return false;
    this.next += 1;
    return true;
  }

  private wants(text: string): void {
    if (!this.take(text)) throw this.error(`"${text}" is wanted`);
  }

  private error(why: string): ExpressionError {
    const { kind, text, at } = this.token;
    return new ExpressionError(`${why}, not ${kind === 'end' ? 'the end' : `"${text}"`}`, at);
  }

  end(): void {
    if (this.token.kind !== 'end') throw this.error('"and", "or" or the end is wanted');
  }

  either(): Expression {
    return this.chain('or', () => this.chain('and', () => this.timed()));
  }

  private chain(kind: 'and' | 'or', part: () => Expression): Expression {
    const parts = [part()];
    while (this.take(kind)) parts.push(part());
    return parts.length === 1 ? parts[0]! : { kind, parts };
  }

  /** Something with what is said of its time: `x for 3 s`, `x within 5 s of y`, `x before y`. */
  private timed(): Expression {
    let read = this.plain();
    for (;;) {
      if (this.take('for')) read = { kind: 'for', of: read, seconds: this.seconds() };
      else if (this.take('within')) read = { kind: 'and', parts: [read, this.limit()] };
      else if (this.take('before')) read = { kind: 'before', first: read, then: this.plain() };
      else return read;
    }
  }

  /** What follows `within`: some time, and of what; without it, of the failure. */
  private limit(): Expression {
    const seconds = this.seconds();
    return this.take('of') ? { kind: 'within', of: this.plain(), seconds } : { kind: 'soon', seconds };
  }

  private plain(): Expression {
    if (this.take('not')) return { kind: 'not', of: this.plain() };
    if (this.take('within')) return this.limit();
    if (this.take('before')) return { kind: 'not', of: { kind: 'ever', of: this.plain() } };
    const left = this.term();
    const op = COMPARISONS.find((each) => this.is(each));
    if (!op) return left;
    const { at } = this.token;
    this.next += 1;
    return { kind: 'compare', op: op satisfies Comparison, left, right: this.term(), at };
  }

  private term(): Expression {
    const { kind, text, at } = this.token;
    if (this.take('(')) {
      const inside = this.either();
      this.wants(')');
      return inside;
    }
    if (kind === 'number') {
      this.next += 1;
      return { kind: 'number', value: Number(text), unit: this.unit(), at };
    }
    if (this.take('since')) return { kind: 'since', of: this.term() };
    if (this.take('count')) {
      this.wants('(');
      const of = this.either();
      this.wants(')');
      return { kind: 'count', of };
    }
    if (this.is('done') && this.list[this.next + 1]!.text === '(') {
      this.next += 2;
      const name = this.name();
      this.wants(')');
      return { kind: 'done', ...name };
    }
    return { kind: 'name', ...this.name() };
  }

  private name(): { name: string; at: number } {
    const { kind, text, at } = this.token;
    if (kind !== 'word' || (WORDS.has(text) && text !== 'done')) throw this.error('a name is wanted');
    this.next += 1;
    return { name: text, at };
  }

  private unit(): Unit | null {
    const { text } = this.token;
    if (this.token.kind === 'end' || !Object.hasOwn(UNITS, text)) return null;
    this.next += 1;
    return text as Unit;
  }

  private seconds(): number {
    const { kind, text, at } = this.token;
    if (kind !== 'number') throw this.error('a time is wanted');
    this.next += 1;
    const unit = this.unit();
    if (unit === null || UNITS[unit].measure !== 'time')
      throw new ExpressionError(`${text} needs a unit of time (s, min or h)`, at);
    const seconds = Number(text) * UNITS[unit].factor;
    if (seconds < 0) throw new ExpressionError('a time is not below nothing', at);
    return seconds;
  }
}
