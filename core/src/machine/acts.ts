import {
  checkExpression,
  type Expression,
  ExpressionError,
  type ExpressionProblem,
  meantWords,
  parseExpression,
  type Vocabulary,
} from './expression';

/** What counts as doing something at a desk. */
export type StepAct =
  /** Said aloud. */
  | { kind: 'call'; says: string }
  /** A control put to a position, and left there or kept there until something holds. */
  | { kind: 'put'; control: string; position: string; until: Expression | null }
  /** A control worked, a look made, a way gone; kept up until something holds. */
  | { kind: 'do'; what: string; until: Expression | null };

const SHAPE = /^([A-Za-z][\w-]*)(?:\s*(?:=\s*([^\s=]+)))?(?:\s+(pressed|held\s+until\s+(.+)))?$/;

/** Whether a reaction is written as an act that is said or kept up, rather than as a condition. */
export const isWrittenAsAct = (text: string): boolean =>
  text.startsWith('call:') || /\sheld\s+until\s/.test(text);

/** Reads an act. Throws ExpressionError, with the place, for what is none. */
export function parseAct(text: string): StepAct {
  const trimmed = text.trim();
  if (trimmed.startsWith('call:')) return { kind: 'call', says: trimmed.slice('call:'.length).trim() };
  const match = SHAPE.exec(trimmed);
  if (!match) throw new ExpressionError(`"${text}" is no act`, 0);
  const [, what, position, , held] = match as unknown as [string, string, string?, string?, string?];
  let until: Expression | null = null;
  if (held !== undefined) {
    const at = text.indexOf(held);
    try {
      until = parseExpression(held);
    } catch (error) {
      throw error instanceof ExpressionError ? new ExpressionError(error.message, at + error.at) : error;
    }
  }
  return position === undefined
    ? { kind: 'do', what, until }
    : { kind: 'put', control: what, position, until };
}

/** What is wrong in an act: names, positions and what it waits for. `ways` are the acts that lead to a place. */
export function checkAct(
  act: StepAct,
  vocabulary: Vocabulary,
  ways: ReadonlySet<string>,
): ExpressionProblem[] {
  if (act.kind === 'call') return act.says === '' ? [{ message: 'it calls nothing', at: 0 }] : [];
  const wrong = act.until ? checkExpression(act.until, vocabulary) : [];
  const name = act.kind === 'put' ? act.control : act.what;
  const meaning = vocabulary.get(name);
  if (act.kind === 'do') {
    if (ways.has(name) || meaning) return wrong;
    return [
      { message: `there is no "${name}"${meantWords(name, [...vocabulary.keys(), ...ways])}`, at: 0 },
      ...wrong,
    ];
  }
  if (!meaning)
    return [{ message: `there is no "${name}"${meantWords(name, vocabulary.keys())}`, at: 0 }, ...wrong];
  if (meaning.kind === 'choice' && !meaning.values.includes(act.position))
    return [
      {
        message: `"${act.position}" is none of its positions (${meaning.values.join(', ')})${meantWords(act.position, meaning.values)}`,
        at: 0,
      },
      ...wrong,
    ];
  return wrong;
}
