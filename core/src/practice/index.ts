export * from './choose';
export * from './reviews';
export * from './spacing';
