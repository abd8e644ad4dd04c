import { type Gauge, type Grade, type GradedReading, gradeReading } from '../catalogue';
import { fromReader, onScale, readerStep, readerUnit, toReader, type UnitSystem } from './units';
import { gainPercent, lossPercent, sharePercent } from './wear';

/** What was read off: a figure, and what it was when new or ought to be where the quantity is worked out from both. */
export interface Reading {
  system: UnitSystem;
  /** In the reader's unit. */
  measured: number;
  whole: number | null;
}

const WORKED = { loss: lossPercent, gain: gainPercent, share: sharePercent } as const;
/** How finely a gauge is read that does not say. */
const USUAL_STEP = 0.1;
/** Steps to either side of a limit in which readings are drawn. */
const NEAR = 4;

/** Unit in which a gauge is read, in the metric system. */
const ownUnit = (gauge: Gauge): string => gauge.worked?.unit ?? gauge.unit;

/** The gauge's quantity from a reading, in the gauge's unit. */
export function quantityOf(gauge: Gauge, { system, measured, whole }: Reading): number {
  const value =
    gauge.worked && whole !== null
      ? WORKED[gauge.worked.as](whole, measured)
      : fromReader(measured, gauge.unit, system);
  // A reading on a limit is on it, whatever binary fractions make of it.
  return Number(value.toFixed(9));
}

/** The grade of a reading. Throws RangeError where the gauge is worked out and nothing says from what. */
export function gradeOfReading(gauge: Gauge, reading: Reading): GradedReading {
  if (gauge.worked && reading.whole === null)
    throw new RangeError(`${gauge.quantity} is worked out from the figure when ${gauge.worked.name}`);
  return gradeReading(gauge, quantityOf(gauge, reading));
}

/** A reading as a reader has it before them: names, figures on the scale, unit. */
export function readingLines(
  gauge: Gauge,
  { system, measured, whole }: Reading,
): { name: string; says: string }[] {
  const unit = readerUnit(ownUnit(gauge), system);
  const said = (value: number) => `${String(value).replace('-', '\u2212')} ${unit}`.trim();
  return gauge.worked && whole !== null
    ? [
        { name: `${gauge.worked.what}, ${gauge.worked.name}`, says: said(whole) },
        { name: `${gauge.worked.what}, measured`, says: said(measured) },
      ]
    : [{ name: gauge.quantity, says: said(measured) }];
}

/** Every reading on the reader's scale within a few steps of a limit, with its grade; each once. */
export function readingsNearLimits(gauge: Gauge, system: UnitSystem): (Reading & { grade: Grade })[] {
  const { worked } = gauge;
  const unit = ownUnit(gauge);
  const step = readerStep(gauge.step ?? USUAL_STEP, unit, system);
  const limits = [...(gauge.rising ?? []), ...(gauge.falling ?? [])].map((each) => each.at);
  const wholes = worked ? worked.whole.map((each) => onScale(toReader(each, unit, system), step)) : [null];
  const found = new Map<string, Reading & { grade: Grade }>();
  for (const whole of wholes)
    for (const at of limits) {
      const centre = whole === null ? toReader(at, gauge.unit, system) : fromPercent(worked!.as, whole, at);
      for (let k = -NEAR; k <= NEAR; k++) {
        const measured = onScale(centre + k * step, step);
        // Nothing grows by wear, shrinks by stretch or measures less than nothing; a level may lie below its mark.
        const possible =
          (measured >= 0 || gauge.kind === 'level') &&
          (whole === null ||
            (worked!.as === 'loss' ? measured <= whole : worked!.as === 'gain' ? measured >= whole : true));
        if (!possible) continue;
        const reading = { system, measured, whole };
        found.set(`${whole} ${measured}`, { ...reading, grade: gradeOfReading(gauge, reading).grade });
      }
    }
  return [...found.values()];
}

/** The measured figure at which a worked quantity is so many per cent. */
function fromPercent(as: keyof typeof WORKED, whole: number, percent: number): number {
  const part = (whole * percent) / 100;
  return as === 'share' ? part : as === 'loss' ? whole - part : whole + part;
}
