export * from './problems';
export * from './route';
export * from './routes';
export * from './shapes';
