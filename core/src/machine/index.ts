export { buildMachine, DeskError, type Machine, type Unfitted } from './build';
export type { DeskProblem } from './checkSteps';
export { COMPONENT_KINDS } from './components';
export {
  CONTROL_KINDS,
  type Control,
  type ControlKind,
  type Desk,
  deskSchema,
  leadsTo,
  placesOf,
  type ToneName,
  waysTo,
} from './desk';
export { fitDesk, type FittedDesk } from './fit';
export { type DeskPack, deskPackOf, deskProcedures, machineOf } from './ofPack';
export * from './expression';
export {
  actProblem,
  type Breach,
  type DeskAct,
  isInClockOrder,
  type LoggedAct,
  type MachineState,
  perceived,
  readingOf,
  actsByTick,
  runMachine,
  startMachine,
  tickMachine,
} from './work';
export { isHandled, type Reacted, type Reaction, reactionsTo, ReactionWatch } from './reactions';
export {
  dealDesk,
  dealtMachine,
  type DeskDeal,
  DESK_PROGRAMS,
  type DeskProgram,
  type DeskResult,
  failuresWithin,
  judgeDesk,
  MOST_DESK_ACTS,
  MOST_TICKS,
  programsOf,
} from './run';
export { deskActSchema, loggedActSchema } from './actSchema';
export { deskCalls, deskWords, pedalDepths } from './words';
export { playScript } from './playScript';
export { type Trial, type TrialScript, type TrialScripts, tryFailures, tryRules } from './trials';
export { recognise, Recogniser } from './recognise';
export { type ScriptedWork, workThrough } from './operator';
export { askedOf, type CardAnswer, cardsOf, type DeskCard, offerWords } from './cards';
