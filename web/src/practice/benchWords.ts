import type { BenchKind } from '@rounds/contract/bench';

/** What is put on the bench, as it is offered. */
export const BENCH_WORDS: Readonly<Record<BenchKind, { name: string; more: string }>> = {
  all: { name: 'As they come', more: 'Words, drawings and readings, mixed.' },
  words: { name: 'In words', more: 'What was seen, felt or heard.' },
  drawing: { name: 'Drawn', more: 'Only what can be seen.' },
  measured: { name: 'Measured', more: 'Work the grade out, near the limits.' },
  numbers: { name: 'Numbers', more: 'How long, how much, how many.' },
};
