import { checkAct, isWrittenAsAct, parseAct } from './acts';
import { type Desk, waysTo } from './desk';
import {
  checkExpression,
  type Expression,
  ExpressionError,
  type Meaning,
  meantWords,
  parseExpression,
} from './expression';
import { valueFor } from './values';

/** What is wrong in a desk: where, as the path of the row, and what. */
export interface DeskProblem {
  path: (string | number)[];
  message: string;
}

/** Checks what a desk says of steps, failures, starts and commands. */
export function checkSteps(
  desk: Desk,
  vocabulary: ReadonlyMap<string, Meaning>,
  elsewhere: readonly string[],
  problems: DeskProblem[],
  read: (path: DeskProblem['path'], text: string) => Expression | null,
): void {
  const ways = new Set([...desk.places.flatMap(waysTo), ...elsewhere]);
  const act = (path: DeskProblem['path'], text: string) => {
    try {
      for (const { message } of checkAct(parseAct(text), vocabulary, ways)) problems.push({ path, message });
    } catch (error) {
      if (!(error instanceof ExpressionError)) throw error;
      problems.push({ path, message: error.message });
    }
  };
  for (const [step, each] of Object.entries(desk.steps)) {
    const path = ['steps', step];
    each.acts?.forEach((text, i) => act([...path, 'acts', i], text));
    each.alternatives?.forEach((list, i) =>
      list.forEach((text, j) => act([...path, 'alternatives', i, j], text)),
    );
    if (each.wait?.until) read([...path, 'wait', 'until'], each.wait.until);
    if (each.rule) read([...path, 'rule'], each.rule);
    if (each.if) read([...path, 'if'], each.if);
  }
  for (const [failure, each] of Object.entries(desk.failures)) {
    if (!('begins' in each)) continue;
    const path = ['failures', failure];
    for (const [name, given] of Object.entries(each.sets))
      if (valueFor(vocabulary.get(name), String(given)) === null && vocabulary.get(name)?.kind !== 'absent')
        problems.push({
          path: [...path, 'sets', name],
          message: `"${name}" cannot be "${String(given)}"${vocabulary.has(name) ? '' : meantWords(name, vocabulary.keys())}`,
        });
    for (const name of each.seen)
      if (!vocabulary.has(name))
        problems.push({
          path: [...path, 'seen'],
          message: `there is no show "${name}"${meantWords(name, vocabulary.keys())}`,
        });
    for (const [side, list] of [
      ['right', each.right],
      ['wrong', each.wrong],
    ] as const)
      list.forEach((text, i) => {
        if (text.startsWith('call:')) return;
        reaction([...path, side, i], text, vocabulary, ways, problems);
      });
  }
  desk.commands.forEach((each, i) => read(['commands', i, 'answer'], each.answer));
}

/** A reaction is an expression in which ways to a place are names too. */
function reaction(
  path: DeskProblem['path'],
  text: string,
  vocabulary: ReadonlyMap<string, Meaning>,
  ways: ReadonlySet<string>,
  problems: DeskProblem[],
): void {
  try {
    if (isWrittenAsAct(text)) {
      for (const { message } of checkAct(parseAct(text), vocabulary, ways))
        problems.push({ path, message: `${message} (in "${text}")` });
      return;
    }
    const names = new Map([...vocabulary, ...[...ways].map((each) => [each, { kind: 'truth' }] as const)]);
    for (const { message } of checkExpression(parseExpression(text), names, { reaction: true }))
      problems.push({ path, message: `${message} (in "${text}")` });
  } catch (error) {
    if (!(error instanceof ExpressionError)) throw error;
    problems.push({ path, message: `${error.message} (letter ${error.at + 1} of "${text}")` });
  }
}
