export * from './lesson';
export * from './spoken';
export * from './course';
