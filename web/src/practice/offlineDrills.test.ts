import 'fake-indexeddb/auto';
import { practiceRoutes } from '@rounds/contract/practice';
import { compose, contentHash } from '@rounds/core/catalogue';
import { drillResult, PERFECT, scriptedDrill } from '@rounds/core/drill';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { account } from '../testing/mount';
import {
  beginOffline,
  bringDrills,
  dropClass,
  dropDrill,
  hasEnded,
  keepAct,
  keepClass,
  keptClasses,
  offlineDrills,
  openOffline,
} from './offlineDrills';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const isla = { ...account('operator'), id: '01900000-0000-7000-8000-00000000a001' };
const another = {
  ...account('operator'),
  id: '01900000-0000-7000-8000-00000000a002',
  deviceKey: 'B'.repeat(43),
};
const chosen = {
  id: pack.id,
  title: pack.title,
  variants: [{ id: 'diesel', name: 'Diesel' }],
  stations: [{ id: 'S1', name: '1. Fork arms', parts: 4 }],
  programs: [],
  commandPlaces: [],
};

let server: FakeServer;
beforeEach(async () => {
  server = fakeServer();
  server.answer(practiceRoutes.keptClass, { pack });
  for (const each of [isla, another]) {
    for (const drill of await offlineDrills(each)) await dropDrill(drill.id);
    for (const kept of await keptClasses(each)) await dropClass(each, kept);
  }
});
async function begun() {
  await keepClass(isla, chosen, 'diesel');
  const [kept] = await keptClasses(isla);
  return (await beginOffline(isla, kept!, 'weak', null)).id;
}
/** Works a drill to its end, act by act as the screen does. */
async function worked() {
  const id = await begun();
  const held = await openOffline(isla, id);
  const acts = scriptedDrill(held.pack, held.deal, PERFECT);
  let { drill } = held;
  for (const act of acts) drill = await keepAct(isla, { ...held, drill }, act);
  return { id, acts, score: drillResult(held.pack, held.deal, acts).score };
}

describe('a drill on the device', () => {
  it('opens as it was left, with the same machine, from a class that came through whole', async () => {
    const id = await begun();
    const first = await openOffline(isla, id);
    expect(contentHash(first.pack)).toBe(contentHash(pack));
    await keepAct(isla, first, { kind: 'go', station: first.pack.plan.stations[0]!.id });
    const again = await openOffline(isla, id);
    expect(again.deal).toEqual(first.deal);
    expect(again.drill.acts).toHaveLength(1);
    expect(hasEnded(again.drill)).toBe(false);
  });

  it('is nothing to another person on the same device', async () => {
    const { id } = await worked();
    expect(await keptClasses(another)).toEqual([]);
    expect(await offlineDrills(another)).toEqual([]);
    await expect(openOffline(another, id)).rejects.toThrow(/not on this device/);
    expect(await bringDrills(another)).toBe(0);
    expect(server.asked(practiceRoutes.bringDrill)).toEqual([]);
  });

  it('is brought in once it has ended, with its acts and what it came to, and then is gone from here', async () => {
    await begun();
    const { id, acts, score } = await worked();
    server.answer(practiceRoutes.bringDrill, { id, score });
    expect(await bringDrills(isla)).toBe(1);
    expect(server.asked(practiceRoutes.bringDrill).map((each) => each.body)).toEqual([
      expect.objectContaining({ id, acts, score, form: 'weak', packHash: pack.hash }),
    ]);
    expect((await offlineDrills(isla)).map((each) => each.id)).not.toContain(id);
    expect(await bringDrills(isla)).toBe(0);
  });

  it('waits as long as there is no server, and says why where the server will not have it', async () => {
    const { id } = await worked();
    server.goOffline(true);
    expect(await bringDrills(isla)).toBe(0);
    server.goOffline(false);
    expect((await offlineDrills(isla))[0]).toMatchObject({ id, refused: null });
    server.answer(practiceRoutes.bringDrill, () => {
      throw new Refusal('drill-act', 'These acts come to another score.');
    });
    expect(await bringDrills(isla)).toBe(0);
    expect((await offlineDrills(isla))[0]!.refused).toContain('another score');
    const asked = server.asked(practiceRoutes.bringDrill).length;
    await bringDrills(isla);
    expect(server.asked(practiceRoutes.bringDrill)).toHaveLength(asked);
  });

  it('that was ended still reaches the server when its class is taken off; one that was not says so', async () => {
    const open = await begun();
    const { id, score } = await worked();
    for (const kept of await keptClasses(isla)) await dropClass(isla, kept);
    await expect(openOffline(isla, open)).rejects.toThrow(/no longer kept/);
    server.answer(practiceRoutes.bringDrill, { id, score });
    expect(await bringDrills(isla)).toBe(1);
  });

  it('does not go on with another revision of its class than it was dealt from', async () => {
    const id = await begun();
    server.answer(practiceRoutes.keptClass, { pack: { ...pack, hash: 'f'.repeat(64) } });
    await keepClass(isla, chosen, 'diesel');
    await expect(openOffline(isla, id)).rejects.toThrow(/kept anew/);
  });
});
