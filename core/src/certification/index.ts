export * from './rules';
export * from './standing';
