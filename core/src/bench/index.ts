export * from './answers';
export {
  benchItem,
  benchKey,
  BENCH_FORMS,
  type BenchCase,
  benchCaseSchema,
  type BenchForm,
  benchCandidates,
  findingView,
  type FindingView,
} from './cases';
export * from './deal';
export * from './numbers';
