import type { Machine, Mutable } from './build';
import { askedOf, offerWords } from './cards';
import { type Control, leadsTo, placesOf } from './desk';
import type { Reading } from './expression';
import { valueFor } from './values';

/** Something that is done at a desk. `scene` is done to it: by the trainer, or by what goes wrong. */
export type DeskAct =
  | { kind: 'go'; place: string }
  | { kind: 'set'; control: string; to: string }
  | { kind: 'hold'; control: string }
  | { kind: 'release'; control: string }
  | { kind: 'press'; control: string }
  | { kind: 'pedal'; control: string; to: number }
  | { kind: 'look'; look: string }
  /** Said aloud. */
  | { kind: 'call'; says: string }
  /** A step done away from the desk, and ticked. */
  | { kind: 'away'; step: string }
  /** What somebody would do, asked about something that a desk cannot show; 0 is the right thing. */
  | { kind: 'answer'; rule: string; offer: number }
  | { kind: 'scene'; name: string; to: string }
  /** A failure that is to begin as soon as its time comes. */
  | { kind: 'arm'; failure: string };

/** An act with the tick in which it is done. */
export interface LoggedAct {
  tick: number;
  act: DeskAct;
}

/** A forbidden state of affairs: from which tick on it held, and to which; null while it holds. */
export interface Breach {
  id: string;
  from: number;
  to: number | null;
}

/** A machine at a moment, as plain values: kept, sent and taken up again it goes on just the same. */
export interface MachineState {
  tick: number;
  readings: Reading[];
  memory: number[];
  /** What rules have set for good, by number. */
  forced: [number: number, value: Exclude<Reading, null>][];
  /** Ticks for which the condition of each rule has held. */
  held: number[];
  breaches: Breach[];
  /** Failures that were armed, with the tick in which each began; null while it has not. */
  failing: { id: string; begun: number | null }[];
}

/** A machine before anything was done: at its first place, everything at rest, the first tick worked out. */
export function startMachine(machine: Machine): MachineState {
  return settle(machine, {
    tick: 0,
    readings: [...machine.start],
    memory: machine.compiler.freshMemory(),
    forced: [],
    held: machine.rules.map(() => 0),
    breaches: [],
    failing: [],
  });
}

const reads = (machine: Machine, state: MachineState, name: string): Reading =>
  state.readings[machine.numberOf(name)] ?? null;

/** What a name reads at a moment. Throws RangeError for a name the machine has none of. */
export function readingOf(machine: Machine, state: MachineState, name: string): Reading {
  if (!machine.vocabulary.has(name)) throw new RangeError(`there is no "${name}"`);
  return reads(machine, state, name);
}

const placeNow = (machine: Machine, state: MachineState): string => String(reads(machine, state, 'place'));

/** What stands at a helper's place is worked by calling to them. */
const isHelpers = (machine: Machine, place: string): boolean =>
  machine.desk.places.find((each) => each.id === place)?.helper ?? false;

/** Why an act cannot be done now, in a sentence; null where it can. */
export function actProblem(machine: Machine, state: MachineState, act: DeskAct): string | null {
  const { desk } = machine;
  const here = placeNow(machine, state);
  const nameOf = (place: string) => desk.places.find((each) => each.id === place)?.name ?? place;
  const leads = (to: string) => desk.places.some((each) => each.id === to && leadsTo(each, here));
  const outOfReach = (name: string, at: string | readonly string[]) =>
    placesOf(at).includes(here) || placesOf(at).some((place) => isHelpers(machine, place))
      ? null
      : `${name} is out of reach from here; it is at: ${placesOf(at).map(nameOf).join(', ')}.`;
  switch (act.kind) {
    case 'go':
      if (!desk.places.some((each) => each.id === act.place)) return `There is no place "${act.place}".`;
      return act.place === here || leads(act.place)
        ? null
        : `There is no way from ${nameOf(here)} to ${nameOf(act.place)}.`;
    case 'look': {
      const look = desk.looks.find((each) => each.id === act.look);
      return look ? outOfReach(look.name, look.at) : `There is no "${act.look}" to be done.`;
    }
    case 'call':
      return null;
    case 'away':
      return desk.steps[act.step]?.away === false ? 'That step is done at the desk.' : null;
    case 'answer': {
      const asked = askedOf(desk, act.rule);
      return asked && offerWords(asked, act.offer) !== null ? null : `Nothing of this kind is asked here.`;
    }
    case 'arm':
      return machine.failures.has(act.failure) ? null : `Nothing is called "${act.failure}" that could fail.`;
    case 'scene':
      return valueFor(machine.vocabulary.get(act.name), act.to) === null
        ? `"${act.name}" cannot be "${act.to}".`
        : null;
    default: {
      const control = machine.controls.get(act.control);
      if (!control) return `There is no control "${act.control}".`;
      return (
        outOfReach(control.name, control.at) ??
        wrongWay(control, act) ??
        (machine.locked.get(control.id)?.(state) ? `${control.name} is locked as things stand.` : null)
      );
    }
  }
}

function wrongWay(control: Control, act: DeskAct & { control: string }): string | null {
  const { kind, name, positions } = control;
  const fits =
    act.kind === 'set'
      ? (kind === 'selector' || kind === 'lever') && positions!.includes(act.to)
      : act.kind === 'pedal'
        ? kind === 'pedal' && act.to >= 0 && act.to <= 1
        : act.kind === 'press'
          ? kind === 'press' || kind === 'pull'
          : kind === 'hold' || (act.kind === 'release' && springs(control));
  return fits ? null : `${name} is not worked like that.`;
}

/** What a control reads when it is let go. */
const letGo = (control: Control): Exclude<Reading, null> =>
  control.kind === 'pedal' ? 0 : control.kind === 'lever' ? control.springs! : false;

/** Whether a control falls back when nobody works it. */
const springs = ({ kind }: Control): boolean => kind === 'hold' || kind === 'lever' || kind === 'pedal';

function applyAct(machine: Machine, readings: Reading[], act: DeskAct): void {
  const put = (name: string, value: Reading) => {
    readings[machine.numberOf(name)] = value;
  };
  switch (act.kind) {
    case 'go':
      if (readings[machine.numberOf('place')] === act.place) return;
      put('place', act.place);
      // Whoever leaves a place lets go of everything there.
      for (const control of machine.controls.values())
        if (springs(control) && !placesOf(control.at).includes(act.place)) put(control.id, letGo(control));
      return;
    case 'set':
      return put(act.control, act.to);
    case 'hold':
    case 'press':
      return put(act.control, true);
    case 'release':
      return put(act.control, letGo(machine.controls.get(act.control)!));
    case 'pedal':
      return put(act.control, act.to);
    case 'look': {
      put(act.look, true);
      const { sets } = machine.desk.looks.find((each) => each.id === act.look)!;
      for (const [name, value] of Object.entries(sets ?? {}))
        if (machine.vocabulary.get(name)?.kind !== 'absent') put(name, value);
      return;
    }
    case 'call':
    case 'away':
    case 'answer':
    case 'arm':
      return;
    case 'scene':
      put(act.name, valueFor(machine.vocabulary.get(act.name), act.to));
  }
}

/**
 * A machine one tick on, with what is done in that tick. Pure: the same acts in the same ticks give the same states bit
 * for bit. An act that cannot be done (see `actProblem`) does nothing.
 */
export function tickMachine(
  machine: Machine,
  state: MachineState,
  acts: readonly DeskAct[] = [],
): MachineState {
  const readings = [...state.readings];
  // Looks, presses and pulls are true in their own tick.
  for (const { id } of machine.desk.looks) readings[machine.numberOf(id)] = false;
  for (const { id, kind } of machine.desk.controls)
    if (kind === 'press' || kind === 'pull') readings[machine.numberOf(id)] = false;
  const now = { ...state, tick: state.tick + 1, readings };
  for (const act of acts) {
    if (actProblem(machine, now, act) !== null) continue;
    applyAct(machine, readings, act);
    if (act.kind === 'arm' && !now.failing.some((each) => each.id === act.failure))
      now.failing = [...now.failing, { id: act.failure, begun: null }];
  }
  return settle(machine, now);
}

/** Works a tick out: components, rules, what is forced, what can be perceived, memory, and what is forbidden. */
function settle(machine: Machine, state: MachineState): MachineState {
  const { readings, tick } = state;
  const view: Mutable = { tick, readings, memory: state.memory };
  const force = (forced: MachineState['forced']) => {
    for (const [number, value] of forced) readings[number] = value;
  };
  for (const component of machine.components) component(view);
  force(state.forced);
  let forced = state.forced;
  const held = machine.rules.map(({ holds, effects }, r) => {
    if (!holds(view)) return 0;
    const since = state.held[r]! + 1;
    for (const { number, value, after, forces } of effects) {
      if (since - 1 !== after) continue;
      readings[number] = value;
      if (forces) forced = [...forced.filter(([each]) => each !== number), [number, value]];
    }
    return since;
  });
  machine.ranges.forEach((range, number) => {
    const value = readings[number];
    if (range && typeof value === 'number') readings[number] = Math.min(range[1], Math.max(range[0], value));
  });
  const here = String(readings[machine.numberOf('place')]);
  for (const { number, places, holds } of machine.shows)
    readings[number] = places.includes(here) && holds(view);
  const memory = machine.compiler.remember(view);
  const seen = { tick, readings, memory };
  let { breaches } = state;
  for (const { id, holds } of machine.forbidden) {
    const open = breaches.findIndex((each) => each.id === id && each.to === null);
    if (holds(seen) === open >= 0) continue;
    breaches =
      open < 0
        ? [...breaches, { id, from: tick, to: null }]
        : breaches.map((each, i) => (i === open ? { ...each, to: tick } : each));
  }
  // What was armed begins once its time has come, and changes the machine from the next tick on.
  const failing = state.failing.map((each) => {
    const failure = machine.failures.get(each.id);
    if (each.begun !== null || !failure?.begins(seen)) return each;
    for (const { number, value, forces } of failure.effects) {
      readings[number] = value;
      if (forces) forced = [...forced.filter(([known]) => known !== number), [number, value]];
    }
    return { ...each, begun: tick };
  });
  return { tick, readings, memory, forced, held, breaches, failing };
}

/** Whether the acts of a log stand in the order of the clock, none of them later than it has gone. */
export const isInClockOrder = (log: readonly LoggedAct[], ticks: number): boolean =>
  log.every((each, i) => each.tick <= ticks && (i === 0 || each.tick >= log[i - 1]!.tick));

/** What was done in each tick of a log. */
export function actsByTick(log: readonly LoggedAct[]): ReadonlyMap<number, readonly DeskAct[]> {
  const byTick = new Map<number, DeskAct[]>();
  for (const { tick, act } of log) byTick.set(tick, [...(byTick.get(tick) ?? []), act]);
  return byTick;
}

/** A machine so many ticks on, with what was logged on the way. Acts of ticks that are over are passed by. */
export function runMachine(
  machine: Machine,
  from: MachineState,
  log: readonly LoggedAct[],
  until: number,
): MachineState {
  const byTick = actsByTick(log);
  let state = from;
  while (state.tick < until) state = tickMachine(machine, state, byTick.get(state.tick + 1));
  return state;
}

/** What can be perceived from where one stands: shows with what they say, and the figure of a gauge. */
export function perceived(
  machine: Machine,
  state: MachineState,
): { id: string; name: string; kind: string; value: Reading }[] {
  const view = { tick: state.tick, readings: state.readings, memory: state.memory };
  return machine.desk.shows
    .filter((each) => reads(machine, state, each.id) === true)
    .map(({ id, name, kind }) => ({ id, name, kind, value: machine.values.get(id)?.(view) ?? null }));
}
