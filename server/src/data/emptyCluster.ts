import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, sep } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));
const bundled = here.split(sep).at(-1) === 'dist';
/** The package does not export what says its version; it lies beside what it exports. */
const packageFile = join(
  dirname(createRequire(import.meta.url).resolve('@electric-sql/pglite')),
  '..',
  'package.json',
);
const { version } = JSON.parse(readFileSync(packageFile, 'utf8')) as { version: string };

/** Where the build leaves the files of an empty database of this version of PGlite. */
export const CLUSTER_FILE = join(bundled ? here : join(here, '..', '..', 'dist'), `cluster-${version}.tar`);

/**
 * What a new PGlite begins from: the files of an empty database, made once when the application is built, which takes
 * a fraction of the time of making them anew. Nothing where the build left none.
 */
export function emptyCluster(): { loadDataDir?: Blob } {
  return existsSync(CLUSTER_FILE) ? { loadDataDir: new Blob([readFileSync(CLUSTER_FILE)]) } : {};
}
