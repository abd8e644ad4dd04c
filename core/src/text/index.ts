export * from './capital';
export * from './escaped';
export * from './storable';
export * from './wrapped';
