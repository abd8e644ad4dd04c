import { type Evidence, EVIDENCE_KINDS, paramsSchema } from '../drawing/evidence';
import type { Checkpoint, Fault, Gauge, Pack } from './schema';
import type { Method } from './vocabulary';

/**
 * The drawing of a check by a method: of a fault, where one is given. Null where the class has none, or where the fault
 * shows itself to that method by what no drawing can carry.
 */
export function evidenceOf(check: Checkpoint, fault: Fault | null, method: Method): Evidence | null {
  const own = check.evidence;
  const sound = own && { kind: own.kind, params: { ...own.sound, ...own.by?.[method] } };
  const cues = fault?.cues.filter((each) => each.method === method) ?? [];
  if (cues.length === 0) return sound ?? null;
  const drawing = cues.find((each) => each.drawing)?.drawing;
  if (!drawing) return null;
  if (drawing.kind && drawing.kind !== own?.kind) return { kind: drawing.kind, params: drawing.params };
  return sound ? { kind: sound.kind, params: { ...sound.params, ...drawing.params } } : null;
}

/** Which parameter of a drawing is the figure of which kind of gauge, and in what it is a share where it is one. */
export const GAUGED: Readonly<Record<string, Readonly<Record<string, { is: Gauge['kind']; of?: string }>>>> =
  {
    belt: { deflection: { is: 'deflection' } },
    battery: { charge: { is: 'charge' } },
    blade: { left: { is: 'wear' } },
    chain: { elongation: { is: 'elongation' } },
    fork: { wear: { is: 'wear' }, tips: { is: 'deflection' }, spread: { is: 'ratio' } },
    hook: { opening: { is: 'opening' }, twist: { is: 'twist' } },
    rope: { broken: { is: 'broken-wires' }, loss: { is: 'wear' } },
    tyre: { tread: { is: 'tread' }, bar: { is: 'pressure', of: 'wanted' } },
  };

type Params = Readonly<Record<string, unknown>>;

/** A gauge's quantity as a drawing has it, of what its figure is; null where it has none. */
export function drawnQuantity(kind: string, key: string, params: Params): number | null {
  const figure = params[key];
  if (typeof figure !== 'number') return null;
  const of = GAUGED[kind]?.[key]?.of;
  if (of === undefined) return figure;
  const whole = params[of];
  return typeof whole === 'number' && whole > 0 ? (100 * figure) / whole : null;
}

const twoPlaces = (value: number): number => Math.round(100 * value) / 100;

/**
 * A part drawn with a reading of one of its gauges: the sound part but for that figure, and for what it was when new or
 * ought to be where that is `whole`, in the gauge's own unit. Null where no parameter of its
 * drawing is that figure, or it cannot be drawn so.
 */
export function readingEvidence(
  check: Checkpoint,
  gauge: Gauge,
  value: number,
  whole: number | null = null,
): Evidence | null {
  const own = check.evidence;
  const kind = own && EVIDENCE_KINDS.get(own.kind);
  const [key, figure] =
    Object.entries(GAUGED[own?.kind ?? ''] ?? {}).find(([, each]) => each.is === gauge.kind) ?? [];
  if (!own || !kind || !key || !figure) return null;
  const { of } = figure;
  const wanted = of === undefined ? null : (whole ?? Number(own.sound[of]));
  const drawn = wanted === null ? value : (value * wanted) / 100;
  const params = {
    ...own.sound,
    ...(of === undefined ? {} : { [of]: twoPlaces(wanted!) }),
    [key]: twoPlaces(drawn),
  };
  return paramsSchema(kind).safeParse(params).success ? { kind: own.kind, params } : null;
}

/** Methods that look at a part, whatever else may be wrong with it. */
const LOOKING: readonly Method[] = ['look', 'read', 'measure'];

/**
 * What a method shows of a part as a drawing: nothing for a method that no drawing of this check speaks to, as a noise
 * or a smell, so that it never tells more than that sense does.
 */
export function shownEvidence(
  pack: Pick<Pack, 'faults'>,
  check: Checkpoint,
  fault: Fault | null,
  method: Method,
): Evidence | null {
  const speaks =
    LOOKING.includes(method) ||
    check.evidence?.by?.[method] !== undefined ||
    pack.faults.some(
      (each) => each.checkpoint === check.id && each.cues.some((cue) => cue.method === method && cue.drawing),
    );
  return speaks ? evidenceOf(check, fault, method) : null;
}

/** Whether a method gives figures, which then stand below what it shows. */
export const givesFigures = (method: Method): boolean => method === 'measure' || method === 'read';

/** A fault as it shows itself to the first of its cues that has a drawing; null where none has. */
export function faultEvidence(
  check: Checkpoint,
  fault: Fault,
): { evidence: Evidence; figures: boolean } | null {
  const method = fault.cues.find((each) => each.drawing)?.method;
  const evidence = method ? evidenceOf(check, fault, method) : null;
  return method && evidence ? { evidence, figures: givesFigures(method) } : null;
}
