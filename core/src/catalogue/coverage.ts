import { prerequisites } from './prerequisites';
import type { Pack } from './schema';
import { packRows } from './sections';

/** How complete a pack is: rows by kind, and the rows that want something. */
export interface Coverage {
  classId: string;
  title: string;
  counts: Readonly<
    Record<
      | 'stations'
      | 'checkpoints'
      | 'faults'
      | 'lookalikes'
      | 'procedures'
      | 'steps'
      | 'numbers'
      | 'criteria'
      | 'forbidden'
      | 'schools'
      | 'cautions'
      | 'failures'
      | 'mistakes'
      | 'certification',
      number
    >
  >;
  /** Rows that must say where they come from and do not, or a published one that cites nothing. */
  withoutOrigin: string[];
  /** Faults none of whose cues can be had with a method their check allows. */
  undetectable: string[];
  /** Steps that give no reason. */
  withoutReason: string[];
  /** Steps waiting for a step that is not there. */
  dangling: string[];
}

/** Sections whose rows carry no origin of their own: it stands with the sheet, the pack or the option. */
const WITHOUT_OWN_ORIGIN = new Set([
  'ladder',
  'features',
  'stations',
  'procedures',
  'criteria',
  'criticalErrors',
  'schools',
]);

/** Counts the rows of a pack and lists those that want an origin, a way to be detected, or a reason. */
export function coverage(pack: Pack): Coverage {
  const rows = packRows(pack);
  const steps = pack.procedures.flatMap((each) => each.steps);
  const stepIds = new Set(steps.map((each) => each.id));
  const methods = new Map(pack.checkpoints.map((each) => [each.id, new Set<string>(each.methods)]));
  const count = (section: string) => rows.filter((row) => row.section === section).length;
  const lacksOrigin = (origin: unknown) => {
    const o = origin as { kind?: string; cite?: string } | undefined;
    return !o?.kind || (o.kind === 'published' && !o.cite);
  };
  return {
    classId: pack.id,
    title: pack.title,
    counts: {
      stations: count('stations'),
      checkpoints: count('checkpoints'),
      faults: count('faults'),
      lookalikes: pack.faults.filter((each) => each.grade === 'sound').length,
      procedures: count('procedures'),
      steps: steps.length,
      numbers: count('numbers'),
      criteria: count('criteria'),
      forbidden: count('forbidden'),
      schools: count('schools'),
      cautions: count('cautions'),
      failures: count('failures'),
      mistakes: count('mistakes'),
      certification: count('certification'),
    },
    withoutOrigin: [
      ...rows
        .filter((row) => !WITHOUT_OWN_ORIGIN.has(row.section) && lacksOrigin(row.row['origin']))
        .map((row) => row.id),
      ...(lacksOrigin(pack.plan.origin) ? ['plan'] : []),
      ...(lacksOrigin(pack.sheet.origin) ? ['sheet'] : []),
    ],
    undetectable: pack.faults
      .filter((each) => !each.cues.some((cue) => methods.get(each.checkpoint)?.has(cue.method)))
      .map((each) => each.id),
    withoutReason: steps.filter((each) => !each.why).map((each) => each.id),
    dangling: steps
      .filter((each) => prerequisites(each).some((id) => !stepIds.has(id)))
      .map((each) => each.id),
  };
}
