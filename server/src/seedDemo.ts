import { hash as hashPassword } from '@node-rs/argon2';
import type { Role } from '@rounds/contract';
import { localDate } from '@rounds/core/calendar';
import { contentHash, type Pack } from '@rounds/core/catalogue';
import { DEFAULT_RULES } from '@rounds/core/certification';
import type { DemoOrganisation } from '@rounds/demo';
import { v7 as uuidv7 } from 'uuid';
import { DEMO_PASSWORD } from './accounts/routes';
import { appendPast } from './assess/stream';
import { projectStandings } from './certification/standings';
import { composeAndKeep, publishPack } from './classes/packs';
import { append } from './data/append';
import { writeSetting } from './data/context';
import type { Database } from './data/database';
import {
  account,
  certificationEventRow,
  evaluation,
  machineClass,
  person,
  ruleSetRow,
  schoolChoiceRow,
  unit,
} from './data/schema';
import { calibration, calibrationScores, policyLine } from './data/gradingSchema';
import { drill, lessonPlan, practiceSet } from './data/teachingSchema';
import { keepPastExercise } from './exercise/exercises';
import { keepPastBench } from './practice/bench';
import { drillStream } from './practice/stream';

async function inChunks<T>(
  rows: readonly T[],
  insert: (chunk: T[]) => Promise<unknown>,
  size = 400,
): Promise<void> {
  for (let i = 0; i < rows.length; i += size) await insert(rows.slice(i, i + size));
}

/**
 * Writes the demo organisation, as of `today`, into an empty database, in one transaction. Evaluations pass
 * through the same append as real ones.
 */
export async function seedDemo(
  db: Database,
  demo: DemoOrganisation,
  packs: readonly Pack[],
  today: string,
): Promise<void> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  await db.transaction(async (tx) => {
    await writeSetting(tx, 'organisation', demo.organisation);
    await writeSetting(tx, 'time-zone', demo.timeZone);
    await tx.insert(machineClass).values(demo.classes);
    for (const pack of packs) await publishPack(tx, pack);
    await tx.insert(person).values(demo.people);
    const accounts = demo.accounts.map((each) => ({ id: uuidv7(), ...each, passwordHash }));
    await tx.insert(account).values(accounts);
    const byLogin = new Map(
      accounts.map((each) => [each.login, { ...each, role: each.role as Role, active: true }]),
    );
    await tx.insert(unit).values(demo.units);
    await tx.insert(ruleSetRow).values({
      id: uuidv7(),
      effectiveFrom: '2000-01-01',
      body: { ...DEFAULT_RULES, calibrationMonths: 12 },
      accountId: null,
    });
    await inChunks(demo.certifications, (chunk) =>
      tx
        .insert(certificationEventRow)
        .values(chunk.map(({ by, ...each }) => ({ id: uuidv7(), ...each, accountId: byLogin.get(by)!.id }))),
    );
    if (demo.choices.length)
      await tx
        .insert(schoolChoiceRow)
        .values(
          demo.choices.map(({ by, ...each }) => ({ id: uuidv7(), ...each, accountId: byLogin.get(by)!.id })),
        );
    const machines = new Map(demo.units.map((unit) => [unit.id, unit]));
    const composed = new Map<string, string>();
    const packHashOf = async ({ unitId, composition }: (typeof demo.evaluations)[number]) => {
      const { classId } = machines.get(unitId)!;
      const key = JSON.stringify([classId, composition]);
      const known = composed.get(key);
      if (known) return known;
      const { hash } = await composeAndKeep(
        tx,
        packs.find((p) => p.id === classId)!,
        composition,
      );
      composed.set(key, hash);
      return hash;
    };
    const prepared = [];
    for (const purpose of ['evaluation', 'practice'] as const)
      for (const each of purpose === 'practice' ? demo.practices : demo.evaluations)
        prepared.push({ each, purpose, packHash: await packHashOf(each) });
    // Those of one content together: it is read once.
    prepared.sort(
      (a, b) => a.packHash.localeCompare(b.packHash) || a.each.createdAt.localeCompare(b.each.createdAt),
    );
    for (const { each, purpose, packHash } of prepared) {
      const machine = machines.get(each.unitId)!;
      const trainer = byLogin.get(each.trainer)!;
      const [row] = await tx
        .insert(evaluation)
        .values({
          id: each.id,
          personId: each.personId,
          classId: machine.classId,
          unitId: each.unitId,
          packHash,
          trainerId: trainer.id,
          purpose,
          conditions: each.conditions,
          earlierStarts: each.earlierStarts,
          phase: 'prepared',
          stillPlanted: [],
          createdAt: each.createdAt,
        })
        .returning();
      await appendPast(tx, trainer, row!, each.events, { zone: demo.timeZone, today });
    }
    for (const {
      id,
      personId,
      by,
      classId,
      composition,
      form,
      deal,
      startedAt,
      endedAt,
      acts,
    } of demo.drills) {
      const { hash } = await composeAndKeep(
        tx,
        packs.find((each) => each.id === classId)!,
        composition,
      );
      const caller = byLogin.get(by)!;
      await tx.insert(drill).values({
        id,
        personId,
        accountId: caller.id,
        classId,
        packHash: hash,
        form,
        deal,
        earlierStarts: [],
        startedAt,
      });
      await append(tx, drillStream(endedAt, localDate(endedAt, demo.timeZone)), id, acts, caller);
    }
    if (demo.plans.length > 0)
      await tx
        .insert(lessonPlan)
        .values(demo.plans.map(({ by, ...plan }) => ({ ...plan, accountId: byLogin.get(by)!.id })));
    if (demo.sets.length > 0)
      await tx
        .insert(practiceSet)
        .values(demo.sets.map(({ by, ...set }) => ({ ...set, setBy: byLogin.get(by)!.id })));
    if (demo.policy.length > 0)
      await tx
        .insert(policyLine)
        .values(demo.policy.map(({ by, ...line }) => ({ ...line, accountId: byLogin.get(by)!.id })));
    for (const each of demo.benches) {
      const { hash } = await composeAndKeep(
        tx,
        packs.find((pack) => pack.id === each.classId)!,
        each.composition,
      );
      await keepPastBench(tx, byLogin.get(each.by)!, hash, each);
    }
    for (const { by, composition, scores, ...row } of demo.calibrations) {
      const { hash } = await composeAndKeep(
        tx,
        packs.find((each) => each.id === row.classId)!,
        composition,
      );
      await tx.insert(calibration).values({ ...row, packHash: hash, accountId: byLogin.get(by)!.id });
      await tx.insert(calibrationScores).values(
        scores.map(({ by: who, ...each }) => ({
          ...each,
          calibrationId: row.id,
          accountId: byLogin.get(who)!.id,
        })),
      );
    }
    for (const { by, composition, ...past } of demo.exercises) {
      const { hash } = await composeAndKeep(
        tx,
        packs.find((each) => each.id === past.classId)!,
        composition,
      );
      await keepPastExercise(tx, byLogin.get(by)!, hash, past);
    }
    await projectStandings(tx, today);
    await writeSetting(tx, 'demo', { made: true, content: contentHash(demo.people) });
  });
}
