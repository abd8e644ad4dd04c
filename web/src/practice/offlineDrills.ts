import type { SessionAccount } from '@rounds/contract/accounts';
import { practiceRoutes } from '@rounds/contract/practice';
import type { RouteAnswer } from '@rounds/contract/route';
import type { EffectivePack } from '@rounds/core/catalogue';
import { dealDrill, type Deal, type DrillAct, type DrillForm, drillResult } from '@rounds/core/drill';
import { v7 as uuidv7 } from 'uuid';
import { ApiProblem, call } from '../device/api';
import { DeviceDatabase, type KeptClassRow } from '../device/db';
import { readKey, seal, unseal } from '../device/vault';

/**
 * Practice without a network: a class kept on the device, drills dealt and answered here. They are for the learner alone;
 * when the server can be reached they are brought in, dealt and judged anew there, and count for nothing.
 */
export type KeptClass = Omit<KeptClassRow, 'packed' | 'account'>;
type ClassToPractise = RouteAnswer<typeof practiceRoutes.practiceClasses>['classes'][number];

/** A drill of this device. The same seed deals the same machine here and on the server. */
export interface OfflineDrill {
  id: string;
  classId: string;
  variant: string;
  packHash: string;
  form: DrillForm;
  station: string | null;
  seed: number;
  startedAt: string;
  acts: DrillAct[];
  /** What it came to; null until it has ended. */
  score: number | null;
  /** Why the server will not take it; null as long as it may. */
  refused: string | null;
}

const database = new DeviceDatabase();

const through = (bytes: BlobPart, way: TransformStream) =>
  new Response((new Blob([bytes]).stream() as ReadableStream).pipeThrough(way)).arrayBuffer();

/** Keeps a class of an account on this device; an older one of the same kind gives way. */
export async function keepClass(
  account: SessionAccount,
  chosen: ClassToPractise,
  variant: string,
): Promise<void> {
  const { pack } = await call(practiceRoutes.keptClass, { params: { id: chosen.id }, query: { variant } });
  const packed = await through(JSON.stringify(pack), new CompressionStream('gzip'));
  await database.keptClasses.put({
    account: account.id,
    classId: chosen.id,
    variant,
    variantName: chosen.variants.find((each) => each.id === variant)?.name ?? variant,
    title: chosen.title,
    hash: (pack as EffectivePack).hash,
    stations: chosen.stations,
    packed: new Uint8Array(packed),
  });
}

export async function keptClasses(account: SessionAccount): Promise<KeptClass[]> {
  const rows = await database.keptClasses.where('account').equals(account.id).toArray();
  return rows.map(({ packed: _packed, account: _account, ...kept }) => kept);
}

export const dropClass = (account: SessionAccount, kept: KeptClass) =>
  database.keptClasses.delete([account.id, kept.classId, kept.variant]);

async function packOf(account: SessionAccount, { classId, variant }: Pick<KeptClass, 'classId' | 'variant'>) {
  const row = await database.keptClasses.get([account.id, classId, variant]);
  if (!row) throw new RangeError('The class of this drill is no longer kept on this device.');
  return JSON.parse(
    new TextDecoder().decode(await through(row.packed, new DecompressionStream('gzip'))),
  ) as EffectivePack;
}

const sealed = (account: SessionAccount, drill: OfflineDrill) => ({
  id: drill.id,
  account: account.id,
  sealed: seal(readKey(account.deviceKey), drill),
});
const opened = (account: SessionAccount, row: { sealed: Uint8Array }) =>
  unseal<OfflineDrill>(readKey(account.deviceKey), row.sealed);

export async function beginOffline(
  account: SessionAccount,
  kept: KeptClass,
  form: DrillForm,
  station: string | null,
): Promise<OfflineDrill> {
  const drill: OfflineDrill = {
    id: uuidv7(),
    classId: kept.classId,
    variant: kept.variant,
    packHash: kept.hash,
    form,
    station,
    seed: crypto.getRandomValues(new Uint32Array(1))[0]! % 2 ** 31,
    startedAt: new Date().toISOString(),
    acts: [],
    score: null,
    refused: null,
  };
  await database.offlineDrills.put(sealed(account, drill));
  return drill;
}

/** The drills of an account on this device, oldest first. What another key sealed is another's. */
export async function offlineDrills(account: SessionAccount): Promise<OfflineDrill[]> {
  const rows = await database.offlineDrills.where('account').equals(account.id).sortBy('id');
  return rows.map((row) => opened(account, row));
}
export const dropDrill = (id: string) => database.offlineDrills.delete(id);

/** A drill with its machine. Throws RangeError where the device no longer has one of the two. */
export async function openOffline(
  account: SessionAccount,
  id: string,
): Promise<{ drill: OfflineDrill; pack: EffectivePack; deal: Deal }> {
  const row = await database.offlineDrills.get(id);
  if (row?.account !== account.id) throw new RangeError('This drill is not on this device any more.');
  const drill = opened(account, row);
  const pack = await packOf(account, drill);
  if (pack.hash !== drill.packHash)
    throw new RangeError('The class was kept anew since this drill began, and its machine is gone.');
  return {
    drill,
    pack,
    deal: dealDrill(pack, { form: drill.form, seed: drill.seed, station: drill.station }),
  };
}

/** A drill with another act, kept before it shows anything; with the last one what it came to is kept too. */
export async function keepAct(
  account: SessionAccount,
  held: { drill: OfflineDrill; pack: EffectivePack; deal: Deal },
  act: DrillAct,
): Promise<OfflineDrill> {
  const acts = [...held.drill.acts, act];
  const score = act.kind === 'end' ? drillResult(held.pack, held.deal, acts).score : null;
  const drill = { ...held.drill, acts, score };
  await database.offlineDrills.put(sealed(account, drill));
  return drill;
}

export const hasEnded = ({ score }: OfflineDrill) => score !== null;

/** Brings every ended drill to the server; what it takes is no longer kept here. Answers how many it took. */
export async function bringDrills(account: SessionAccount): Promise<number> {
  let taken = 0;
  for (const drill of await offlineDrills(account)) {
    const { id, packHash, form, station, seed, startedAt, acts, score } = drill;
    if (score === null || drill.refused !== null) continue;
    try {
      await call(practiceRoutes.bringDrill, {
        body: { id, packHash, form, station, seed, startedAt, acts, score },
      });
      await dropDrill(id);
      taken += 1;
    } catch (error) {
      if (error instanceof ApiProblem && !['drill-act', 'not-found', 'invalid'].includes(error.code))
        return taken;
      const refused = error instanceof Error ? error.message : String(error);
      await database.offlineDrills.put(sealed(account, { ...drill, refused }));
    }
  }
  return taken;
}
