import { buildMachine } from './build';
import { deskSchema } from './desk';
import { TICKS } from './expression';
import { readingOf, startMachine, tickMachine } from './work';

/** A load on a generator: what it runs on, and what it takes while it starts, in kW. */
interface PutOn {
  runs: number;
  starts: number;
}

const NAMES = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'] as const;
/** Seconds for which each starts, and from one to the next. */
const [STARTS, NEXT] = [1, 2];

/**
 * The most that a generator carries while loads are put on it in their order, or all together, in kW: worked out by the
 * machine at the desk, tick by tick.
 *
 * @throws RangeError for more loads than its component has
 */
export function loadPeak(
  loads: readonly PutOn[],
  rating: number,
  { together = false }: { together?: boolean } = {},
): number {
  if (loads.length === 0 || loads.length > NAMES.length)
    throw new RangeError(`one to ${NAMES.length} loads are put on`);
  const machine = buildMachine(
    deskSchema.parse({
      places: [{ id: 'panel', name: 'At the panel' }],
      controls: loads.map((_, i) => ({
        id: `load-${i}`,
        at: 'panel',
        name: `Load ${i + 1}`,
        kind: 'selector',
        positions: ['off', 'on'],
      })),
      components: [
        {
          kind: 'loads',
          ...Object.fromEntries(loads.map((_, i) => [`${NAMES[i]}When`, `load-${i} = on`])),
          starts: loads.map((each) => each.starts),
          runs: loads.map((each) => each.runs),
          startSeconds: STARTS,
          rating,
        },
      ],
    }),
  );
  let state = startMachine(machine);
  let peak = 0;
  const apart = NEXT * TICKS;
  for (let tick = 0; tick <= loads.length * apart; tick++) {
    const acts = loads.flatMap((_, i) =>
      tick === (together ? 0 : i * apart) ? [{ kind: 'set' as const, control: `load-${i}`, to: 'on' }] : [],
    );
    state = tickMachine(machine, state, acts);
    peak = Math.max(peak, Number(readingOf(machine, state, 'loads.total')));
  }
  return peak;
}
