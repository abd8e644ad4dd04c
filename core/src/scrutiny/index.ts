export * from './items';
