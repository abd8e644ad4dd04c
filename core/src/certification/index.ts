export * from './history';
export * from './rules';
export * from './standing';
export * from './words';
