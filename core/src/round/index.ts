export * from './analyse';
export * from './geometry';
export * from './handsOn';
export * from './walkingLine';
export * from './walkingOrder';
export * from './words';
