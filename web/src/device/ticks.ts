import { v7 as uuidv7 } from 'uuid';

const run = uuidv7();

/**
 * Seconds by a clock that nobody sets, with the run of this page that they count in: what lies between two of one
 * run is known, whatever happens to the clock of the device.
 */
export function ticksNow(): { run: string; s: number } {
  return { run, s: Math.round(performance.now()) / 1000 };
}
