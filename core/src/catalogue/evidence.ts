import type { Evidence } from '../drawing/evidence';
import type { Checkpoint, Fault, Pack } from './schema';
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
