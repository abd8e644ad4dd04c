export * from './compose';
export { canonicalJson, contentHash } from './contentHash';
export { packIntegrity, prerequisites, type PackIssue } from './integrity';
export { needsMet, type FitOut } from './needs';
export * from './readPack';
export * from './schema';
export * from './vocabulary';
