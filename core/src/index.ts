export * from './calendar';
export * from './catalogue';
export * from './reference';
export * from './statistics';
