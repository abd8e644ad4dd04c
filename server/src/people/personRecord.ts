import type { RouteInput, routes } from '@rounds/contract';
import {
  type CertificationEvent,
  certificationEventBody,
  certificationEventWords,
  forecast,
} from '@rounds/core/certification';
import { desc, eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { summaryRows } from '../assess/summaries';
import { eventsByPerson, readRules, standingsOf, standingsToday } from '../certification/standings';
import type { House } from '../data/context';
import { account, certificate, certificationEventRow } from '../data/schema';
import { personOr404, shown } from './roster';

type Asked = RouteInput<typeof routes.person>;

/** A person with their standings, what comes if nothing happens, and everything on record. */
export async function personRecord(house: House, params: Asked['params'], caller: Caller) {
  const row = await personOr404(house, caller, params.id);
  const today = await standingsToday(house);
  const standings = (await standingsOf(house.db, [row], today)).get(row.id) ?? [];
  const rules = await readRules(house.db);
  const byClass =
    (await eventsByPerson(house.db, [row.id])).get(row.id) ?? new Map<string, CertificationEvent[]>();
  const horizon = `${Number(today.slice(0, 4)) + 4}${today.slice(4)}`.replace('-02-29', '-02-28');
  const history = await house.db
    .select({ event: certificationEventRow, by: account.name, token: certificate.token })
    .from(certificationEventRow)
    .leftJoin(account, eq(account.id, certificationEventRow.accountId))
    .leftJoin(certificate, eq(certificate.eventId, certificationEventRow.id))
    .where(eq(certificationEventRow.personId, row.id))
    .orderBy(desc(certificationEventRow.on), desc(certificationEventRow.seq));
  return {
    person: shown(row),
    standings,
    forecast: [...byClass]
      .flatMap(([classId, events]) =>
        forecast(events, rules.of(row.site, classId), today, horizon, row.born).map((each) => ({
          classId,
          ...each,
        })),
      )
      .sort((a, b) => (a.on < b.on ? -1 : Number(a.on > b.on))),
    history: history.map(({ event, by, token }) => {
      const body = certificationEventBody.parse(event.body);
      return {
        id: event.id,
        classId: event.classId,
        on: event.on,
        kind: body.kind,
        words: certificationEventWords(body),
        by: by ?? 'unknown',
        evaluation: event.evaluationId,
        token,
      };
    }),
    evaluations: await summaryRows(house, caller, { personId: row.id }),
  };
}
