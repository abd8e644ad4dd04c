export * from './elapsed';
export * from './longDate';
export * from './plainDate';
export * from './timeZone';
