import type { EffectivePack, Grade, Method, System } from '../catalogue';
import type { EvaluationRecord } from '../evaluation';
import { observedRound } from '../evaluation';
import { analyseRound, namedMethod } from '../round';

/** A check that was to be made in an evaluation. */
export interface ObservedPart {
  checkpoint: string;
  part: string;
  system: System;
  /** The method that it takes. */
  method: Method;
  result: 'done' | 'prompted' | 'missed';
}

/** A planted fault, whether it was found, and how it was graded. */
export interface ObservedFault {
  fault: string;
  title: string;
  checkpoint: string;
  part: string;
  system: System;
  /** The method that shows it. */
  method: Method;
  found: 'found' | 'prompted' | 'missed';
  key: Grade;
  given: Grade | null;
}

/** What an evaluation says of the one who was evaluated, as it is counted over many. */
export interface Observation {
  checks: ObservedPart[];
  faults: ObservedFault[];
}

/** What is counted of an evaluation whose round was walked. Checks that were never tapped count as missed. */
export function observe(pack: EffectivePack, record: EvaluationRecord): Observation {
  const round = observedRound(pack, record);
  const analysis = analyseRound(pack, round, record.planted, []);
  const omitted = new Set(analysis.coverage.omitted.map((each) => each.id));
  const prompted = new Set(analysis.coverage.promptedCheckpoints.map((each) => each.id));
  const byId = new Map(pack.checkpoints.map((each) => [each.id, each]));
  return {
    checks: pack.checkpoints.map((each) => ({
      checkpoint: each.id,
      part: each.part,
      system: each.system,
      method: namedMethod(pack, each),
      result: omitted.has(each.id) ? 'missed' : prompted.has(each.id) ? 'prompted' : 'done',
    })),
    // A planted lookalike is not there to be found.
    faults: analysis.detection.planted
      .filter((each) => each.key !== 'sound')
      .flatMap(({ fault, found, key, grade }) => {
        const check = byId.get(fault.checkpoint);
        if (!check) return [];
        const cue = fault.cues.find((each) => check.methods.includes(each.method));
        return [
          {
            fault: fault.id,
            title: fault.title,
            checkpoint: check.id,
            part: check.part,
            system: check.system,
            method: cue?.method ?? namedMethod(pack, check),
            found,
            key,
            given: grade,
          },
        ];
      }),
  };
}
