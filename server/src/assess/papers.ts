import { standing } from '@rounds/core/certification';
import { asc, eq } from 'drizzle-orm';
import { eventsByPerson, readRules } from '../certification/standings';
import { effectivePackOf } from '../classes/packs';
import { type House, readSetting, siteTimeZone, siteToday } from '../data/context';
import { account, type certificate, certificationEventRow, machineClass, person, unit } from '../data/schema';
import type { CardSubject, ReportSubject } from './paperDocuments';
import { evaluatorOf } from './openEvaluation';
import { type EvaluationRow, eventsOf } from './stream';

/** Gathers what the report of an evaluation is made from. */
export async function reportSubject(house: House, row: EvaluationRow): Promise<ReportSubject> {
  const [who] = await house.db.select().from(person).where(eq(person.id, row.personId));
  const [trainer] = await house.db.select().from(account).where(eq(account.id, row.trainerId));
  const [machine] = await house.db.select().from(unit).where(eq(unit.id, row.unitId));
  const { state, last, says } = await evaluatorOf(house, row);
  return {
    purpose: row.purpose,
    pack: await effectivePackOf(house.db, row.packHash),
    events: await eventsOf(house.db, row.id),
    earlierStarts: row.earlierStarts,
    conditions: row.conditions,
    createdAt: new Date(row.createdAt).toISOString(),
    person: {
      name: `${who!.givenName} ${who!.familyName}`,
      payroll: who!.payroll,
      team: who!.team,
      site: who!.site,
    },
    preparedBy: trainer!.name,
    calibration: state === 'not-asked' && last === null ? '' : `Evaluator: ${says}`,
    machine: machine!.name,
    zone: await siteTimeZone(house),
    organisation: await readSetting<string>(house.db, 'organisation', 'Rounds'),
  };
}

/**
 * Gathers what a wallet card is made from: the certificate as it was given, and the machines on record
 * today.
 */
export async function cardSubject(
  house: House,
  card: typeof certificate.$inferSelect,
  base: string,
): Promise<CardSubject> {
  const [who] = await house.db.select().from(person).where(eq(person.id, card.personId));
  const [cls] = await house.db.select().from(machineClass).where(eq(machineClass.id, card.classId));
  const [event] = await house.db
    .select({ on: certificationEventRow.on, by: account.name })
    .from(certificationEventRow)
    .leftJoin(account, eq(account.id, certificationEventRow.accountId))
    .where(eq(certificationEventRow.id, card.eventId))
    .orderBy(asc(certificationEventRow.seq));
  const history = (await readRules(house.db)).of(who!.site, card.classId);
  const events =
    (await eventsByPerson(house.db, [card.personId])).get(card.personId)?.get(card.classId) ?? [];
  const given = standing(
    events.filter((each) => each.on <= event!.on),
    history,
    event!.on,
    who!.born,
  );
  const now = standing(events, history, await siteToday(house), who!.born);
  return {
    organisation: await readSetting<string>(house.db, 'organisation', 'Rounds'),
    classTitle: cls!.title,
    name: `${who!.givenName} ${who!.familyName}`,
    payroll: who!.payroll,
    until: given.until ?? event!.on,
    on: event!.on,
    by: event!.by ?? 'unknown',
    overridden: given.overridden,
    familiarisedWith: now.familiarisedWith,
    address: `${base}/verify/${card.token}`,
  };
}
