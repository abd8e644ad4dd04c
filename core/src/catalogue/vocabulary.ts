/** The trade's fixed words, shared by every machine class. */

/** How bad a finding is, mildest first. */
export const GRADES = ['sound', 'watch', 'mend', 'stop'] as const;
export type Grade = (typeof GRADES)[number];

/** How a checkpoint may be examined. */
export const METHODS = [
  'look',
  'touch',
  'press',
  'pull',
  'turn',
  'wipe',
  'operate',
  'listen',
  'smell',
  'measure',
  'read',
] as const;
export type Method = (typeof METHODS)[number];

/** The part of the machine or of the work that a checkpoint belongs to. */
export const SYSTEMS = [
  'access',
  'air-intake',
  'attachment',
  'brakes',
  'cooling',
  'documents',
  'electrical',
  'engine',
  'fuel',
  'hoist-rope-chain',
  'housekeeping',
  'hydraulics',
  'lubrication',
  'operator-station',
  'safety-device',
  'site',
  'steering',
  'structure',
  'transmission',
  'tyres-wheels',
  'undercarriage',
  'visibility',
] as const;
export type System = (typeof SYSTEMS)[number];

/** What a machine may be used for beside its usual work; each raises the grades it bears on. */
export const USES = ['carries-people', 'lifts-over-people', 'works-on-road', 'leans-on-device'] as const;
export type Use = (typeof USES)[number];

/** Places of a station that lie off the walking line. */
export const PLACES = [
  'engine-bay',
  'cab',
  'platform',
  'ground-control',
  'on-top',
  'underneath',
  'remote',
  'each-unit',
] as const;
export type Place = (typeof PLACES)[number];

/** Conditions under which a check or step counts, common to all classes; a pack adds its own. */
export const COMMON_CONDITIONS = {
  any: 'at any time',
  'engine-off': 'engine or traction power off',
  'engine-running': 'engine running, or traction power on',
  'key-on': 'key on, engine or traction not moving',
  isolated: 'isolated and unable to start',
  'level-ground': 'on level ground',
  'attachment-grounded': 'attachment resting on the ground',
  seated: 'operator in the seat',
  cold: 'fluids and engine cold',
  warm: 'at working temperature',
  'moved-off': 'machine moving or just moved off',
  'area-clear': 'nobody and nothing within reach of the movement',
  'set-up-on-site': 'machine set up where it will work',
} as const;

/** Conditions that hold only once the machine is alive. */
export const LIVE_CONDITIONS: readonly string[] = ['engine-running', 'key-on', 'warm', 'moved-off'];

/** What a procedure is for. */
export const PROCEDURE_KINDS = [
  'prepare',
  'startup',
  'function-test',
  'operate',
  'travel',
  'load',
  'refuel',
  'recharge',
  'service',
  'shutdown',
  'fault-response',
  'emergency',
] as const;

/** How far a mend may go on. */
export const UNTIL_BOUNDS = [
  'before-start',
  'today',
  'shift',
  'hours',
  'days',
  'next-service',
  'only-if',
] as const;
export type UntilBound = (typeof UNTIL_BOUNDS)[number];

/** What the figure of a step's timing means; `typical` and `none` are never judged. */
export const TIMING_MEANS = ['dwell', 'limit', 'within', 'rest', 'typical', 'count', 'none'] as const;
export type TimingMeans = (typeof TIMING_MEANS)[number];

export const TIMING_UNITS = [
  's',
  'min',
  'h',
  'day',
  'times',
  'cycles',
  'pairs',
  'wraps',
  'm',
  'cm',
  'mm',
  'km',
  'km/h',
  '%',
] as const;

/** How a fault is planted; only a `change` leaves the machine otherwise than it was. */
export const PLANT_MEANS = ['mark', 'card', 'sample', 'shown', 'change'] as const;
export type PlantMeans = (typeof PLANT_MEANS)[number];

/** Turning points of starting and stopping, by which the order of the steps round them is checked. */
export const MOMENTS = ['power-on', 'first-motion', 'power-off', 'dismount'] as const;
export type Moment = (typeof MOMENTS)[number];

/** Rank of a grade: 0 for sound to 3 for stop. */
export function severity(grade: Grade): number {
  return GRADES.indexOf(grade);
}

/** The worse of two grades. */
export function worse(a: Grade, b: Grade): Grade {
  return severity(a) >= severity(b) ? a : b;
}

/** What is set out with cones for driving. */
export const COURSE_LAYOUTS = ['figure-of-eight', 'slalom', 'square-approach', 'reverse-lane'] as const;
export type CourseLayout = (typeof COURSE_LAYOUTS)[number];

/** What is practised by oneself and speaks for somebody: the round, start and stop at the desk, the controls. */
export const READY_PARTS = ['round', 'desk', 'commands'] as const;
export type ReadyPart = (typeof READY_PARTS)[number];
