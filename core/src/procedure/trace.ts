/** How an act was done, where it was not simply done. */
export const ACT_MARKS = ['prompted', 'wrong'] as const;
export type ActMark = (typeof ACT_MARKS)[number];

/** One act that was seen, in the order it was seen. */
export interface TraceEvent {
  /** The token of a step; anything else is an act that is no step. */
  token: string;
  /** Seconds since the trace began, by a clock that only runs on. The moment the act began. */
  at: number;
  /** The moment it ended, where that was stamped. */
  end?: number | undefined;
  mark?: ActMark | undefined;
  /** Conditions of the step that did not hold. */
  failed?: readonly string[] | undefined;
  /** True where its moment is not to be relied on: no time is judged by it. */
  unsure?: boolean | undefined;
}

/** A forbidden rule that was broken: reported by the trainer, or observed by a machine at the desk. */
export interface BrokenRule {
  rule: string;
  at: number;
  /** When it was over, where that is known. */
  until?: number | undefined;
}

/** A stated condition of the day that lifts the time rules of steps, for instance a warm-up cut short by order. */
export interface StatedCondition {
  says: string;
  lifts: readonly string[];
}

/** What was seen of one or several procedures in a row. */
export interface Trace {
  events: readonly TraceEvent[];
  broken: readonly BrokenRule[];
  conditions: readonly StatedCondition[];
  /** When it was over, seconds since it began; null while it goes on. */
  ended: number | null;
}
