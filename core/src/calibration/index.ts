export * from './calibrate';
export * from './replay';
export * from './standing';
