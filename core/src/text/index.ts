export * from './storable';
