import type { Pack } from '../catalogue';

/**
 * What practice is counted in: a check with one of its faults or sound (`<check>/<fault>`, `<check>/sound`), a reading
 * of one of its gauges, a step of a procedure, a number of the class.
 */
export const stepItem = (step: string): string => `step:${step}`;
export const readingItem = (checkpoint: string, quantity: string): string =>
  `reading:${checkpoint}/${quantity}`;
export const numberItem = (number: string): string => `number:${number}`;

/** An item in words: the part and what was wrong with it, the step, the number; null where the class has it no more. */
export function itemWords(
  pack: Pick<Pack, 'checkpoints' | 'faults' | 'procedures' | 'numbers'>,
  item: string,
): string | null {
  if (item.startsWith('step:')) {
    const id = item.slice('step:'.length);
    for (const procedure of pack.procedures) {
      const step = procedure.steps.find((each) => each.id === id);
      if (step) return `${procedure.title}: ${step.do}`;
    }
    return null;
  }
  if (item.startsWith('number:')) {
    const number = pack.numbers.find((each) => each.id === item.slice('number:'.length));
    return number ? `Number: ${number.name}` : null;
  }
  if (item.startsWith('reading:')) {
    const [checkpoint, quantity] = item.slice('reading:'.length).split('/');
    const check = pack.checkpoints.find((each) => each.id === checkpoint);
    return check?.gauges?.some((each) => each.quantity === quantity)
      ? `${check.part}: ${quantity} measured`
      : null;
  }
  const [checkpoint, fault] = item.split('/');
  const check = pack.checkpoints.find((each) => each.id === checkpoint);
  if (!check) return null;
  if (fault === 'sound') return `${check.part}: sound, yet called otherwise`;
  const row = pack.faults.find((each) => each.id === fault);
  return row ? `${check.part}: ${row.title}` : null;
}
