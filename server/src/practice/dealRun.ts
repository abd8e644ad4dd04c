import { dealDesk, type DeskDeal, type DeskPack, type DeskProgram, machineOf } from '@rounds/core/machine';
import { ProblemError } from '../http/problem';

/** A run at a desk that is to be dealt. */
export interface AskedDeal {
  pack: DeskPack;
  program: DeskProgram;
  surprise: boolean;
  seed: number;
}

/** Deals a run: at once where nothing goes wrong in it, else it is worked through first, which takes a while. */
export function dealRun({ pack, program, surprise, seed }: AskedDeal): DeskDeal {
  const machine = machineOf(pack);
  if (!machine) throw new ProblemError('desk-run', `${pack.title} has no desk.`);
  return dealDesk(pack, machine, program, { surprise, seed });
}
