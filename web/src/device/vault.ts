import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { randomBytes } from '@noble/ciphers/utils.js';

/**
 * What an account's key seals; only the same key opens it (XChaCha20-Poly1305; works over plain HTTP too,
 * where the browser's own has none).
 */
export type Sealed = Uint8Array;

const NONCE = 24;

/** The key of an account as its session gives it: base64url, 32 bytes. */
export function readKey(text: string): Uint8Array {
  const bytes = Uint8Array.from(atob(text.replace(/-/g, '+').replace(/_/g, '/')), (each) =>
    each.charCodeAt(0),
  );
  if (bytes.length !== 32) throw new RangeError('a device key has 32 bytes');
  return bytes;
}

/** Seals a plain value under a key. */
export function seal(key: Uint8Array, value: unknown): Sealed {
  const nonce = randomBytes(NONCE);
  const text = xchacha20poly1305(key, nonce).encrypt(new TextEncoder().encode(JSON.stringify(value)));
  const sealed = new Uint8Array(NONCE + text.length);
  sealed.set(nonce);
  sealed.set(text, NONCE);
  return sealed;
}

/** Opens what `seal` sealed under the same key. Throws for another key or a damaged value. */
export function unseal<T>(key: Uint8Array, sealed: Sealed): T {
  const text = xchacha20poly1305(key, sealed.subarray(0, NONCE)).decrypt(sealed.subarray(NONCE));
  return JSON.parse(new TextDecoder().decode(text)) as T;
}
