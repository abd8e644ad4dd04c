export * from './plainDate';
export * from './timeZone';
