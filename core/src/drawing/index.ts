export * from './discs';
export * from './plan';
export * from './ringLayout';
