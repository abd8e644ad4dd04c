export * from './observe';
export * from './shares';
