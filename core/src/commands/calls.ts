import {
  buildMachine,
  type Control,
  type Desk,
  type DeskPack,
  type Expression,
  fitDesk,
  type Machine,
  parseExpression,
  placesOf,
  type View,
} from '../machine';
import { combinations } from './combinations';

/** Something that is called out, to be answered with a control. */
export interface Call {
  id: string;
  say: string;
  /** The call that asks for the contrary; null where there is none. */
  opposite: string | null;
  /** The controls that the answer works, by id. */
  works: string[];
  /** What is being learnt: the control that tells this answer from others; several where they only do so together. */
  control: string;
  /** The same in words. */
  controlName: string;
}

/** The controls of a class with nothing behind them, as they are worked when the engine is off: what calls are answered with. */
export interface Controls {
  machine: Machine;
  calls: readonly Call[];
  /** Whether a call is answered, as the controls stand. */
  answers: ReadonlyMap<string, (view: View) => boolean>;
}

/** The names that an expression asks about, apart from the positions they are compared with. */
function asked(each: Expression): string[] {
  switch (each.kind) {
    case 'name':
      return [each.name];
    case 'not':
      return asked(each.of);
    case 'and':
    case 'or':
      return each.parts.flatMap(asked);
    case 'compare':
      return asked(each.left);
    default:
      return [];
  }
}

/** The controls of a class as it is fitted out, with the calls they answer; null for a class without a desk. */
export function controlsOf(pack: Pick<DeskPack, 'machine' | 'fitOut'>): Controls | null {
  if (!pack.machine.desk) return null;
  const { desk, unfitted } = fitDesk(pack.machine.desk, pack.fitOut);
  const there = new Set(desk.controls.map((each) => each.id));
  const fitted = desk.commands.flatMap((command) => {
    const answer = parseExpression(command.answer);
    const works = [...new Set(asked(answer))];
    return works.length > 0 && works.every((name) => there.has(name)) ? [{ command, answer, works }] : [];
  });
  const wanted = new Set(fitted.flatMap((each) => each.works));
  const machine = buildMachine(
    {
      ...desk,
      // With the engine off everything can be moved, and nothing follows from it.
      controls: desk.controls
        .filter((each) => wanted.has(each.id))
        .map(({ lockedWhen: _lockedWhen, ...control }) => control),
      looks: [],
      shows: [],
      states: [],
      components: [],
      rules: [],
      steps: {},
      forbidden: {},
      failures: {},
      starts: {},
    },
    unfitted,
  );
  const used = new Map<string, number>();
  for (const { works } of fitted) for (const name of works) used.set(name, (used.get(name) ?? 0) + 1);
  const ids = new Set(fitted.map((each) => each.command.id));
  return {
    machine,
    answers: new Map(
      fitted.map(({ command, answer }) => [command.id, machine.compiler.truth(answer)] as const),
    ),
    calls: fitted.map(({ command, works }) => {
      // A switch that every answer asks for teaches nothing apart: what counts is used in the fewest of them.
      const least = Math.min(...works.map((name) => used.get(name)!));
      const own = works.filter((name) => used.get(name) === least).sort();
      const { opposite } = command;
      return {
        id: command.id,
        say: command.say,
        opposite: opposite !== undefined && ids.has(opposite) ? opposite : null,
        works,
        control: own.join('+'),
        controlName: own.map((name) => machine.controls.get(name)!.name).join(', '),
      };
    }),
  };
}

/** Whether a control goes back by itself when it is let go. */
const goesBack = ({ kind }: Control) => kind === 'lever' || kind === 'hold' || kind === 'pedal';

/** Whether leaving everything alone answers a call already, so that no machine can see that it was heard. */
export function isAnsweredByNothing({ machine, answers }: Controls, { id, works }: Call): boolean {
  const still = works.every((name) => goesBack(machine.controls.get(name)!));
  return still && answers.get(id)!({ tick: 0, readings: machine.start, memory: [] });
}

/** Whether an answer can still become right while one of its controls stands as it does. */
export function mayBecomeRight(
  { machine, answers }: Controls,
  { id, works }: Call,
  control: string,
  view: View,
): boolean {
  const readings = [...view.readings];
  const others = works.filter((name) => name !== control).map((name) => machine.controls.get(name)!);
  return combinations(others).some((values) => {
    others.forEach((other, i) => (readings[machine.numberOf(other.id)] = values[i]!));
    return answers.get(id)!({ ...view, readings });
  });
}

/** A place with the calls that can be answered from there. */
interface CallPlace<C> {
  place: string;
  name: string;
  calls: C[];
}

/** Places with two calls or more, the one with the most first. */
function placesFor<C extends { works: readonly string[] }>(desk: Desk, calls: readonly C[]): CallPlace<C>[] {
  const where = new Map(desk.controls.map((each) => [each.id, placesOf(each.at)]));
  return desk.places
    .map(({ id, name }) => ({
      place: id,
      name,
      calls: calls.filter((call) => call.works.every((control) => where.get(control)?.includes(id))),
    }))
    .filter((each) => each.calls.length > 1)
    .sort((a, b) => b.calls.length - a.calls.length);
}

/** Where calls can be answered from, the place with the most of them first. */
export const callPlaces = ({ machine, calls }: Controls): CallPlace<Call>[] => placesFor(machine.desk, calls);

/** Where the calls of a class can be answered from, however a machine of it is fitted out. */
export const commandPlaces = (desk: Desk): { id: string; name: string }[] =>
  placesFor(
    desk,
    desk.commands.map(({ answer }) => ({ works: asked(parseExpression(answer)) })),
  ).map(({ place, name }) => ({ id: place, name }));

/** The calls that can be answered from a place. */
export const callsAt = (controls: Controls, place: string): Call[] =>
  callPlaces(controls).find((each) => each.place === place)?.calls ?? [];
