import { stringify } from 'csv-stringify/browser/esm/sync';

/** A table as CSV, one row a line, the first its heads. What a sheet would take for a formula is kept as words. */
export function csvOf(
  heads: readonly string[],
  rows: readonly (readonly (string | number | null)[])[],
): string {
  return stringify([heads, ...rows] as unknown[][], { bom: true, escape_formulas: true });
}

/** Hands a text to the browser to be saved under a name. */
export function saveText(text: string, name: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
