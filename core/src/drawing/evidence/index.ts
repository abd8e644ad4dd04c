export { EVIDENCE_KINDS } from './catalogue';
export {
  drawEvidence,
  type Evidence,
  EVIDENCE_ON_PAPER,
  type EvidenceColours,
  type EvidenceDrawing,
  evidenceSvg,
  FIGURE_LINE,
  figureSize,
} from './evidence';
export {
  type EvidenceKind,
  type EvidenceParam,
  fullParams,
  type Lamp,
  LAMP_STATES,
  paramsSchema,
} from './kind';
export { type Mark, SIDE, type Tone } from './marks';
