import type { Checkpoint, PackContent, Station } from '../catalogue';
import { walkingLine } from './walkingLine';

/** A station with its checks, and its place in the walk: 3, or 3a for what hangs from the third. */
export interface WalkedStation {
  station: Station;
  order: string;
  checks: Checkpoint[];
}

/** Stations in walking order with their checks; off-line stations follow the one they hang from. */
export function walkingOrder(pack: PackContent): WalkedStation[] {
  const rows: WalkedStation[] = [];
  const add = (station: Station, order: string) => {
    const checks = pack.checkpoints.filter(
      (each) => each.station === station.id || each.alsoAt?.includes(station.id),
    );
    if (checks.length > 0) rows.push({ station, order, checks });
  };
  walkingLine(pack.plan).ring.forEach((station, i) => {
    add(station, String(i + 1));
    pack.plan.stations
      .filter((each) => each.spurFrom === station.id)
      .forEach((each, j) => add(each, `${i + 1}${'abcdefgh'[j] ?? ''}`));
  });
  return rows;
}
