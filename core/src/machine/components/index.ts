import type { ComponentKind } from '../component';
import { z } from 'zod';
import { choice, component } from '../component';
import { engine } from './engine';
import { alternator, breakers, controller, loads } from './generator';
import {
  axles,
  boom,
  bridge,
  capacity,
  columns,
  hoist,
  jib,
  level,
  load,
  outriggers,
  radioLink,
  stripe,
  trolley,
  turret,
} from './lifting';
import { airBrakes, attachment, cutter, hydraulics, serviceBrake, steering, traction } from './moving';
import { preheat, pullStart, purge, starter, turbo } from './starting';
import { SWITCHED } from './switched';
import { plough, spreader, wing } from './winter';

/** People about the machine: the scene or a failure puts them there. */
const people = component({
  kind: 'people',
  says: 'Whether somebody is near, and where',
  parameters: z.strictObject({
    places: z.array(z.string()).min(1).default(['front', 'behind', 'pivot', 'under']),
  }),
  states: ({ places }) => ({ near: choice(['none', ...places]) }),
  tick: () => () => undefined,
});

/** Every kind of component, by its name. */
export const COMPONENT_KINDS: ReadonlyMap<string, ComponentKind> = new Map(
  [
    ...SWITCHED,
    engine,
    starter,
    pullStart,
    preheat,
    turbo,
    purge,
    traction,
    serviceBrake,
    airBrakes,
    steering,
    hydraulics,
    attachment,
    cutter,
    boom,
    jib,
    turret,
    axles,
    outriggers,
    hoist,
    bridge,
    trolley,
    load,
    level,
    capacity,
    stripe,
    columns,
    radioLink,
    loads,
    alternator,
    breakers,
    controller,
    plough,
    wing,
    spreader,
    people,
  ].map((each) => [each.kind, each]),
);
