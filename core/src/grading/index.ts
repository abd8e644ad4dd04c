export * from './againstKey';
export * from './grade';
export * from './scales';
export * from './words';
