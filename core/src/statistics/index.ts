export * from './beta';
export * from './kappa';
export * from './location';
export * from './normal';
export * from './proportions';
export * from './random';
export * from './raters';
export * from './signalDetection';
