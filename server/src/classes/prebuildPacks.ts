import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readPack } from '@rounds/core/catalogue';
import { digest, shippedFiles } from './shippedPacks';

/**
 * Run from the bundle once it is built: reads the shipped packs and leaves them beside it, so that a fresh
 * start need not. They are read anew when a file or this reader itself has changed.
 */
const reader = fileURLToPath(import.meta.url);
const dist = dirname(reader);
const target = join(dist, 'packs.json');
const files = shippedFiles(join(dist, '..', '..', 'packs'));
const state = digest([readFileSync(reader, 'utf8'), ...files.map((each) => each.source)].join('\0'));

function before(): string | null {
  if (!existsSync(target)) return null;
  try {
    return (JSON.parse(readFileSync(target, 'utf8')) as { state?: string }).state ?? null;
  } catch {
    return null;
  }
}

if (before() !== state) {
  const packs = Object.fromEntries(
    files.flatMap(({ source }) => {
      const { pack } = readPack(source);
      return pack ? [[digest(source), pack] as const] : [];
    }),
  );
  writeFileSync(`${target}.${process.pid}`, JSON.stringify({ state, packs }));
  renameSync(`${target}.${process.pid}`, target);
}
