import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentHash, type Pack, packDifferences, type PackReading, readPack } from '@rounds/core/catalogue';
import { desc, eq } from 'drizzle-orm';
import { readSetting, writeSetting } from '../data/context';
import type { Database } from '../data/database';
import { packRevision } from '../data/schema';
import { holdClass, nextRevision, publishedPack, publishPack } from './packs';

/** A pack file that ships with the product. */
export interface ShippedFile {
  classId: string;
  source: string;
}

const SETTING = 'shipped-packs';
const NOTE = 'came with a newer version of Rounds';

/** The pack files in a folder, each named after its class. */
export function shippedFiles(folder: string): ShippedFile[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => ({
      classId: name.replace(/\.yaml$/, ''),
      source: readFileSync(join(folder, name), 'utf8'),
    }));
}

/** What a pack file is known by. */
export const digest = (source: string) => createHash('sha256').update(source).digest('hex');

/** Packs that were read when the server was built, by the digest of their file. */
export type BuiltPacks = Readonly<Record<string, Pack>>;

/** A shipped file as a pack: as it was read at the build, or read now where it has changed since. */
export function readShipped({ source }: ShippedFile, built: BuiltPacks): PackReading {
  const pack = built[digest(source)];
  return pack ? { pack, errors: [] } : readPack(source);
}

/** Notes which pack files this installation has taken in, so that they are not read again at the next start. */
export async function noteShipped(db: Database, files: readonly ShippedFile[]): Promise<void> {
  const known = await readSetting<Record<string, string>>(db, SETTING, {});
  const now = Object.fromEntries(files.map((each) => [each.classId, digest(each.source)]));
  await writeSetting(db, SETTING, { ...known, ...now });
}

/**
 * Takes in the packs that are new in this version of the product. A class that the house has edited, or
 * withdrawn, is left to its editors; one that still says what shipped before gets the new text as its next
 * revision, and what was made with the old one stays as it was. Answers what was published and which files
 * are not sound.
 */
export async function takeUpShipped(
  db: Database,
  files: readonly ShippedFile[],
  built: BuiltPacks = {},
): Promise<{ published: string[]; unsound: { classId: string; message: string; line: number }[] }> {
  const known = await readSetting<Record<string, string>>(db, SETTING, {});
  const published: string[] = [];
  const unsound: { classId: string; message: string; line: number }[] = [];
  const fresh = files.filter((each) => known[each.classId] !== digest(each.source));
  for (const file of fresh) {
    if (await leftToEditors(db, file.classId)) continue;
    const { pack, errors } = readShipped(file, built);
    if (!pack) {
      unsound.push({ classId: file.classId, message: errors[0]!.message, line: errors[0]!.line });
      continue;
    }
    if (await db.transaction((within) => takeUp(within as Database, pack))) published.push(pack.id);
  }
  const broken = new Set(unsound.map((each) => each.classId));
  await noteShipped(
    db,
    fresh.filter((each) => !broken.has(each.classId)),
  );
  return { published, unsound };
}

/** Whether the newest revision of a class was published by somebody here, or the class was withdrawn. */
async function leftToEditors(db: Database, classId: string): Promise<boolean> {
  const [latest] = await db
    .select({ by: packRevision.publishedBy })
    .from(packRevision)
    .where(eq(packRevision.classId, classId))
    .orderBy(desc(packRevision.revision))
    .limit(1);
  if (!latest) return false;
  return latest.by !== null || (await publishedPack(db, classId)) === null;
}

async function takeUp(db: Database, pack: Pack): Promise<boolean> {
  const held = await holdClass(db, pack.id);
  const current = held ? await publishedPack(db, pack.id) : null;
  if (current && (current.hash === contentHash(pack) || packDifferences(current.pack, pack).length === 0))
    return false;
  const revision = Math.max(pack.revision, await nextRevision(db, pack.id));
  await publishPack(db, current ? { ...pack, revision } : pack, {
    accountId: null,
    note: current ? NOTE : '',
  });
  return true;
}
