import type { Station } from '../catalogue';
import { convexHull, offsetHull, type Point, standingPoint, walkingDistance } from './geometry';

/** How far outside the machine's outline an operator walks, metres. */
const WALKING_MARGIN = 1;

/** The line walked round a machine: its ring stations clockwise seen from above, and the way between them. */
export interface WalkingLine {
  /** Convex hull of the outline, 1 m outside; counter-clockwise. */
  hull: Point[];
  /** Stations on the walking line in clockwise order, starting with the pack's first. */
  ring: Station[];
  /** Where a person stands for a ring or remote station. */
  positions: Map<string, Point>;
}

interface Plan {
  stations: readonly Station[];
  outlines: readonly { points: readonly Point[]; solid?: boolean | undefined }[];
}

const lines = new WeakMap<Plan, WalkingLine>();

/**
 * The walking line of a class's plan, derived once for each; a plan is never changed in place. An outline
 * that does not say whether it is solid is, as in the pack's schema.
 */
export function walkingLine(plan: Plan): WalkingLine {
  let line = lines.get(plan);
  if (!line) lines.set(plan, (line = derive(plan)));
  return line;
}

function derive(plan: Plan): WalkingLine {
  const solid = plan.outlines
    .filter((each) => each.solid ?? true)
    .flatMap((each) => each.points.map((p): Point => [p[0], p[1]]));
  const hull = solid.length >= 3 ? offsetHull(convexHull(solid), WALKING_MARGIN) : [];
  const onLine = plan.stations.filter((each) => each.at !== undefined);
  const points = hull.length > 0 ? hull : onLine.map((each): Point => [each.at![0], each.at![1]]);
  const centre: Point = [
    points.reduce((sum, p) => sum + p[0], 0) / points.length,
    points.reduce((sum, p) => sum + p[1], 0) / points.length,
  ];
  const positions = new Map<string, Point>();
  for (const station of plan.stations) {
    const point = station.at ?? (station.place === 'remote' ? station.spot : undefined);
    if (point) positions.set(station.id, standingPoint(hull, [point[0], point[1]]));
  }
  const angle = (station: Station) => {
    const p = positions.get(station.id)!;
    return Math.atan2(p[0] - centre[0], p[1] - centre[1]);
  };
  const clockwise = [...onLine].sort((a, b) => angle(a) - angle(b));
  const first = Math.max(
    0,
    clockwise.findIndex((each) => each.id === onLine[0]?.id),
  );
  return { hull, ring: [...clockwise.slice(first), ...clockwise.slice(0, first)], positions };
}

/** Metres between two stations of the line, round the machine; null when one of them is not on the ground. */
export function stationDistance(line: WalkingLine, from: string, to: string): number | null {
  const a = line.positions.get(from);
  const b = line.positions.get(to);
  return a && b ? walkingDistance(line.hull, a, b) : null;
}
