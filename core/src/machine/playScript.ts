import type { Machine } from './build';
import { ExpressionError } from './expression';
import { Provoker } from './provoke';
import type { LoggedAct, MachineState } from './work';

/** What came of a script: its acts, how long it took, and the lines that could not be done. */
export interface Played {
  log: LoggedAct[];
  ticks: number;
  refused: { line: string; why: string }[];
}

/** Does what the lines of a script say one after the other (see `Provoker.play`), from how the machine stands. */
export function playScript(machine: Machine, lines: readonly string[], from: MachineState): Played {
  const provoker = new Provoker(machine, from);
  const refused: Played['refused'] = [];
  for (const line of lines)
    try {
      if (!provoker.play(line)) refused.push({ line, why: 'no way was found' });
    } catch (error) {
      if (!(error instanceof ExpressionError)) throw error;
      refused.push({ line, why: error.message });
    }
  return { log: provoker.log, ticks: provoker.state.tick, refused };
}
