export * from './elapsed';
export * from './plainDate';
export * from './timeZone';
