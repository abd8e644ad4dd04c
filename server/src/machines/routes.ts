import { machineRoutes as routes } from '@rounds/contract';
import { eq } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { composeOrProblem, contentChanged, publishedPack } from '../classes/packs';
import { type House, note } from '../data/context';
import { unit } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';

/** Routes of the machines of the yard. */
export function machineRoutes(router: Router, house: House): void {
  bind(router, house, routes.units, async ({ query }) => {
    const rows = await house.db
      .select()
      .from(unit)
      .where(query.classId ? eq(unit.classId, query.classId) : undefined)
      .orderBy(unit.name);
    return { units: rows };
  });

  bind(router, house, routes.addUnit, async ({ body, caller }) => {
    const published = await publishedPack(house.db, body.classId);
    if (published)
      composeOrProblem(published.pack, {
        variant: body.variant ?? published.pack.variants[0]!.id,
        features: body.features,
      });
    return house.db.transaction(async (db) => {
      const [row] = await db
        .insert(unit)
        .values({ id: uuidv7(), ...body })
        .onConflictDoNothing()
        .returning();
      if (!row)
        throw new ProblemError('unit-taken', `A machine called "${body.name}" is already on the list.`);
      await contentChanged(db);
      await note(db, caller, 'unit-added', row.id, { name: row.name, classId: row.classId, site: row.site });
      return row;
    });
  });
}
