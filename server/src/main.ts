import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { localDate } from '@rounds/core/calendar';
import type { Pack } from '@rounds/core/catalogue';
import { demoOrganisation } from '@rounds/demo';
import { count } from 'drizzle-orm';
import { pino } from 'pino';
import { DEMO_PASSWORD } from './accounts/routes';
import { application } from './application';
import { standingsToday } from './certification/standings';
import {
  noteShipped,
  type BuiltPacks,
  readShipped,
  shippedFiles,
  type ShippedFile,
  takeUpShipped,
} from './classes/shippedPacks';
import { openHouse, readSetting } from './data/context';
import { openStore } from './data/database';
import { account } from './data/schema';
import { causeOf } from './http/binder';
import { listen } from './http/serve';
import { seedDemo } from './seedDemo';

/** Hours between dumps of the embedded database while it runs. */
const BACKUP_HOURS = 6;

/** The project's root: two folders up from server/src and from server/dist alike. */
const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');

const leftOut = (classId: string, line: number, message: string) =>
  console.error(`packs/${classId}.yaml is not sound and was left out: ${message} (line ${line})`);

/** The packs that were read when the server was built; none when it runs from its sources. */
function builtPacks(): BuiltPacks {
  const file = join(root, 'server', 'dist', 'packs.json');
  return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as { packs: BuiltPacks }).packs : {};
}

function soundPacks(files: readonly ShippedFile[], built: BuiltPacks): Pack[] {
  return files.flatMap((file) => {
    const { pack, errors } = readShipped(file, built);
    if (pack) return [pack];
    leftOut(file.classId, errors[0]!.line, errors[0]!.message);
    return [];
  });
}

async function main(): Promise<void> {
  // What is written here is nobody else's to read.
  process.umask(0o077);
  const demo = process.argv.includes('--demo');
  const directory = process.env['ROUNDS_DATA'] ?? join(root, '.data', demo ? 'demo' : 'main');
  const log = pino({ level: process.env['ROUNDS_LOG'] ?? (demo ? 'warn' : 'info') });
  const begun = performance.now();
  const store = await openStore({
    url: process.env['DATABASE_URL'],
    directory,
    migrations: join(root, 'server', 'migrations'),
  });
  const house = openHouse(store, {
    demo,
    publicUrl: process.env['PUBLIC_URL'] ?? null,
    metricsToken: process.env['ROUNDS_METRICS_TOKEN'] ?? null,
  });

  const files = shippedFiles(join(root, 'packs'));
  const made = await readSetting<{ made: boolean } | null>(house.db, 'demo', null);
  const [accounts] = await house.db.select({ n: count() }).from(account);
  if (demo && !made) {
    if ((accounts?.n ?? 0) > 0)
      throw new Error(
        `The data in ${store.place} is not a demo. Give the demo its own directory with ROUNDS_DATA.`,
      );
    console.log('Making the demo organisation (once) ...');
    const packs = soundPacks(files, builtPacks());
    const today = localDate(new Date().toISOString(), 'Europe/London');
    await seedDemo(house.db, demoOrganisation(today, packs), packs, today);
    await noteShipped(house.db, files);
  } else if (!demo && made)
    throw new Error(
      `The data in ${store.place} is the demo, whose passwords are public. Start it with ` +
        'npm run demo, or give another directory with ROUNDS_DATA.',
    );

  const { published, unsound } = await takeUpShipped(house.db, files, builtPacks());
  for (const each of unsound) leftOut(each.classId, each.line, each.message);
  if (accounts?.n && published.length > 0)
    console.log(`Newer class content taken in: ${published.join(', ')}`);
  await standingsToday(house);

  const webRoot = join(root, 'web', 'dist');
  if (!existsSync(join(webRoot, 'index.html')))
    console.error('The web app is not built; run npm run build. Serving the API only.');
  const listening = await listen(
    application(house, { webRoot, log }),
    Number(process.env['PORT'] ?? 4600),
    !process.env['PORT'],
    process.env['HOST'] ?? '127.0.0.1',
  );
  store.announce?.({ address: listening.address, secret: house.controlSecret });
  console.log(
    `Rounds is ready at ${listening.address} after ` +
      `${((performance.now() - begun) / 1000).toFixed(1)} s (data: ${store.place})`,
  );
  if (demo)
    console.log(
      'Sign in as hilda (trainer), isla (operator), gordon (supervisor), viktor (workshop) ' +
        `or una (administrator); password: ${DEMO_PASSWORD}`,
    );
  else if ((accounts?.n ?? 0) === 0)
    console.log('First start: open the address to create the administrator.');

  const backup = (note: string) =>
    store.backup?.(note).then(
      (file) => console.log(`Backup written: ${file}`),
      (error: unknown) => {
        console.error(error instanceof Error ? error.message : String(error));
        log.error({ cause: causeOf(error) }, 'backup failed');
      },
    );
  const timer = setInterval(() => void backup('timed'), BACKUP_HOURS * 3_600_000);
  timer.unref();
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    clearInterval(timer);
    await house.hub.close();
    await listening.stop();
    await house.pool.close();
    await store.close();
    console.log('Stopped; everything is saved.');
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  if (process.env['ROUNDS_LOG'] === 'debug') console.error(error);
  process.exit(1);
});
