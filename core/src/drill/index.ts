export * from './conditions';
export * from './deal';
export * from './result';
export * from './run';
export * from './view';
export * from './scripted';
