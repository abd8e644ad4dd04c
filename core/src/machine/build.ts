import type { StepAct } from './acts';
import { checkSteps, type DeskProblem } from './checkSteps';
import { conditionsOf, type StateSpec, type Ticking } from './component';
import { COMPONENT_KINDS } from './components';
import { type Control, type Desk, placeOfWay, placesOf } from './desk';
import {
  checkExpression,
  Compiler,
  type Expression,
  ExpressionError,
  type Meaning,
  meantWords,
  parseExpression,
  type Reading,
  TICKS,
  UNITS,
  type View,
} from './expression';
import { valueFor } from './values';

/** Thrown for a desk that holds together nowhere near enough to be worked. */
export class DeskError extends Error {
  constructor(readonly problems: readonly DeskProblem[]) {
    super(problems.map((each) => `${each.path.join('.')}: ${each.message}`).join('; '));
  }
}

/** A rule's effect: what it sets, and for how many ticks its condition must have held. */
interface Effect {
  number: number;
  value: Exclude<Reading, null>;
  after: number;
  /** It sets what a component works out, so it holds from then on. */
  forces: boolean;
}

/** A desk made ready to be worked. */
export interface Machine {
  desk: Desk;
  vocabulary: ReadonlyMap<string, Meaning>;
  compiler: Compiler;
  /** What every name reads at the start, by its number. */
  start: readonly Reading[];
  ranges: readonly (readonly [number, number] | null)[];
  numberOf: (name: string) => number;
  components: readonly ((view: Mutable) => void)[];
  rules: readonly { holds: (view: View) => boolean; effects: readonly Effect[] }[];
  shows: readonly { number: number; places: readonly string[]; holds: (view: View) => boolean }[];
  values: ReadonlyMap<string, (view: View) => Reading>;
  forbidden: readonly { id: string; holds: (view: View) => boolean }[];
  /** What can go wrong: when it begins, once it is armed, and what it then changes. */
  failures: ReadonlyMap<string, { begins: (view: View) => boolean; effects: readonly Effect[] }>;
  controls: ReadonlyMap<string, Control>;
  /** Controls that something may lock, with what does. */
  locked: ReadonlyMap<string, (view: View) => boolean>;
}

/** A view whose readings are being worked out. */
export interface Mutable extends View {
  readings: Reading[];
}

/** What a control reads when nobody works it. */
function restOf(control: Control): Exclude<Reading, null> {
  if (control.kind === 'pedal') return 0;
  if (control.kind === 'selector' || control.kind === 'lever')
    return control.start ?? control.springs ?? control.positions![0]!;
  return false;
}

function meaningOf(control: Control): Meaning {
  if (control.kind === 'pedal') return { kind: 'figure', measure: null, worked: true };
  if (control.kind === 'selector' || control.kind === 'lever')
    return { kind: 'choice', values: control.positions! };
  return { kind: 'truth' };
}

const YES_NO = ['yes', 'no'];

/** What a machine is not fitted with, which a desk of its class may name all the same. */
export interface Unfitted {
  /** Names that read as false. */
  names: readonly string[];
  /** Places where nobody can be, and the ways there. */
  places: readonly string[];
  ways: readonly string[];
}

/**
 * Makes a desk ready: names, states, expressions and components, each checked. Throws DeskError with everything that is
 * wrong.
 */
export function buildMachine(desk: Desk, unfitted: Unfitted = { names: [], places: [], ways: [] }): Machine {
  const problems: DeskProblem[] = [];
  const vocabulary = new Map<string, Meaning>(unfitted.names.map((name) => [name, { kind: 'absent' }]));
  const starts = new Map<string, Exclude<Reading, null>>();
  const ranges = new Map<string, readonly [number, number]>();
  const define = (
    path: DeskProblem['path'],
    name: string,
    meaning: Meaning,
    start: Exclude<Reading, null>,
  ) => {
    const known = vocabulary.get(name);
    if (known && known.kind !== 'absent') problems.push({ path, message: `there is a "${name}" already` });
    vocabulary.set(name, meaning);
    starts.set(name, start);
  };

  const here = desk.places.map((each) => each.id);
  define(['places'], 'place', { kind: 'choice', values: [...here, ...unfitted.places] }, here[0]!);
  const somewhere = (path: DeskProblem['path'], at: string | readonly string[]) => {
    for (const each of placesOf(at))
      if (!here.includes(each))
        problems.push({
          path: [...path, 'at'],
          message: `there is no place "${each}"${meantWords(each, here)}`,
        });
  };
  desk.controls.forEach((each, i) => {
    somewhere(['controls', i], each.at);
    define(['controls', i], each.id, meaningOf(each), restOf(each));
  });
  desk.looks.forEach((each, i) => {
    somewhere(['looks', i], each.at);
    define(['looks', i], each.id, { kind: 'truth' }, false);
  });
  desk.shows.forEach((each, i) => {
    somewhere(['shows', i], each.at);
    define(['shows', i], each.id, { kind: 'truth' }, false);
  });
  desk.states.forEach((each, i) => {
    const values = each.values ?? (YES_NO.includes(String(each.start)) ? YES_NO : [String(each.start)]);
    const meaning: Meaning =
      typeof each.start === 'number'
        ? { kind: 'figure', measure: null }
        : typeof each.start === 'boolean'
          ? { kind: 'truth' }
          : { kind: 'choice', values };
    define(['states', i], each.id, meaning, each.start);
  });

  // Components: their parameters first, since the states they give are names for everything else.
  const fitted = desk.components.flatMap(({ kind, id, needs: _needs, origin: _origin, ...given }, i) => {
    const path = ['components', i];
    const found = COMPONENT_KINDS.get(kind);
    if (!found) {
      problems.push({
        path: [...path, 'kind'],
        message: `there is no component "${kind}"${meantWords(kind, COMPONENT_KINDS.keys())}`,
      });
      return [];
    }
    const read = found.parameters.safeParse(given);
    if (!read.success) {
      for (const issue of read.error.issues)
        problems.push({ path: [...path, ...(issue.path as (string | number)[])], message: issue.message });
      return [];
    }
    const own = id ?? kind;
    const parameters = read.data as Readonly<Record<string, unknown>>;
    const states = found.states(parameters);
    for (const [name, spec] of Object.entries<StateSpec>(states)) {
      define(path, `${own}.${name}`, spec.meaning, spec.start);
      if (spec.range) ranges.set(`${own}.${name}`, spec.range);
    }
    return [{ path, found, own, parameters, states }];
  });

  const compiler = new Compiler(vocabulary);
  const read = (path: DeskProblem['path'], text: string): Expression | null => {
    try {
      const expression = parseExpression(text);
      const wrong = checkExpression(expression, vocabulary);
      for (const each of wrong)
        problems.push({ path, message: `${each.message} (letter ${each.at + 1} of "${text}")` });
      return wrong.length === 0 ? expression : null;
    } catch (error) {
      if (!(error instanceof ExpressionError)) throw error;
      problems.push({ path, message: `${error.message} (letter ${error.at + 1} of "${text}")` });
      return null;
    }
  };
  const holding = (path: DeskProblem['path'], text: string | undefined, otherwise: boolean) => {
    const expression = text === undefined ? null : read(path, text);
    return expression ? compiler.truth(expression) : () => otherwise;
  };

  const components = fitted.map(({ path, found, own, parameters, states }) => {
    const conditions = new Map(
      conditionsOf(found).flatMap((name) => {
        const text = parameters[name];
        return typeof text === 'string' ? [[name, holding([...path, name], text, false)] as const] : [];
      }),
    );
    const numbers = new Map(Object.keys(states).map((name) => [name, compiler.numberOf(`${own}.${name}`)]));
    const others = new Map((found.looksAt ?? []).map((name) => [name, compiler.numberOf(name)]));
    const tick = found.tick(parameters);
    let view: Mutable;
    const self: Ticking = {
      get seconds() {
        return view.tick / TICKS;
      },
      truth: (name) => view.readings[numbers.get(name)!] === true,
      figure: (name) => view.readings[numbers.get(name)!] as number,
      set: (name, value) => {
        view.readings[numbers.get(name)!] = value;
      },
      holds: (name) => conditions.get(name)?.(view) ?? false,
      other: (name) => view.readings[others.get(name)!] ?? null,
    };
    return (now: Mutable) => {
      view = now;
      tick(self);
    };
  });

  const shows = desk.shows.map((each, i) => ({
    number: compiler.numberOf(each.id),
    places: placesOf(each.at),
    holds: holding(['shows', i, 'when'], each.when, true),
  }));
  const values = new Map(
    desk.shows.flatMap((each, i) => {
      const expression =
        each.value === undefined ? null : read(['shows', i, 'value'], `${each.value} = ${each.value}`);
      return expression?.kind === 'compare' ? [[each.id, compiler.reading(expression.left)] as const] : [];
    }),
  );
  const locked = new Map(
    desk.controls.flatMap((each, i) =>
      each.lockedWhen === undefined
        ? []
        : [[each.id, holding(['controls', i, 'lockedWhen'], each.lockedWhen, false)] as const],
    ),
  );
  const ofComponent = new Set(
    fitted.flatMap((each) => Object.keys(each.states).map((name) => `${each.own}.${name}`)),
  );
  const rules = desk.rules.map((each, i) => ({
    holds: holding(['rules', i, 'when'], each.when, false),
    effects: each.then.flatMap((text, t): Effect[] => {
      const path = ['rules', i, 'then', t];
      const match = /^([\w.-]+)\s*=\s*(\S+?)(?:\s+after\s+(\d+(?:\.\d+)?)\s*(s|min|h))?$/.exec(text.trim());
      if (!match) {
        problems.push({ path, message: `"${text}" is not "name = value", at once or "after 3 s"` });
        return [];
      }
      const [, name, given, after, unit] = match as unknown as [
        string,
        string,
        string,
        string?,
        ('s' | 'min' | 'h')?,
      ];
      // What is not fitted cannot be set.
      if (vocabulary.get(name)?.kind === 'absent') return [];
      const value = valueFor(vocabulary.get(name), given);
      if (value === null) {
        problems.push({
          path,
          message: `"${name}" cannot be "${given}"${meantWords(name, vocabulary.keys())}`,
        });
        return [];
      }
      return [
        {
          number: compiler.numberOf(name),
          value,
          after: Math.round(Number(after ?? 0) * UNITS[unit ?? 's'].factor * TICKS),
          forces: ofComponent.has(name),
        },
      ];
    }),
  }));
  const forbidden = Object.entries(desk.forbidden).flatMap(([id, each]) =>
    'when' in each ? [{ id, holds: holding(['forbidden', id, 'when'], each.when, false) }] : [],
  );
  const failures = new Map(
    Object.entries(desk.failures).flatMap(([id, each]) =>
      'begins' in each
        ? [
            [
              id,
              {
                begins: holding(['failures', id, 'begins'], each.begins, false),
                effects: Object.entries(each.sets).flatMap(([name, given]): Effect[] => {
                  const value = valueFor(vocabulary.get(name), String(given));
                  return value === null
                    ? []
                    : [{ number: compiler.numberOf(name), value, after: 0, forces: ofComponent.has(name) }];
                }),
              },
            ] as const,
          ]
        : [],
    ),
  );
  checkSteps(desk, vocabulary, unfitted.ways, problems, read);
  if (problems.length > 0) throw new DeskError(problems);
  for (const name of vocabulary.keys()) compiler.numberOf(name);
  return {
    desk,
    vocabulary,
    compiler,
    start: compiler.names.map((name) => starts.get(name) ?? null),
    ranges: compiler.names.map((name) => ranges.get(name) ?? null),
    numberOf: (name) => compiler.numberOf(name),
    components,
    rules,
    shows,
    values,
    forbidden,
    failures,
    controls: new Map(desk.controls.map((each) => [each.id, each])),
    locked,
  };
}

/** Whether the machine has what an act works: what is not fitted drops out of its step. */
export function isFitted(machine: Machine, act: StepAct): boolean {
  if (act.kind === 'call') return true;
  const name = act.kind === 'put' ? act.control : act.what;
  const meaning = machine.vocabulary.get(name);
  return meaning ? meaning.kind !== 'absent' : placeOfWay(machine.desk, name) !== null;
}
