/**
 * Where a clock reads from: the wall clock, which people and networks set, and one that only ever runs on.
 * Milliseconds.
 */
export interface Sources {
  wall: () => number;
  monotonic: () => number;
}

/** Differences below this are the sources' own unevenness. */
const TOLERANCE = 2000;

/**
 * The time of day for what is recorded. A wall clock set back does not set it back; one that runs ahead or
 * behind is corrected by what the server's answers say. `offset` is what is added to the device's own time.
 */
export class DeviceClock {
  private last: { wall: number; monotonic: number };
  private local: number;
  offset: number;

  constructor(
    private readonly sources: Sources,
    offset = 0,
    private readonly keep: (offset: number) => void = () => undefined,
  ) {
    this.last = { wall: sources.wall(), monotonic: sources.monotonic() };
    this.local = this.last.wall;
    this.offset = offset;
  }

  /** Now, in milliseconds since 1970. */
  now(): number {
    return this.ownTime() + this.offset;
  }

  /**
   * The device's own time: that of the wall clock when the page opened, run on. A tablet that slept wakes
   * with the wall clock ahead.
   */
  private ownTime(): number {
    const wall = this.sources.wall();
    const monotonic = this.sources.monotonic();
    const [byWall, byMonotonic] = [wall - this.last.wall, monotonic - this.last.monotonic];
    this.local += Math.abs(byWall - byMonotonic) < TOLERANCE ? byMonotonic : Math.max(byWall, byMonotonic);
    this.last = { wall, monotonic };
    return this.local;
  }

  /** Takes in the instant that an answer of the server carries, to the second. */
  heard(server: number): void {
    const apart = server - this.ownTime();
    if (Math.abs(apart - this.offset) < TOLERANCE) return;
    this.offset = Math.abs(apart) < TOLERANCE ? 0 : apart;
    this.keep(this.offset);
  }
}

const KEPT = 'rounds-clock';

/** The clock of this page. */
export const clock = new DeviceClock(
  { wall: () => Date.now(), monotonic: () => performance.now() },
  Number(globalThis.localStorage?.getItem(KEPT) ?? 0) || 0,
  (offset) => globalThis.localStorage?.setItem(KEPT, String(offset)),
);
