import { explain, type OrderStep, StepOrder } from '@rounds/core/procedure';
import { seededRandom } from '@rounds/core/statistics';
import { median, times } from './timing';

type Row = (what: string, figure: string, baseline?: string) => void;

/** Edit distance of a trace to one fixed order of its steps, by the usual table: what a total order would cost. */
function alignedTotally(steps: readonly string[], trace: readonly string[]): number {
  let before = Array.from({ length: trace.length + 1 }, () => 0);
  for (const step of steps) {
    const now = [0];
    for (let j = 1; j <= trace.length; j++)
      now.push(step === trace[j - 1] ? before[j - 1]! + 1 : Math.max(before[j]!, now[j - 1]!));
    before = now;
  }
  return steps.length + trace.length - 2 * before.at(-1)!;
}

/** The judge's explanation of long traces, beside the alignment with one fixed order of the same steps. */
export async function benchJudge(row: Row): Promise<void> {
  for (const [size, length] of [
    [15, 50],
    [60, 200],
    [120, 500],
    [200, 1000],
  ] as const) {
    const random = seededRandom(size);
    const steps = Array.from({ length: size }, (_, i): OrderStep => ({
      id: `s${i}`,
      token: `s${i}`,
      weight: i % 3 === 0 ? 3 : 1,
      optional: false,
      after: Array.from(
        { length: i === 0 ? 0 : 2 },
        () => `s${Math.max(0, i - 1 - Math.floor(random() * 4))}`,
      ),
    }));
    const trace = Array.from({ length }, (_, e) => {
      const wander = Math.floor((e * size) / length + (random() - 0.5) * 12);
      return random() < 0.1 ? 'something else' : `s${Math.max(0, Math.min(size - 1, wander))}`;
    });
    const order = new StepOrder(steps);
    const judged = median(await times(7, () => explain(order, trace)));
    const total = median(
      await times(7, () =>
        alignedTotally(
          steps.map((each) => each.id),
          trace,
        ),
      ),
    );
    row(
      `judge: ${size} steps, trace of ${length}`,
      `${judged.toFixed(1)} ms`,
      `${size === 60 ? 'limit 50 ms; ' : ''}one fixed order ${total.toFixed(1)} ms`,
    );
  }
}
