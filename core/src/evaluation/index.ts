export * from './appraise';
export * from './events';
export * from './proposePlants';
export * from './record';
export * from './signature';
export * from './phase';
export * from './stationMarks';
export * from './words';
