export { maximumWeightAntichain, type WeightedOrder } from './antichain';
export { type Conformance, conformance } from './conformance';
export { type Explanation, explain } from './explain';
export {
  earnedShare,
  isCriticalFlaw,
  judge,
  type JudgedRule,
  type JudgedStep,
  type Judgement,
  likelyNext,
  STEP_STATES,
  type StepState,
} from './judge';
export {
  hesitations,
  type RecurringFlaw,
  recurringFlaws,
  type StepResult,
  stepResults,
  type StepTrend,
  stepTrends,
} from './trend';
export { loopWith, type OrderStep, Precedence, StepOrder } from './order';
export { rulesOf, type Session, session, type SessionStep, STEP_WEIGHTS } from './session';
export {
  type RunningClock,
  runningClocks,
  TIME_RULES,
  type TimeRule,
  timingSeconds,
  type TimeVerdict,
} from './timing';
export {
  ACT_MARKS,
  type ActMark,
  type BrokenRule,
  type StatedCondition,
  type Trace,
  type TraceEvent,
} from './trace';
export { judgementWords, momentWords, type Sentence, spanWords, tellsCriticalFlaw } from './words';
export { allowedOrder, keptTimes, rightRun, type ScriptedWrong, wrongRuns } from './scriptedRun';
export { TRACE_COLUMNS, traceFromRows, type TraceRemark, type TraceRow, traceRows } from './traceRows';
