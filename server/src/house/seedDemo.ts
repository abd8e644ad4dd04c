import { contentHash, type Pack } from '@rounds/core';
import type { DemoOrganisation } from '@rounds/demo';
import { hash as hashPassword } from '@node-rs/argon2';
import { v7 as uuidv7 } from 'uuid';
import { DEMO_PASSWORD } from '../accounts/routes';
import { remake } from '../assess/append';
import { composeAndKeep, effectivePackOf, publishPack } from '../classes/packs';
import { writeSetting } from './context';
import type { Database } from './database';
import { account, certificationEventRow, evaluation, evaluationEventRow, machineClass, person, ruleSetRow, schoolChoiceRow, unit } from './schema';
import { DEFAULT_RULES } from '@rounds/core';

async function inChunks<T>(rows: readonly T[], insert: (chunk: T[]) => Promise<unknown>, size = 400): Promise<void> {
  for (let i = 0; i < rows.length; i += size) await insert(rows.slice(i, i + size));
}

/** Writes the demo organisation into an empty database, in one transaction. Evaluations pass through the same remaking as real ones. */
export async function seedDemo(db: Database, demo: DemoOrganisation, packs: readonly Pack[]): Promise<void> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  await db.transaction(async (tx) => {
    await writeSetting(tx, 'organisation', demo.organisation);
    await writeSetting(tx, 'time-zone', demo.timeZone);
    await tx.insert(machineClass).values(demo.classes);
    for (const pack of packs) await publishPack(tx, pack);
    await tx.insert(person).values(demo.people);
    const accounts = demo.accounts.map((each) => ({ id: uuidv7(), ...each, passwordHash }));
    await tx.insert(account).values(accounts);
    const accountId = new Map(accounts.map((each) => [each.login, each.id]));
    await tx.insert(unit).values(demo.units);
    await tx.insert(ruleSetRow).values({ id: uuidv7(), effectiveFrom: '2000-01-01', body: DEFAULT_RULES, accountId: null });
    await inChunks(demo.certifications, (chunk) =>
      tx.insert(certificationEventRow).values(chunk.map(({ by, ...each }) => ({ id: uuidv7(), ...each, accountId: accountId.get(by)! }))),
    );
    if (demo.choices.length) await tx.insert(schoolChoiceRow).values(demo.choices.map(({ by, ...each }) => ({ id: uuidv7(), ...each, accountId: accountId.get(by)! })));
    for (const each of demo.evaluations) {
      const machine = demo.units.find((u) => u.id === each.unitId)!;
      const pack = packs.find((p) => p.id === machine.classId)!;
      const effective = await composeAndKeep(tx, pack, each.composition);
      const trainerId = accountId.get(each.trainer)!;
      const [row] = await tx
        .insert(evaluation)
        .values({
          id: each.id,
          personId: each.personId,
          classId: machine.classId,
          unitId: each.unitId,
          packHash: effective.hash,
          trainerId,
          conditions: each.conditions,
          earlierStarts: each.earlierStarts,
          phase: 'prepared',
          stillPlanted: [],
          createdAt: each.createdAt,
        })
        .returning();
      await inChunks(each.events, (chunk) =>
        tx.insert(evaluationEventRow).values(chunk.map((event) => ({ id: event.id, evaluationId: each.id, at: event.at, accountId: trainerId, body: event.body }))),
      );
      await remake(tx, { row: row!, pack: await effectivePackOf(tx, effective.hash), events: each.events, zone: demo.timeZone, accountId: trainerId });
    }
    await writeSetting(tx, 'demo', { made: true, content: contentHash(demo.people) });
  });
}
