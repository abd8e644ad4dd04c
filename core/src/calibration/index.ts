export * from './calibrate';
