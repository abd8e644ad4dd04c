import { type Expression, type Measure, UNITS } from './syntax';
import { type Meaning, meantWords, type Vocabulary } from './vocabulary';

/** What is wrong in an expression, and where: letters from its beginning, from 0. */
export interface ExpressionProblem {
  message: string;
  at: number;
}

/** What an expression comes to: it holds or not, or it is a figure or one of several positions. */
type Sort = Meaning | { kind: 'word'; text: string; at: number } | { kind: 'unknown' };

const NO_MEASURE = 'no unit';
const measured = (measure: Measure | null) => measure ?? NO_MEASURE;

/**
 * Checks an expression against the names of a desk: unknown names and positions (with what was probably meant), figures
 * of different measures, figures where a truth is wanted. `reaction` allows what only reactions may say. Nothing is
 * wrong for an empty list.
 */
export function checkExpression(
  expression: Expression,
  vocabulary: Vocabulary,
  { reaction = false }: { reaction?: boolean } = {},
): ExpressionProblem[] {
  const problems: ExpressionProblem[] = [];
  const wrong = (message: string, at: number) => void problems.push({ message, at });

  /** A name by itself; a word that is no name may still be a position, which the comparison knows. */
  function named(name: string, at: number): Sort {
    return vocabulary.get(name) ?? { kind: 'word', text: name, at };
  }
  function unknown({ text, at }: { text: string; at: number }): { kind: 'unknown' } {
    wrong(`there is no "${text}"${meantWords(text, vocabulary.keys())}`, at);
    return { kind: 'unknown' };
  }
  function truth(each: Expression): void {
    const sort = sortOf(each);
    if (sort.kind === 'word') unknown(sort);
    if (sort.kind === 'figure' && !sort.worked)
      wrong('a figure does not hold or not; compare it', placeOf(each));
    if (sort.kind === 'choice') wrong(`say which position: ${sort.values.join(', ')}`, placeOf(each));
  }
  function compared({ op, left: first, right: second, at }: Expression & { kind: 'compare' }): void {
    let left = sortOf(first);
    let right = sortOf(second);
    if (left.kind === 'word') left = unknown(left);
    if (left.kind === 'unknown' || left.kind === 'absent') return;
    if (left.kind === 'choice') {
      if (op !== '=' && op !== '!=') wrong('positions are compared with = or != only', at);
      // A word may be a position here and a name elsewhere.
      if (second.kind === 'name' && left.values.includes(second.name)) return;
      if (right.kind === 'word') {
        if (!left.values.includes(right.text))
          wrong(
            `"${right.text}" is none of its positions (${left.values.join(', ')})${meantWords(right.text, left.values)}`,
            right.at,
          );
      } else if (second.kind === 'number') {
        if (!left.values.includes(String(second.value)))
          wrong(`${second.value} is none of its positions (${left.values.join(', ')})`, second.at);
      } else if (right.kind !== 'choice') wrong('a position is wanted after it', at);
      return;
    }
    if (right.kind === 'word') right = unknown(right);
    if (right.kind === 'unknown' || right.kind === 'absent') return;
    if (left.kind === 'truth') return wrong('what holds or not is not compared; say it or "not" it', at);
    if (right.kind !== 'figure') return wrong('a figure is wanted after it', at);
    // Nothing at all is the same in every unit.
    const bare = left.measure === null || right.measure === null;
    if (left.kind === 'figure' && !bare && left.measure !== right.measure)
      wrong(`${measured(left.measure)} is not compared with ${measured(right.measure)}`, at);
  }
  function sortOf(each: Expression): Sort {
    switch (each.kind) {
      case 'number':
        return { kind: 'figure', measure: each.unit === null ? null : UNITS[each.unit].measure };
      case 'name':
        return named(each.name, each.at);
      case 'not':
        truth(each.of);
        return { kind: 'truth' };
      case 'and':
      case 'or':
        each.parts.forEach(truth);
        return { kind: 'truth' };
      case 'for':
      case 'within':
      case 'ever':
        truth(each.of);
        return { kind: 'truth' };
      case 'since':
        truth(each.of);
        return { kind: 'figure', measure: 'time' };
      case 'count':
        truth(each.of);
        return { kind: 'figure', measure: null };
      case 'done': {
        const sort = named(each.name, each.at);
        if (sort.kind === 'word') unknown(sort);
        return { kind: 'truth' };
      }
      case 'soon':
        if (!reaction) wrong('"within" needs "of" and of what; alone it stands in reactions', 0);
        return { kind: 'truth' };
      case 'before':
        if (!reaction) wrong('"before" stands in reactions only', placeOf(each.first));
        truth(each.first);
        truth(each.then);
        return { kind: 'truth' };
      case 'compare':
        compared(each);
        return { kind: 'truth' };
    }
  }
  truth(expression);
  return problems;
}

/** Where an expression begins. */
function placeOf(each: Expression): number {
  switch (each.kind) {
    case 'number':
    case 'name':
    case 'done':
      return each.at;
    case 'compare':
      return placeOf(each.left);
    case 'and':
    case 'or':
      return placeOf(each.parts[0]!);
    case 'before':
      return placeOf(each.first);
    case 'soon':
      return 0;
    default:
      return placeOf(each.of);
  }
}
