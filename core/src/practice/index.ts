export * from './choose';
export * from './items';
export * from './reviews';
export * from './spacing';
export * from './readiness';
