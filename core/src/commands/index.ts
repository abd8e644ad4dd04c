export {
  type Call,
  callPlaces,
  callsAt,
  commandPlaces,
  type Controls,
  controlsOf,
  isAnsweredByNothing,
} from './calls';
export { dealCalls, fullRounds, reversalsOf, shortRounds } from './deal';
export { answersAtDesk, CallWatch, type CommandDeal, dealPauses, startControls } from './atDesk';
export {
  type Answer,
  type AnswerKind,
  ANSWERS,
  commandStandard,
  commandResult,
  type CommandResult,
  type CommandStandard,
  type ControlAnswers,
  isReadyBy,
  SETS_TO_BE_READY,
  USUAL_STANDARD,
} from './result';
