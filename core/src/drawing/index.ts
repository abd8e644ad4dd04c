export * from './discs';
