import { isWellFormed } from '@rounds/core/text';
import { z } from 'zod';
import { type Role, ROLES } from './route';

/** Fields, role groups and answers that several areas share. */

export const everyone: readonly Role[] = ROLES;

export const trainers: readonly Role[] = ['trainer', 'administrator'];

export const office: readonly Role[] = ['trainer', 'supervisor', 'administrator'];

export const readers: readonly Role[] = ['trainer', 'supervisor', 'operator', 'administrator'];

export const administrators: readonly Role[] = ['administrator'];

export const uuid = z.uuid();

/** A date of any year that is answered; what is sent in must lie in `plainDateText`'s years. */
export const plainDate = z.iso.date();

export const instant = z.iso.datetime();

/** Largest whole number that a column for counts holds. */
export const MAX_COUNT = 2_147_483_647;

/** A short line of text typed by a person; control characters are refused. */
export const line = z
  .string()
  .trim()
  .min(1, 'must not be empty')
  .max(200, 'is longer than 200 characters')
  .refine((text) => !/[\u0000-\u001f\u007f]/.test(text), 'contains control characters')
  .refine(isWellFormed, 'contains half of a character');

export const optionalLine = line.nullable();

export const byId = z.object({ id: uuid });

export const done = z.object({ done: z.literal(true) });

export const login = z.string().min(1).max(200);

export const secret = z.string().max(200);

export const password = z.string().min(10, 'a password has at least 10 characters').max(200);

/** A place in a list, as the answer before gave it. */
export const cursor = z.string().max(600).optional();

/** Which page of a list (from 1) and in what order, for lists that people turn over and sort. */
export const listOrder = {
  page: z.coerce.number().int().min(1).max(100_000).default(1),
  order: z.enum(['ascending', 'descending']).default('ascending'),
};
