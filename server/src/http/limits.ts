import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Store } from '../data/database';
import { ProblemError } from './problem';

/**
 * Wrong passwords for one name from one address, in ten minutes. Others who know the name are not shut out
 * by it.
 */
const WRONG_PASSWORDS = 8;
/** Wrong passwords from one address, in ten minutes, whatever the name. */
const ATTEMPTS_OF_ADDRESS = 60;
/** Wrong codes of rooms from one address, in ten minutes: a class mistypes, and nobody tries 200 million. */
const WRONG_GUESSES = 60;
const MINUTES = 10;

/**
 * A refusal of the limiter. `isFirst` for the one that shuts the door, so that those after it need no audit
 * line each.
 */
export class TooManyAttempts extends ProblemError {
  constructor(
    detail: string,
    readonly isFirst: boolean,
  ) {
    super('too-many-attempts', detail);
  }
}

/**
 * Counters that all processes on one database share. An attempt is counted before it is looked at, so that
 * many at once gain nothing.
 */
export interface Limits {
  /**
   * Counts an attempt to prove who one is: by name and address, and by address alone. Throws the
   * too-many-attempts problem.
   */
  attempt(name: string, address: string): Promise<void>;
  /** Forgets the attempts of a name from an address, which has proved itself. */
  proved(name: string, address: string): Promise<void>;
  /**
   * Throws the too-many-attempts problem where an address has guessed wrong too often. Right guesses count for nothing,
   * so that a whole class behind one address comes in at once.
   */
  mayGuess(what: string, address: string): Promise<void>;
  /** Counts a wrong guess. */
  guessed(what: string, address: string): Promise<void>;
  /** Forgets every address's attempts of a name. */
  unlock(name: string): Promise<void>;
}

/** The limiter on the store's own table. */
export function limitsOn(store: Store): Limits {
  const storeClient = {
    query: ({ text, values }: { text: string; values: unknown[] }) => store.query(text, values),
  };
  const limiter = (keyPrefix: string, points: number) =>
    new RateLimiterPostgres({
      storeClient,
      storeType: 'client',
      tableName: 'rate_limit',
      tableCreated: true,
      keyPrefix,
      points,
      duration: MINUTES * 60,
      clearExpiredByTimeout: false,
    });
  const ofName = limiter('name', WRONG_PASSWORDS);
  const guesses = limiter('guess', WRONG_GUESSES);
  const ofAddress = limiter('address', ATTEMPTS_OF_ADDRESS);
  const key = (name: string, address: string) => `${name.slice(0, 120)}|${address.slice(0, 60)}`;
  const count = async (by: RateLimiterPostgres, subject: string, whose: string) => {
    try {
      await by.consume(subject);
    } catch (refusal) {
      if (!(refusal instanceof RateLimiterRes)) throw refusal;
      const minutes = Math.max(1, Math.ceil(refusal.msBeforeNext / 60_000));
      throw new TooManyAttempts(
        `Too many attempts ${whose}. Wait ${minutes} ` +
          `${minutes === 1 ? 'minute' : 'minutes'}, or ask the administrator for a ` +
          'new password.',
        refusal.consumedPoints === by.points + 1,
      );
    }
  };
  return {
    async attempt(name, address) {
      // What the limit of one name stops does not use up the address, which others may share.
      await count(ofName, key(name, address), 'for this name');
      await count(ofAddress, address, 'from this address');
    },
    async proved(name, address) {
      await ofName.delete(key(name, address));
      await ofAddress.reward(address);
    },
    async mayGuess(what, address) {
      const found = await guesses.get(key(what, address));
      if (found && found.consumedPoints >= WRONG_GUESSES)
        throw new TooManyAttempts('Too many wrong codes from this address. Wait ten minutes.', false);
    },
    async guessed(what, address) {
      await guesses.penalty(key(what, address));
    },
    async unlock(name) {
      await store.query('delete from rate_limit where starts_with(key, $1) or expire < $2', [
        `name:${name.slice(0, 120)}|`,
        Date.now() - 3_600_000,
      ]);
    },
  };
}
