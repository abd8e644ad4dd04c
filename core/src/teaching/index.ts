export * from './lesson';
export * from './spoken';
