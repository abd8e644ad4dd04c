import { readFileSync } from 'node:fs';
import { readPack, type Pack } from './catalogue';

/** The forklift pack as shipped, for tests. */
export function forkliftPack(): Pack {
  const reading = readPack(readFileSync(new URL('../../packs/counterbalance-forklift.yaml', import.meta.url), 'utf8'));
  if (!reading.pack) throw new Error(reading.errors.map((each) => `${each.line}: ${each.message}`).join('\n'));
  return reading.pack;
}
