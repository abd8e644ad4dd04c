import { existsSync, renameSync, writeFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { CLUSTER_FILE } from './emptyCluster';

/** Run from the bundle once it is built: leaves the files of an empty database beside it. */
if (!existsSync(CLUSTER_FILE)) {
  const client = await PGlite.create();
  const files = await client.dumpDataDir('none');
  await client.close();
  writeFileSync(`${CLUSTER_FILE}.${process.pid}`, Buffer.from(await files.arrayBuffer()));
  renameSync(`${CLUSTER_FILE}.${process.pid}`, CLUSTER_FILE);
}
