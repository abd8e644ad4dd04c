export * from './discs';
export * from './plan';
export * from './ringLayout';
export {
  RAIL_COLOURS,
  RAIL_ON_PAPER,
  railFlawed,
  railLayout,
  type RailRow,
  railSign,
  railState,
  railSvg,
} from './rail';
export { courseScale, courseSvg, type CourseInk } from './course';
export { type DeskSpot, deskSpots, planBox } from './deskSpots';
