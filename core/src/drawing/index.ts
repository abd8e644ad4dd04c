export * from './discs';
export * from './plan';
export * from './ringLayout';
export { RAIL_COLOURS, railLayout, type RailRow, railSign, railState, railSvg, wrapped } from './rail';
