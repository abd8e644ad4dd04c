export * from './spoken';
