import type { RouteAnswer, routes } from '@rounds/contract';
import { commandPlaces } from '@rounds/core/commands';
import { programsOf } from '@rounds/core/machine';
import { walkingOrder } from '@rounds/core/round';
import { asc, isNotNull } from 'drizzle-orm';
import { publishedPack } from '../classes/packs';
import type { House } from '../data/context';
import { machineClass } from '../data/schema';

/** Classes to practise. It says nothing of their faults, so that no device that practises needs to hold them. */
export async function practiceClasses(house: House): Promise<RouteAnswer<typeof routes.practiceClasses>> {
  const rows = await house.db
    .select({ id: machineClass.id })
    .from(machineClass)
    .where(isNotNull(machineClass.publishedHash))
    .orderBy(asc(machineClass.title));
  const packs = await Promise.all(rows.map(({ id }) => publishedPack(house.db, id)));
  return {
    classes: packs.flatMap((published) => {
      if (!published) return [];
      const { id, title, variants, machine } = published.pack;
      const programs = programsOf(published.pack);
      return {
        id,
        title,
        variants: variants.map((each) => ({ id: each.id, name: each.name })),
        stations: walkingOrder(published.pack)
          .map(({ station, order, checks }) => ({
            id: station.id,
            name: `${order}. ${station.name}`,
            parts: checks.filter((each) => each.station === station.id).length,
          }))
          .filter((each) => each.parts > 0),
        programs,
        commandPlaces: machine.desk ? commandPlaces(machine.desk) : [],
      };
    }),
  };
}
