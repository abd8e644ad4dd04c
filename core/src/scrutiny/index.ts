export * from './items';
export * from './review';
