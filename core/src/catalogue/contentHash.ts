import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/**
 * JSON with object keys in order, so that equal content always reads the same; `undefined` members are left
 * out.
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map((each) => canonicalJson(each ?? null)).join(',')}]`;
  if (value !== null && typeof value === 'object')
    return `{${Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
      .map(([key, each]) => `${JSON.stringify(key)}:${canonicalJson(each)}`)
      .join(',')}}`;
  return JSON.stringify(value);
}

/** SHA-256 of the canonical JSON of a value, 64 hexadecimal digits. */
export function contentHash(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(value))));
}
