import type { Role } from '@rounds/contract/route';

/** A place of the application that the rail leads to. */
export interface Area {
  name: string;
  to: string;
  /** Pressed after g. */
  key: string;
  /** Names of the routes that belong to it. */
  screens: readonly string[];
  roles: readonly Role[];
  /** Areas of one group stand together: the day, people at machines, the machines, what follows from them. */
  group: 'day' | 'people' | 'machines' | 'office';
  /** Strokes of its sign, drawn on a 24 grid. */
  sign: string;
}

const everyone: readonly Role[] = ['trainer', 'operator', 'supervisor', 'workshop', 'administrator'];
const office: readonly Role[] = ['trainer', 'supervisor', 'administrator'];

const RING = 'M12 3v4M12 17v4M3 12h4M17 12h4M12 8.5a3.5 3.5 0 1 0 0 7a3.5 3.5 0 0 0 0-7';
const CLOSED_RING = 'M12 4a8 8 0 1 1-6.9 4M8.5 12l2.5 2.5 4.5-5';
const TWO_HEADS =
  'M9 4.5a3.2 3.2 0 1 0 0 6.4a3.2 3.2 0 0 0 0-6.4M3 20c.4-4 2.6-6 6-6s5.6 2 6 6' +
  'M15.5 5.5a3 3 0 0 1 0 5.5M17 14.5c2.4.7 3.7 2.6 4 5.5';
const RINGS =
  'M6 4.5a2 2 0 1 0 0 4a2 2 0 0 0 0-4M6 15.5a2 2 0 1 0 0 4a2 2 0 0 0 0-4' +
  'M18 4.5a2 2 0 1 0 0 4a2 2 0 0 0 0-4M18 15.5a2 2 0 1 0 0 4a2 2 0 0 0 0-4M12 10a2 2 0 1 0 0 4a2 2 0 0 0 0-4';
const FORKS = 'M8 10V4M16 10V4M5.5 10h13v7h-13zM8 17v3M16 17v3';
const FOOTSTEPS =
  'M8 3.5c-1.9 0-3 2-3 4.3 0 2 .9 3.7 2 3.7h2c1.1 0 2-1.7 2-3.7 0-2.3-1.1-4.3-3-4.3M6.5 14h3v1.4a1.5 1.5 0 0 1-3 0z' +
  'M16 8.5c-1.9 0-3 2-3 4.3 0 2 .9 3.7 2 3.7h2c1.1 0 2-1.7 2-3.7 0-2.3-1.1-4.3-3-4.3M14.5 19h3v1.4a1.5 1.5 0 0 1-3 0z';
const BOARD = 'M4 5h16v10H4zM12 15v2M8 20l4-3 4 3M8 9.5h8M8 12h5';
const STEPS = 'M4 20V13h4v7M10 20V8h4v12M16 20V4h4v16M3 20h18';
const SLIDES = 'M4 7h9M17 7h3M4 17h3M11 17h9M15 5v4M9 15v4';

/** Every area in the order of the rail. A new one is a line here, a route in `router.ts` and its folder. */
export const AREAS: readonly Area[] = [
  { name: 'Today', to: '/', key: 't', screens: ['today'], roles: everyone, group: 'day', sign: RING },
  {
    name: 'Assess',
    to: '/assess',
    key: 'a',
    screens: ['assess', 'prepare', 'evaluation', 'calibrations', 'replay', 'calibration-report'],
    roles: ['trainer', 'supervisor', 'administrator', 'operator'],
    group: 'people',
    sign: CLOSED_RING,
  },
  {
    name: 'Teach',
    to: '/teach',
    key: 'l',
    screens: ['teach', 'lesson', 'exercise', 'exercise-room', 'exercise-report'],
    roles: ['trainer', 'administrator'],
    group: 'people',
    sign: BOARD,
  },
  {
    name: 'Practise',
    to: '/practise',
    key: 'd',
    screens: [
      'practise',
      'drill',
      'drill-result',
      'bench',
      'bench-result',
      'offline-drill',
      'offline-result',
    ],
    roles: ['trainer', 'administrator', 'operator', 'supervisor'],
    group: 'people',
    sign: FOOTSTEPS,
  },
  {
    name: 'People',
    to: '/people',
    key: 'p',
    screens: ['people', 'person', 'import'],
    roles: office,
    group: 'people',
    sign: TWO_HEADS,
  },
  {
    name: 'Matrix',
    to: '/people/matrix',
    key: 'm',
    screens: ['matrix'],
    roles: office,
    group: 'people',
    sign: RINGS,
  },
  {
    name: 'Classes',
    to: '/classes',
    key: 'c',
    screens: ['classes', 'class', 'compare', 'drawings', 'import-class', 'edit-class', 'class-history'],
    roles: everyone,
    group: 'machines',
    sign: FORKS,
  },
  {
    name: 'Insight',
    to: '/insight',
    key: 'i',
    screens: ['insight', 'items'],
    roles: office,
    group: 'office',
    sign: STEPS,
  },
  {
    name: 'Settings',
    to: '/settings',
    key: 's',
    screens: ['settings'],
    roles: everyone,
    group: 'office',
    sign: SLIDES,
  },
];

/** The areas open to a role. */
export function areasOf(role: Role | null): Area[] {
  return AREAS.filter((each) => role !== null && each.roles.includes(role));
}

/** Places on a phone's bar: the first four, or three and "More" when there are more than four. */
export function phoneBar(areas: readonly Area[], places = 4): { bar: Area[]; more: Area[] } {
  if (areas.length <= places + 1) return { bar: [...areas], more: [] };
  return { bar: areas.slice(0, places), more: areas.slice(places) };
}
