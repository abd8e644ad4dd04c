import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { localDate } from '@rounds/core/calendar';
import { type Pack, readPack } from '@rounds/core/catalogue';
import { demoOrganisation } from '../demo/src/index';
import {
  application,
  type House,
  listen,
  openHouse,
  openStore,
  publishPack,
  seedDemo,
} from '../server/src/index';

const root = join(import.meta.dirname, '..');

/** The packs of this checkout; throws when one is not sound. */
export function packsOfCheckout(): Pack[] {
  return readdirSync(join(root, 'packs'))
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => {
      const reading = readPack(readFileSync(join(root, 'packs', name), 'utf8'));
      if (!reading.pack) throw new Error(`${name}: ${reading.errors[0]!.message}`);
      return reading.pack;
    });
}

/**
 * A demo (or, with `demo: false`, a new installation) served from this process on a free port, with data in
 * a temporary directory.
 */
export async function startDemo(
  options: { demo?: boolean } = {},
): Promise<{ address: string; house: House; directory: string; stop: () => Promise<void> }> {
  const directory = mkdtempSync(join(tmpdir(), 'rounds-data-'));
  const store = await openStore({ directory, migrations: join(root, 'server', 'migrations') });
  const house = openHouse(store, { demo: options.demo !== false });
  const packs = packsOfCheckout();
  if (options.demo === false) for (const pack of packs) await publishPack(store.db, pack);
  else {
    const today = localDate(new Date().toISOString(), 'Europe/London');
    await seedDemo(store.db, demoOrganisation(today, packs), packs, today);
  }
  const listening = await listen(application(house, { webRoot: join(root, 'web', 'dist') }), 0, false);
  return {
    address: listening.address,
    house,
    directory,
    stop: async () => {
      await listening.stop();
      await house.hub.close();
      await house.pool.close();
      await store.close();
      rmSync(directory, { recursive: true, force: true });
    },
  };
}
