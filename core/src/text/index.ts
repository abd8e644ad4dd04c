export * from './capital';
export * from './storable';
