export * from './calendar';
export * from './catalogue';
export * from './certification';
export * from './evaluation';
export * from './grading';
export * from './reference';
export * from './round';
export * from './statistics';
