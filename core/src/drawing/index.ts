export * from './discs';
export * from './plan';
