import { compose } from '@rounds/core/catalogue';
import { deskPackOf, dealtMachine, machineOf, startMachine, tickMachine, TICKS } from '@rounds/core/machine';
import { shippedClasses, shippedPack } from '@rounds/core/testing';
import { median, times } from './timing';

type Row = (what: string, figure: string, baseline?: string) => void;

/** Machine time that is worked out, in seconds. */
const SECONDS = 600;

/** As many additions as a machine has names, a tick: the least that a tick could cost. */
function plainLoop(names: number, ticks: number): number {
  const values = new Float64Array(names);
  for (let t = 0; t < ticks; t++) for (let i = 0; i < names; i++) values[i]! += 1;
  return values[0]!;
}

/** The desk of the class with most names: how much faster than its clock it runs, and how soon it is there. */
export async function benchDesk(row: Row): Promise<void> {
  const desks = shippedClasses().map((id) => {
    const pack = shippedPack(id);
    const own = deskPackOf(compose(pack, { variant: pack.variants[0]!.id }));
    return { id, own, machine: machineOf(own)! };
  });
  const [largest] = [...desks].sort((a, b) => b.machine.start.length - a.machine.start.length);
  const { id, own, machine } = largest!;
  const ticks = SECONDS * TICKS;
  const ran = median(
    await times(3, () => {
      let state = startMachine(machine);
      while (state.tick < ticks) state = tickMachine(machine, state);
    }),
  );
  const plain = median(await times(3, () => plainLoop(machine.start.length, ticks)));
  row(
    `desk of ${id}, ${machine.start.length} names: ${SECONDS} s of its clock`,
    `${ran.toFixed(0)} ms, ${Math.round((SECONDS * 1000) / ran)} x real time`,
    `at least 2000 x; as many additions ${plain.toFixed(1)} ms`,
  );
  const built = median(
    await times(5, () => dealtMachine(machineOf(own)!, { procedures: [], found: null, failures: [] })),
  );
  row(`desk of ${id}: made ready from its pack`, `${built.toFixed(0)} ms`, 'limit 1000 ms');
}
