import { conditionIn, type EffectivePack, type Procedure, type Step } from '../catalogue';
import { type OrderStep, Precedence, StepOrder } from './order';

/** What leaving out a step costs: a default that rests on judgement (common practice). */
export const STEP_WEIGHTS = { critical: 3, other: 1 } as const;

/** A step of a session, with the procedure that it belongs to. */
export interface SessionStep extends Step {
  procedure: string;
  token: string;
  weight: number;
}

/** Procedures of a composed class that are judged together, in the order they are done. */
export interface Session {
  procedures: Procedure[];
  steps: SessionStep[];
  order: StepOrder;
  /** A condition of a step in words. */
  condition: (id: string) => string;
}

/**
 * The steps of one or several procedures of a class as one order. What a step waits for in a procedure that is not
 * among them was done before; order that runs through such steps is kept. Throws RangeError for a procedure that the
 * class, as it is fitted out, does not have.
 */
export function session(
  pack: Pick<EffectivePack, 'procedures'> & Partial<Pick<EffectivePack, 'conditions'>>,
  procedures: readonly string[],
): Session {
  const chosen = procedures.map((id) => {
    const found = pack.procedures.find((each) => each.id === id);
    if (!found) throw new RangeError(`there is no procedure "${id}" in this class as it is fitted out`);
    return found;
  });
  const steps = chosen.flatMap((procedure) =>
    procedure.steps.map((step): SessionStep => ({
      ...step,
      procedure: procedure.id,
      token: step.token ?? step.id,
      weight: step.critical ? STEP_WEIGHTS.critical : STEP_WEIGHTS.other,
    })),
  );
  return {
    procedures: chosen,
    steps,
    order: new StepOrder(withOutside(pack, steps)),
    condition: (id) => conditionIn(pack, id),
  };
}

/** Steps with what they wait for through steps of procedures that are not among them. */
function withOutside(pack: Pick<EffectivePack, 'procedures'>, steps: readonly SessionStep[]): OrderStep[] {
  const inside = new Set(steps.map((each) => each.id));
  const all = pack.procedures.flatMap((each) => each.steps);
  if (!steps.some((each) => each.after.some((id) => typeof id === 'string' && !inside.has(id))))
    return [...steps];
  const place = new Map(all.map((each, i) => [each.id, i]));
  const whole = new Precedence(all.length);
  for (const step of all)
    for (const before of step.after)
      if (typeof before === 'string' && place.has(before)) whole.add(place.get(before)!, place.get(step.id)!);
  return steps.map((step) => ({
    ...step,
    after: [
      ...step.after.filter((each) => typeof each !== 'string' || inside.has(each)),
      ...steps
        .filter((other) => whole.has(place.get(other.id)!, place.get(step.id)!))
        .map((other) => other.id)
        .filter((id) => !step.after.includes(id)),
    ],
  }));
}

/** The forbidden rules that hold in some of these procedures. */
export function rulesOf(
  pack: Pick<EffectivePack, 'forbidden'>,
  procedures: readonly string[],
): EffectivePack['forbidden'] {
  return pack.forbidden.filter(
    (each) => !each.procedures || each.procedures.some((id) => procedures.includes(id)),
  );
}
