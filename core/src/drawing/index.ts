export * from './discs';
export * from './plan';
export * from './ringLayout';
export {
  type RailColours,
  type RailLayout,
  railLayout,
  type RailRow,
  railSign,
  railState,
  railSvg,
} from './rail';
