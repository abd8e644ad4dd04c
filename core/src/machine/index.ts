export { buildMachine, DeskError, type DeskProblem, type Machine, type Unfitted } from './build';
export { COMPONENT_KINDS } from './components';
export { CONTROL_KINDS, type ControlKind, type Desk, deskSchema } from './desk';
export { fitDesk, type FittedDesk } from './fit';
export { deskProcedures, machineOf } from './ofPack';
export * from './expression';
export {
  actProblem,
  type Breach,
  type DeskAct,
  type LoggedAct,
  type MachineState,
  perceived,
  readingOf,
  runMachine,
  startMachine,
  tickMachine,
} from './work';
export { recognise, Recogniser } from './recognise';
export { type ScriptedWork, workThrough } from './operator';
