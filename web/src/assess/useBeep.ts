/** Tones without a file: two rising ones for a wait that is over, one low and long for a limit that is passed. */
export function useBeep(): (what: 'reached' | 'passed') => void {
  let context: AudioContext | null = null;
  return (what) => {
    context ??= new AudioContext();
    const tones: [hertz: number, from: number, to: number][] =
      what === 'reached'
        ? [
            [660, 0, 0.15],
            [880, 0.18, 0.35],
          ]
        : [[220, 0, 0.6]];
    for (const [hertz, from, to] of tones) {
      const tone = context.createOscillator();
      const volume = context.createGain();
      tone.frequency.value = hertz;
      volume.gain.value = 0.2;
      tone.connect(volume).connect(context.destination);
      tone.start(context.currentTime + from);
      tone.stop(context.currentTime + to);
    }
  };
}
