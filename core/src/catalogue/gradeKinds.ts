import type { Grade, UntilBound } from './vocabulary';

/** What one kind of fault is graded, whatever the machine. */
export interface GradeKind {
  id: string;
  /** The kind in words, as it stands in a list. */
  says: string;
  grade: Grade;
  /** How far a mend of this kind may go on. */
  bound?: UntilBound;
  /** Why, as a strict trainer would say it. */
  why: string;
}

/**
 * One grade for one kind of fault in every class: the default of a strict trainer, who asks whether they
 * would let their own people start the machine. A site may raise, never lower. Common practice; the limits
 * behind single rows stand with their gauges.
 */
export const GRADE_KINDS = [
  { id: 'horn', says: 'Horn dead or weak', grade: 'stop', why: 'Nobody is warned' },
  {
    id: 'travel-alarm',
    says: 'Travel or reversing alarm silent',
    grade: 'stop',
    why: 'Nobody hears it come',
  },
  {
    id: 'work-lamp',
    says: 'Beacon or lamp dark that the work needs',
    grade: 'stop',
    why: 'Others do not see the machine, or its operator the work',
  },
  {
    id: 'level-low',
    says: 'Oil, coolant or another fluid below its mark',
    grade: 'stop',
    why: 'Topped up it may go, and where it went is found',
  },
  { id: 'hose-soft', says: 'Coolant hose soft', grade: 'stop', why: 'It bursts and scalds' },
  {
    id: 'seat-belt',
    says: 'Seat belt cut, frayed or not holding',
    grade: 'stop',
    why: 'The belt keeps the operator inside the frame',
  },
  {
    id: 'drive-belt',
    says: 'Drive or fan belt cracked, frayed or slack',
    grade: 'stop',
    why: 'It goes at work',
  },
  { id: 'tyre-cut', says: 'Tyre cut to the cord', grade: 'stop', why: 'It bursts under load' },
  {
    id: 'tyre-soft',
    says: 'Tyre soft',
    grade: 'stop',
    why: 'The machine leans and the tyre comes off; inflated it may go',
  },
  { id: 'wheel-nut', says: 'Wheel nut or stud loose or missing', grade: 'stop', why: 'The wheel comes off' },
  {
    id: 'open-stop',
    says: 'Earlier stop never signed off',
    grade: 'stop',
    why: 'Nobody competent has said that it is cured',
  },
  { id: 'brake', says: 'Service or parking brake fails', grade: 'stop', why: 'It cannot be held' },
  { id: 'steering', says: 'Steering stiff, slack or wandering', grade: 'stop', why: 'It cannot be guided' },
  { id: 'limit-switch', says: 'Limit switch or limiter fails', grade: 'stop', why: 'The last stop is gone' },
  {
    id: 'interlock',
    says: 'Interlock does not hold',
    grade: 'stop',
    why: 'It starts or moves when it must not',
  },
  { id: 'rod-film', says: 'Even oil film on a rod', grade: 'sound', why: 'A rod is meant to be wetted' },
  {
    id: 'damp-ring',
    says: 'Ring on a rod or damp fitting, no drop',
    grade: 'watch',
    why: 'It may grow; look again each shift',
  },
  { id: 'drip-falling', says: 'Oil or fuel falling in drops', grade: 'stop', why: 'It empties, or it burns' },
  {
    id: 'drip-hanging',
    says: 'Drop that hangs and does not fall',
    grade: 'mend',
    bound: 'shift',
    why: 'A seal that has begun to go',
  },
  {
    id: 'hub-seal',
    says: 'Hub, brake, steering or levelling seal wet',
    grade: 'stop',
    why: 'Oil reaches a brake, or what holds people up lets go',
  },
  { id: 'battery-clamp', says: 'Battery loose', grade: 'stop', why: 'It shorts and burns' },
  { id: 'battery-crust', says: 'Terminal crusted but tight', grade: 'watch', why: 'To be cleaned' },
  {
    id: 'extinguisher',
    says: 'Extinguisher flat, out of date or gone',
    grade: 'stop',
    why: 'A small fire takes the machine; swapped it may go',
  },
  { id: 'fuel-cap', says: 'Fuel wet at cap or filler', grade: 'stop', why: 'Vapour catches; dry it may go' },
  {
    id: 'glass-sight',
    says: 'Glass broken in the line of sight, or a mirror broken or gone',
    grade: 'stop',
    why: 'Somebody is not seen',
  },
  {
    id: 'glass-edge',
    says: 'Glass cracked at its edge',
    grade: 'mend',
    bound: 'shift',
    why: 'A crack runs',
  },
  {
    id: 'glass-dirty',
    says: 'Glass, mirror or camera dirty or turned away',
    grade: 'mend',
    bound: 'before-start',
    why: 'Cleaned and set it shows again',
  },
  {
    id: 'step-greasy',
    says: 'Step, grip or walkway greasy, muddy or iced',
    grade: 'mend',
    bound: 'before-start',
    why: 'A foot slips',
  },
  {
    id: 'step-loose',
    says: 'Step, grip or rail loose or bent',
    grade: 'stop',
    why: 'It lets go under a person',
  },
  {
    id: 'capacity-plate',
    says: 'Capacity plate or load chart missing, wrong or unreadable',
    grade: 'stop',
    why: 'Nobody knows what it carries',
  },
  {
    id: 'warning-decal',
    says: 'Warning label missing or unreadable',
    grade: 'mend',
    bound: 'shift',
    why: 'A stranger is not warned',
  },
  {
    id: 'rag-nest',
    says: 'Rag, nest or litter by heat',
    grade: 'stop',
    why: 'It catches; cleared it may go',
  },
  {
    id: 'lock-pin',
    says: 'Lock pin or bar left in',
    grade: 'stop',
    why: 'The first movement breaks it; the operator takes it out',
  },
  {
    id: 'sheet-number',
    says: 'Check sheet names another machine',
    grade: 'mend',
    bound: 'before-start',
    why: 'The number is put right before the round goes on',
  },
  {
    id: 'papers-other',
    says: 'Logbook, certificate or inspection of another machine, or out of date',
    grade: 'stop',
    why: 'This machine has not been passed',
  },
  {
    id: 'air-filter',
    says: 'Air filter blocked or its indicator red',
    grade: 'mend',
    bound: 'before-start',
    why: 'The engine starves and draws dust',
  },
] as const satisfies readonly GradeKind[];

export type GradeKindId = (typeof GRADE_KINDS)[number]['id'];

/** Ids of the kinds, for the schema. */
export const GRADE_KIND_IDS = GRADE_KINDS.map((each) => each.id) as [GradeKindId, ...GradeKindId[]];

const byId = new Map<string, GradeKind>(GRADE_KINDS.map((each) => [each.id, each]));

/** A kind of fault by its id. */
export function gradeKind(id: GradeKindId): GradeKind {
  return byId.get(id)!;
}
