import type { EvaluatorCalibration } from '@rounds/contract';
import { localDate, type PlainDate } from '@rounds/core/calendar';
import { evaluatorStanding, evaluatorStandingWords } from '@rounds/core/calibration';
import { rulesOn } from '@rounds/core/certification';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import { readRules } from '../certification/standings';
import type { Database } from '../data/database';
import { calibration, calibrationScores } from '../data/gradingSchema';

/** A calibration that an evaluator has handed in and that is closed. */
export interface PastCalibration {
  id: string;
  accountId: string;
  on: PlainDate;
}

/** Closed calibrations that were handed in, the latest first; of one account where it is given. */
export async function pastCalibrations(
  db: Database,
  zone: string,
  accountId?: string,
): Promise<PastCalibration[]> {
  const rows = await db
    .select({ id: calibration.id, accountId: calibrationScores.accountId, at: calibrationScores.handedInAt })
    .from(calibrationScores)
    .innerJoin(calibration, eq(calibration.id, calibrationScores.calibrationId))
    .where(
      and(
        isNotNull(calibrationScores.handedInAt),
        isNotNull(calibration.closedAt),
        accountId ? eq(calibrationScores.accountId, accountId) : undefined,
      ),
    )
    .orderBy(desc(calibrationScores.handedInAt));
  return rows.map(({ at, ...row }) => ({ ...row, on: localDate(new Date(at!).toISOString(), zone) }));
}

/** An evaluator's standing on a day, by the months that rules ask for. */
export function standingView(
  past: readonly PastCalibration[],
  months: number | null,
  on: PlainDate,
): EvaluatorCalibration {
  const last = past.find((each) => each.on <= on)?.on ?? null;
  const standing = evaluatorStanding(last, months, on);
  return { ...standing, says: evaluatorStandingWords(standing) };
}

/** Whether an evaluator is calibrated on a day, as the rules of a site and class ask for; null: of the organisation. */
export async function evaluatorOn(
  db: Database,
  zone: string,
  accountId: string,
  on: PlainDate,
  scope: { site: string; classId: string } | null = null,
): Promise<EvaluatorCalibration> {
  const history = (await readRules(db)).of(scope?.site ?? '', scope?.classId ?? '');
  return standingView(
    await pastCalibrations(db, zone, accountId),
    rulesOn(history, on).calibrationMonths,
    on,
  );
}
