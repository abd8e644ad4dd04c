/** How a reader measures: in the metric system, or in inches and pounds. */
export const UNIT_SYSTEMS = ['si', 'us'] as const;
export type UnitSystem = (typeof UNIT_SYSTEMS)[number];

interface Counterpart {
  unit: string;
  /** In the other unit = value x factor + offset. */
  factor: number;
  offset: number;
  /** Steps in which the other unit is read. */
  steps: readonly number[];
}

const FINE = [0.001, 0.005, 0.01, 0.02, 0.05, 0.1, 0.5];
const WHOLE = [0.1, 0.5, 1, 2, 5, 10];

/** Exact by definition: the inch is 25.4 mm, the pound 0.45359237 kg, standard gravity 9.80665 m/s² (SI Brochure; NIST SP 811). */
const US: Readonly<Record<string, Counterpart>> = {
  mm: { unit: 'in', factor: 1 / 25.4, offset: 0, steps: FINE },
  cm: { unit: 'in', factor: 1 / 2.54, offset: 0, steps: FINE },
  m: { unit: 'ft', factor: 1 / 0.3048, offset: 0, steps: WHOLE },
  bar: { unit: 'psi', factor: 100_000 / 6894.757293168361, offset: 0, steps: WHOLE },
  kPa: { unit: 'psi', factor: 1000 / 6894.757293168361, offset: 0, steps: WHOLE },
  '°C': { unit: '°F', factor: 1.8, offset: 32, steps: WHOLE },
};

/** A unit as a reader has it; the same where both systems share it. */
export const readerUnit = (unit: string, system: UnitSystem): string =>
  system === 'us' ? (US[unit]?.unit ?? unit) : unit;

/** A figure in the reader's unit. */
export function toReader(value: number, unit: string, system: UnitSystem): number {
  const other = system === 'us' ? US[unit] : undefined;
  return other ? value * other.factor + other.offset : value;
}

/** A figure of the reader's back in the unit itself. */
export function fromReader(value: number, unit: string, system: UnitSystem): number {
  const other = system === 'us' ? US[unit] : undefined;
  return other ? (value - other.offset) / other.factor : value;
}

/** How finely a reader reads what is read so finely in the unit itself. */
export function readerStep(step: number, unit: string, system: UnitSystem): number {
  const other = system === 'us' ? US[unit] : undefined;
  if (!other) return step;
  const wanted = step * other.factor;
  return other.steps.find((each) => each >= wanted * 0.75) ?? other.steps.at(-1)!;
}

/** A figure that lies on a reader's scale, without the dust of binary fractions. */
export const onScale = (value: number, step: number): number =>
  Number((Math.round(value / step) * step).toPrecision(12));
