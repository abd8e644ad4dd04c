import type { ToneName } from '@rounds/core/machine';
import type { NoiseType, ToneOscillatorType } from 'tone';

/** How a sound is made: what sounds, through what, and how it beats. Figures are ours, fitted by ear. */
export interface Voice {
  waves?: readonly { type: ToneOscillatorType; hz: number }[];
  noise?: NoiseType;
  through?: { type: 'lowpass' | 'highpass' | 'bandpass'; hz: number };
  /** So often a second it swells, or breaks off altogether. */
  beat?: { hz: number; hard?: boolean };
  /** It dies away by itself after so many seconds. */
  once?: number;
  /** Loudness beside the others, in decibels. */
  decibels?: number;
}

export const VOICES: Readonly<Record<ToneName, Voice>> = {
  engine: {
    waves: [
      { type: 'sawtooth', hz: 48 },
      { type: 'sawtooth', hz: 72.5 },
    ],
    through: { type: 'lowpass', hz: 320 },
    beat: { hz: 13 },
  },
  rough: {
    waves: [
      { type: 'sawtooth', hz: 41 },
      { type: 'square', hz: 62 },
    ],
    through: { type: 'lowpass', hz: 420 },
    beat: { hz: 4.3, hard: true },
  },
  starter: {
    waves: [{ type: 'sawtooth', hz: 128 }],
    through: { type: 'lowpass', hz: 900 },
    beat: { hz: 8 },
  },
  horn: {
    waves: [
      { type: 'square', hz: 392 },
      { type: 'square', hz: 494 },
    ],
    through: { type: 'lowpass', hz: 1800 },
  },
  alarm: { waves: [{ type: 'square', hz: 1180 }], beat: { hz: 1.2, hard: true }, decibels: -6 },
  buzzer: { waves: [{ type: 'square', hz: 440 }], through: { type: 'lowpass', hz: 2400 }, decibels: -4 },
  beep: { waves: [{ type: 'sine', hz: 1600 }], once: 0.25 },
  hiss: { noise: 'white', through: { type: 'highpass', hz: 3500 }, decibels: -8 },
  squeal: { waves: [{ type: 'sawtooth', hz: 2350 }], beat: { hz: 6 }, decibels: -12 },
  clang: {
    waves: [
      { type: 'triangle', hz: 523 },
      { type: 'triangle', hz: 1371 },
      { type: 'triangle', hz: 2210 },
    ],
    once: 1.2,
  },
  knock: { noise: 'brown', through: { type: 'bandpass', hz: 240 }, beat: { hz: 5, hard: true }, decibels: 6 },
  whirr: { waves: [{ type: 'triangle', hz: 210 }], noise: 'pink', through: { type: 'lowpass', hz: 1100 } },
  click: { noise: 'white', through: { type: 'bandpass', hz: 1900 }, once: 0.06 },
};
