import type { ComponentKind } from '../component';
import { z } from 'zod';
import { choice, component } from '../component';
import { engine } from './engine';
import { airBrakes, attachment, cutter, hydraulics, serviceBrake, steering, traction } from './moving';
import { preheat, pullStart, purge, starter, turbo } from './starting';
import { SWITCHED } from './switched';

/** People about the machine: the scene or a failure puts them there. */
const people = component({
  kind: 'people',
  says: 'Whether somebody is near, and where',
  parameters: z.strictObject({}),
  states: () => ({ near: choice(['none', 'front', 'behind', 'pivot', 'under']) }),
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
    people,
  ].map((each) => [each.kind, each]),
);
