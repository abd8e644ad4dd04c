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

/** The row of a class that an item is about, for the editor: the fault, else its check; the step; the number. */
export function itemRow(item: string): string {
  if (item.startsWith('step:') || item.startsWith('number:')) return item.slice(item.indexOf(':') + 1);
  const [checkpoint, fault] = item.replace('reading:', '').split('/') as [string, string];
  return item.startsWith('reading:') || fault === 'sound' ? checkpoint : fault;
}

/**
 * What an item says in a revision of a class, to tell whether it was changed since: its rows as text. Null where the
 * revision has none of it.
 */
export function itemContent(
  pack: Pick<Pack, 'checkpoints' | 'faults' | 'procedures' | 'numbers'>,
  item: string,
): string | null {
  const row = itemRow(item);
  if (item.startsWith('step:'))
    return textOf(pack.procedures.flatMap((each) => each.steps).find((each) => each.id === row));
  if (item.startsWith('number:')) return textOf(pack.numbers.find((each) => each.id === row));
  const check = pack.checkpoints.find((each) => each.id === item.replace('reading:', '').split('/')[0]);
  if (!check) return null;
  if (row === check.id) return textOf(check);
  const fault = pack.faults.find((each) => each.id === row);
  return fault ? textOf([check, fault]) : null;
}

const textOf = (row: unknown): string | null => (row === undefined ? null : JSON.stringify(row));
