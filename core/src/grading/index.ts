export * from './againstKey';
export * from './comparisonWords';
export * from './grade';
export * from './scales';
export * from './words';
