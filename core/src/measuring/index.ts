export * from './reading';
export * from './rope';
export * from './units';
export * from './wear';
