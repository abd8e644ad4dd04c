import type { AuditAct, ChangingArea } from '@rounds/contract';

const PEOPLE: readonly ChangingArea[] = ['people', 'matrix', 'today'];
const EVALUATIONS: readonly ChangingArea[] = ['evaluations', 'today', 'people'];
const CLASSES: readonly ChangingArea[] = ['classes', 'library', 'matrix'];

/** Areas whose answers change with an act, by how the act's name begins. */
const BY_ACT: readonly (readonly [beginning: string, areas: readonly ChangingArea[]])[] = [
  ['person-', PEOPLE],
  ['people-imported', PEOPLE],
  ['certification-event', PEOPLE],
  ['evaluation-', EVALUATIONS],
  ['plant-', EVALUATIONS],
  ['rules-set', ['rules', 'people', 'matrix', 'today']],
  ['class-', CLASSES],
  ['draft-', ['classes']],
  ['bench-', ['practice']],
  ['policy-', ['policy', 'classes']],
  ['exercise-', ['exercises', 'practice']],
  ['calibration-', ['calibrations', 'today']],
  ['drill-', ['practice']],
  ['item-', ['insight']],
  ['lesson-', ['lessons']],
  ['school-chosen', ['classes']],
  ['unit-', ['units', 'classes']],
  ['account-', ['accounts']],
  ['password-', ['accounts']],
];

/** Areas of the data that an act of the audit changes. Reading, printing and signing in change none. */
export function areasOfAct(act: AuditAct): readonly ChangingArea[] {
  return BY_ACT.find(([beginning]) => act.startsWith(beginning))?.[1] ?? [];
}
