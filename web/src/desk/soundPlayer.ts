// The parts one by one: the package's own entry opens a worker of a kind that the pages may not open.
import type { ToneName } from '@rounds/core/machine';
import { Volume } from 'tone/build/esm/component/channel/Volume.js';
import { Filter } from 'tone/build/esm/component/filter/Filter.js';
import { Context } from 'tone/build/esm/core/context/Context.js';
import { Gain } from 'tone/build/esm/core/context/Gain.js';
import { setContext, start } from 'tone/build/esm/core/Global.js';
import { dbToGain } from 'tone/build/esm/core/type/Conversions.js';
import { Tremolo } from 'tone/build/esm/effect/Tremolo.js';
import { Noise } from 'tone/build/esm/source/Noise.js';
import { Oscillator } from 'tone/build/esm/source/oscillator/Oscillator.js';
import { VOICES } from './soundVoices';

/** Loudness of everything together, in decibels. */
const LOUDNESS = -16;
/** Seconds in which a sound comes and goes, so that nothing clicks. */
const EASE = 0.05;

/** Makes the sounds of a machine. Throws where the browser gives no sound. */
export async function openPlayer() {
  const context = new Context({ clockSource: 'timeout' });
  setContext(context);
  await start();
  const out = new Volume(LOUDNESS).toDestination();
  const playing = new Map<string, () => void>();

  /** Begins a sound; answers what ends it. */
  function begin(name: ToneName): () => void {
    const { waves = [], noise, through, beat, once, decibels = 0 } = VOICES[name];
    const gain = new Gain(0).connect(out);
    const level = dbToGain(decibels) / Math.max(1, waves.length);
    const filter = through ? new Filter(through.hz, through.type).connect(gain) : null;
    const swell = beat
      ? new Tremolo({
          frequency: beat.hz,
          depth: beat.hard ? 1 : 0.45,
          type: beat.hard ? 'square' : 'sine',
          spread: 0,
        })
          .connect(filter ?? gain)
          .start()
      : null;
    const sources = [
      ...waves.map(({ type, hz }) => new Oscillator(hz, type)),
      ...(noise ? [new Noise(noise)] : []),
    ];
    for (const each of sources) each.connect(swell ?? filter ?? gain).start();
    gain.gain.rampTo(level, EASE);
    if (once !== undefined) gain.gain.exponentialRampTo(0.0001, once, `+${EASE}`);
    return () => {
      gain.gain.cancelScheduledValues(context.now());
      gain.gain.rampTo(0, EASE);
      // Once it is silent nothing of it is needed.
      context.setTimeout(() => {
        for (const each of [...sources, swell, filter, gain]) each?.dispose();
      }, 4 * EASE);
    };
  }

  return {
    /** Lets just these sound, each under a name of its own. */
    play(wanted: ReadonlyMap<string, ToneName>) {
      for (const [id, end] of playing)
        if (!wanted.has(id)) {
          end();
          playing.delete(id);
        }
      for (const [id, name] of wanted) if (!playing.has(id)) playing.set(id, begin(name));
    },
    close() {
      for (const end of playing.values()) end();
      playing.clear();
    },
  };
}
