export * from './expression';
