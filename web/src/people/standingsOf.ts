import { GRAVEST_FIRST, type StandingStatus } from '@rounds/core/certification';

interface Held {
  classId: string;
  standing: { status: StandingStatus; until: string | null };
}

/** The standing of a person that needs somebody first, where one does; null where all is well. */
export function gravestOf(standings: readonly Held[]): StandingStatus | null {
  const pressing = GRAVEST_FIRST.slice(0, GRAVEST_FIRST.indexOf('withdrawn'));
  return pressing.find((status) => standings.some((each) => each.standing.status === status)) ?? null;
}

/** The first day that a certificate of a person runs out; null where none runs. */
export function soonestEnd(standings: readonly Held[]): string | null {
  const running: readonly StandingStatus[] = ['valid', 'due', 'in-grace'];
  const ends = standings.flatMap(({ standing }) =>
    running.includes(standing.status) && standing.until ? [standing.until] : [],
  );
  return ends.sort()[0] ?? null;
}
