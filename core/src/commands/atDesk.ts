import {
  actsByTick,
  type DeskAct,
  type LoggedAct,
  type MachineState,
  startMachine,
  tickMachine,
  TICKS,
} from '../machine';
import { seededRandom } from '../statistics';
import { type Call, type Controls, mayBecomeRight } from './calls';
import type { Answer } from './result';

/** A set of calls as it is dealt. */
export interface CommandDeal {
  /** Where it is answered from. */
  place: string;
  /** Ids of calls, in their order. */
  calls: string[];
  /** Seconds before each call, so that nobody can tell when it comes. */
  pauses: number[];
}

/** A pause before a call, in seconds. */
const [SHORTEST, LONGEST] = [1, 2.5];
/** A call that nobody answers is given up after so many times the seconds for an answer. */
const GIVEN_UP = 3;

/** Pauses before calls, each some tenths of a second unlike the others; the same for the same seed. */
export function dealPauses(calls: number, seed: number): number[] {
  const random = seededRandom(seed);
  return Array.from(
    { length: calls },
    () => Math.round((SHORTEST + random() * (LONGEST - SHORTEST)) * TICKS) / TICKS,
  );
}

/** The controls before the first call: at rest, at the place where they are answered from. */
export function startControls({ machine }: Controls, place: string): MachineState {
  const state = startMachine(machine);
  const readings = [...state.readings];
  readings[machine.numberOf('place')] = place;
  return { ...state, readings };
}

/** Whether an act lets go of a control rather than works it. */
function letsGo({ machine }: Controls, act: DeskAct & { control: string }): boolean {
  const control = machine.controls.get(act.control);
  return (
    act.kind === 'release' ||
    (act.kind === 'pedal' && act.to === 0) ||
    (act.kind === 'set' && control?.kind === 'lever' && act.to === control.springs)
  );
}

/**
 * Calls one after the other, each answered by what is done with the controls: right once they stand as the call asks
 * for, wrong as soon as something was worked that cannot become it. Letting go is no answer by itself.
 */
export class CallWatch {
  readonly answers: Answer[] = [];
  /** The tick in which the call that stands was made; null between calls. */
  private called: number | null = null;
  private due: number;
  private readonly calls: readonly Call[];

  constructor(
    private readonly controls: Controls,
    private readonly deal: CommandDeal,
    /** Seconds for an answer. */
    private readonly seconds: number,
  ) {
    const known = new Map(controls.calls.map((each) => [each.id, each]));
    this.calls = deal.calls.map((id) => known.get(id)!);
    this.due = Math.round((deal.pauses[0] ?? 0) * TICKS);
  }

  /** The call that stands; null between calls and after the last. */
  get current(): Call | null {
    return this.called === null ? null : this.calls[this.answers.length]!;
  }

  get over(): boolean {
    return this.answers.length >= this.calls.length;
  }

  /** Takes a tick with what was done in it. */
  take(before: MachineState, state: MachineState, acts: readonly DeskAct[]): void {
    if (this.over) return;
    if (this.called === null) {
      if (state.tick >= this.due) this.called = state.tick;
      return;
    }
    const call = this.current!;
    const gone = (state.tick - this.called) / TICKS;
    for (const act of acts) {
      if (!('control' in act)) continue;
      if (call.works.includes(act.control) && this.controls.answers.get(call.id)!(state))
        return this.answer(state, gone > this.seconds ? 'late' : 'right', gone);
      if (letsGo(this.controls, act)) continue;
      if (
        !call.works.includes(act.control) ||
        !mayBecomeRight(this.controls, call, act.control, state) ||
        this.answersAnother(call, before, state)
      )
        return this.answer(state, 'wrong', gone);
    }
    if (gone >= this.seconds * GIVEN_UP) this.answer(state, 'missed', null);
  }

  /** Whether the same control has just answered another call. */
  private answersAnother(call: Call, before: MachineState, state: MachineState): boolean {
    return this.controls.calls.some((other) => {
      const holds = this.controls.answers.get(other.id)!;
      return other !== call && other.control === call.control && holds(state) && !holds(before);
    });
  }

  private answer(state: MachineState, kind: Answer['kind'], seconds: number | null): void {
    this.answers.push({ call: this.current!.id, kind, seconds });
    this.called = null;
    this.due = state.tick + Math.round((this.deal.pauses[this.answers.length] ?? 0) * TICKS);
  }
}

/** Judges a set at the desk by its log: the controls are worked anew with it, so that nothing but what was done counts. */
export function answersAtDesk(
  controls: Controls,
  deal: CommandDeal,
  seconds: number,
  log: readonly LoggedAct[],
  ticks: number,
): Answer[] {
  const watch = new CallWatch(controls, deal, seconds);
  const byTick = actsByTick(log);
  let state = startControls(controls, deal.place);
  while (state.tick < ticks && !watch.over) {
    const acts = byTick.get(state.tick + 1) ?? [];
    const next = tickMachine(controls.machine, state, acts);
    watch.take(state, next, acts);
    state = next;
  }
  return watch.answers;
}
