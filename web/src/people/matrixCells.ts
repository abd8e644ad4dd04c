import { type StandingStatus, STATUS_WORDS } from '@rounds/core/certification';
import type { MatrixPage, MatrixPerson } from './queries';
import { amount } from '../parts/words';

/** One person in one class, as the matrix shows it. */
export interface Cell {
  status: StandingStatus;
  daysLeft: number | null;
  lengthDays: number | null;
}

/** A class that is a column of the matrix. */
export interface MatrixColumn {
  index: number;
  id: string;
  title: string;
  /** How many people stand in it in any way, and how many of those need somebody. */
  held: number;
  pressing: number;
}

const PRESSING: ReadonlySet<string> = new Set(['due', 'in-grace', 'lapsed', 'suspended']);
export const needsSomebody = (person: MatrixPerson) => person.cells.some((cell) => PRESSING.has(cell[1]));

/** The cells of a person by class index. */
export function cellsOf(person: MatrixPerson): Map<number, Cell> {
  return new Map(
    person.cells.map(([index, status, daysLeft, , lengthDays]) => [
      index,
      { status: status as StandingStatus, daysLeft, lengthDays },
    ]),
  );
}

/** Classes in which anybody stands, the most held first. */
export function columnsOf(classes: MatrixPage['classes'], people: readonly MatrixPerson[]): MatrixColumn[] {
  const held = new Map<number, { held: number; pressing: number }>();
  for (const person of people)
    for (const [index, status] of person.cells) {
      const count = held.get(index) ?? { held: 0, pressing: 0 };
      count.held += 1;
      if (PRESSING.has(status)) count.pressing += 1;
      held.set(index, count);
    }
  return classes
    .map(({ id, title }, index) => ({ index, id, title, ...(held.get(index) ?? { held: 0, pressing: 0 }) }))
    .filter((each) => each.held > 0)
    .sort((a, b) => b.held - a.held);
}

/** The classes shown where there is room for a few: those that press most, then the most held. */
export function mostPressing(columns: readonly MatrixColumn[], room: number): MatrixColumn[] {
  return [...columns].sort((a, b) => b.pressing - a.pressing || b.held - a.held).slice(0, room);
}

const BRIEF: Partial<Record<StandingStatus, string>> = {
  suspended: 'susp.',
  'in-training': 'train.',
  'in-grace': 'grace',
  withdrawn: 'withdr.',
};

/** A cell in six letters or fewer: what is left, or why nothing is. */
export function brief({ status, daysLeft }: Cell): string {
  const runs = (status === 'valid' || status === 'due') && daysLeft !== null;
  if (runs) return daysLeft > 99 ? `${Math.round(daysLeft / 30.4)} mo` : `${daysLeft} d`;
  return BRIEF[status] ?? STATUS_WORDS[status].toLowerCase();
}

/** A cell in a sentence. */
export function cellWords(cell: Cell | undefined): string {
  if (!cell) return 'nothing on record';
  const { status, daysLeft } = cell;
  const words = STATUS_WORDS[status].toLowerCase();
  if (daysLeft === null) return words;
  return daysLeft >= 0
    ? `${words}, ${amount(daysLeft, 'day')} left`
    : `${words}, ended ${amount(-daysLeft, 'day')} ago`;
}
