/** What is left of a certificate as a share of its length, for its arc; null where nothing runs. */
export function shareLeft(standing: { daysLeft: number | null; lengthDays: number | null }): number | null {
  return standing.daysLeft !== null && standing.lengthDays ? standing.daysLeft / standing.lengthDays : null;
}
