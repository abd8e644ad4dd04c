import { conditionIn, type EffectivePack, METHOD_WORDS } from '../catalogue';
import { walkingOrder } from '../round';
import { capital } from '../text';

/** One thing to say aloud: a check or a step, with what belongs to it. */
export interface SpokenLine {
  /** Id of the check or step. */
  id: string;
  /** Where it belongs: the station or the procedure. */
  over: string;
  says: string;
  details: { label: string; text: string }[];
  critical: boolean;
}

/** The round in walking order, a check at a time: the part, then what a sound one shows to each method. */
export function spokenRound(pack: EffectivePack): SpokenLine[] {
  const condition = (id: string) => conditionIn(pack, id);
  return walkingOrder(pack).flatMap(({ station, order, checks }) =>
    checks
      .filter((each) => each.station === station.id)
      .map((check) => ({
        id: check.id,
        over: `${order}. ${station.name}`,
        says: check.part,
        details: [
          ...(check.when.length > 0
            ? [{ label: 'When', text: capital(check.when.map(condition).join(', ')) }]
            : []),
          ...check.methods.flatMap((method) => {
            const text = check.appears[method];
            return text ? [{ label: METHOD_WORDS[method], text }] : [];
          }),
        ],
        critical: check.weight === 5,
      })),
  );
}

/** A procedure in the order it is written, a step at a time. Empty for a procedure the class does not have. */
export function spokenProcedure(pack: EffectivePack, id: string): SpokenLine[] {
  const procedure = pack.procedures.find((each) => each.id === id);
  if (!procedure) return [];
  return procedure.steps.map((step, i) => ({
    id: step.id,
    over: `${procedure.title}, ${i + 1} of ${procedure.steps.length}`,
    says: step.do,
    details: [
      ...(step.timing ? [{ label: 'Time', text: capital(step.timing.says) }] : []),
      ...(step.why ? [{ label: 'Why', text: step.why }] : []),
      ...(step.ifFails ? [{ label: 'If not', text: step.ifFails }] : []),
    ],
    critical: step.critical,
  }));
}
