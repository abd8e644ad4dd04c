import type { RouteInput, routes } from '@rounds/contract';
import { eq } from 'drizzle-orm';
import { standingOf, standingsToday } from '../certification/standings';
import type { House } from '../data/context';
import { certificate, person } from '../data/schema';

type Asked = RouteInput<typeof routes.verify>;

/** Whether a card is valid today; nothing of whose it is. */
export async function verifyCard(house: House, params: Asked['params']) {
  const on = await standingsToday(house);
  const [card] = await house.db.select().from(certificate).where(eq(certificate.token, params.token));
  if (!card) return { known: false, valid: false, on };
  const [who] = await house.db
    .select({ active: person.active })
    .from(person)
    .where(eq(person.id, card.personId));
  const held = await standingOf(house.db, card.personId, card.classId, on);
  return { known: true, valid: Boolean(who?.active) && held?.mayOperate === 'yes', on };
}
