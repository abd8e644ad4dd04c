/**
 * A text with its first letter as a capital, as it begins a sentence.
 *
 * @example capital('engine off') // 'Engine off'
 */
export function capital(text: string): string {
  return text.replace(/^./, (first) => first.toUpperCase());
}
