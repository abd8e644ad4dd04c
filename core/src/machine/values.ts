import { type Meaning, type Reading, UNITS } from './expression';

/** A written value as what a name reads; null where it can never be that. */
export function valueFor(meaning: Meaning | undefined, given: string): Exclude<Reading, null> | null {
  switch (meaning?.kind) {
    case 'truth':
      return ['yes', 'true', 'on'].includes(given)
        ? true
        : ['no', 'false', 'off'].includes(given)
          ? false
          : null;
    case 'figure':
      return figureIn(given);
    case 'choice':
      return meaning.values.includes(given) ? given : null;
    default:
      return null;
  }
}

/** A figure with or without its unit, in its measure's own; null for what is none. */
function figureIn(text: string): number | null {
  const match = /^(-?\d+(?:\.\d+)?)\s*(\S+)?$/.exec(text.trim());
  if (!match) return null;
  const [, figure, unit] = match as unknown as [string, string, string?];
  if (unit === undefined) return Number(figure);
  return Object.hasOwn(UNITS, unit) ? Number(figure) * UNITS[unit as keyof typeof UNITS].factor : null;
}
