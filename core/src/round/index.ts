export * from './analyse';
export * from './geometry';
export * from './walkingLine';
export * from './words';
