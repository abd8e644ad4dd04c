import type { PlainDate } from '@rounds/core/calendar';
import { certificationEventBody, type CertificationEventBody } from '@rounds/core/certification';
import { inArray } from 'drizzle-orm';
import type { StreamKind } from '../data/append';
import { lock, lockShared } from '../data/context';
import { certificationEventRow } from '../data/schema';
import { projectStandings } from './standings';

/** Whose certification a stream is. */
export interface CertificationKey {
  personId: string;
  classId: string;
}

/** A dated fact with its identity, and the evaluation it comes from. */
export interface CertificationFact {
  id: string;
  on: PlainDate;
  body: CertificationEventBody;
  evaluationId: string | null;
}

/** Certification of one person in one class as a stream; its projection is the standing as of `today`. */
export function certificationStream(today: PlainDate): StreamKind<CertificationKey, null, CertificationFact> {
  return {
    name: ({ personId, classId }) => `certification ${personId} ${classId}`,
    async hold(db, { personId }) {
      // New rules make every standing anew; they and this wait for each other.
      await lockShared(db, 'standings');
      await lock(db, `certification ${personId}`);
      return null;
    },
    async recorded(db, key, ids) {
      const rows = await db
        .select({
          id: certificationEventRow.id,
          personId: certificationEventRow.personId,
          classId: certificationEventRow.classId,
        })
        .from(certificationEventRow)
        .where(inArray(certificationEventRow.id, [...ids]));
      return new Map(
        rows.map((row) => [
          row.id,
          row.personId === key.personId && row.classId === key.classId ? 'here' : 'elsewhere',
        ]),
      );
    },
    take(_held, { body }) {
      certificationEventBody.parse(body);
    },
    async write(db, key, events, caller) {
      const rows = events.map(({ id, on, body, evaluationId }) => ({
        id,
        ...key,
        on,
        body,
        evaluationId,
        accountId: caller.id,
      }));
      return (
        await db
          .insert(certificationEventRow)
          .values(rows)
          .onConflictDoNothing()
          .returning({ id: certificationEventRow.id })
      ).length;
    },
    async project(db, { personId, classId }, _held, taken) {
      await projectStandings(db, today, [personId]);
      return taken.map(({ body, on }) => ({
        act: 'certification-event',
        subject: personId,
        detail: { classId, on, kind: body.kind },
      }));
    },
  };
}
