import { z } from 'zod';
import type { DeskAct, LoggedAct } from './work';
import { MOST_TICKS } from './run';

const name = z.string().min(1).max(80);

/** What a learner can do at a desk: nothing that only the scene may. */
export const deskActSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('go'), place: name }),
  z.strictObject({ kind: z.literal('set'), control: name, to: name }),
  z.strictObject({ kind: z.literal('hold'), control: name }),
  z.strictObject({ kind: z.literal('release'), control: name }),
  z.strictObject({ kind: z.literal('press'), control: name }),
  z.strictObject({ kind: z.literal('pedal'), control: name, to: z.number().min(0).max(1) }),
  z.strictObject({ kind: z.literal('look'), look: name }),
  z.strictObject({ kind: z.literal('call'), says: z.string().min(1).max(200) }),
  z.strictObject({ kind: z.literal('away'), step: name }),
  z.strictObject({ kind: z.literal('answer'), rule: name, offer: z.number().int().min(0).max(3) }),
]) satisfies z.ZodType<DeskAct>;

/** The same with the tick in which it was done. */
export const loggedActSchema = z.strictObject({
  tick: z.number().int().min(1).max(MOST_TICKS),
  act: deskActSchema,
}) satisfies z.ZodType<LoggedAct>;
