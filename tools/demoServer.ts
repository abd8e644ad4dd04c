import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
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
  type Store,
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

/** Names the directory of a demo that was seeded before, to be copied instead of seeding anew. */
const SEEDED = 'ROUNDS_SEEDED_DEMO';
const temporary = () => mkdtempSync(join(tmpdir(), 'rounds-data-'));
const open = (directory: string) => openStore({ directory, migrations: join(root, 'server', 'migrations') });

async function seed(store: Store, packs: Pack[]): Promise<void> {
  const today = localDate(new Date().toISOString(), 'Europe/London');
  await seedDemo(store.db, demoOrganisation(today, packs), packs, today);
}

/** For Vitest: seeds the demo once for all the files of a run, and removes it after them. */
export default async function seedOnce(): Promise<() => void> {
  const directory = temporary();
  const store = await open(directory);
  await seed(store, packsOfCheckout());
  await store.close();
  process.env[SEEDED] = directory;
  return () => rmSync(directory, { recursive: true, force: true });
}

/**
 * A demo (or, with `demo: false`, a new installation) served from this process on a free port, with data in
 * a temporary directory.
 */
export async function startDemo(
  options: { demo?: boolean } = {},
): Promise<{ address: string; house: House; directory: string; stop: () => Promise<void> }> {
  const directory = temporary();
  const demo = options.demo !== false;
  const seeded = demo ? process.env[SEEDED] : undefined;
  if (seeded) cpSync(seeded, directory, { recursive: true });
  const store = await open(directory);
  const house = openHouse(store, { demo });
  if (!seeded) {
    const packs = packsOfCheckout();
    if (demo) await seed(store, packs);
    else for (const pack of packs) await publishPack(store.db, pack);
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
