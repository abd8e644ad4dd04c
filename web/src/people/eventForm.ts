import type { Role } from '@rounds/contract/route';
import type { CertificationEventBody, Trigger } from '@rounds/core/certification';

type Kind = CertificationEventBody['kind'];

/** What the form for a dated fact holds, whatever its kind. */
export interface EventFields {
  kind: Kind;
  words: string;
  trigger: Trigger;
  hours: number | undefined;
  until: string;
}

const BY_TRAINER: readonly Kind[] = [
  'trigger',
  'hours-logged',
  'certificate-recorded',
  'familiarised',
  'training-started',
  'taught',
  'theory-passed',
  'drill-met',
  'medical',
  'refresher-done',
  'suspended',
  'reinstated',
  'withdrawn',
];
const BY_SUPERVISOR: readonly Kind[] = ['trigger', 'hours-logged'];

/** Kinds of facts that a role may record by hand; evaluations are recorded by signing them. */
export const kindsOf = (role: Role | null): readonly Kind[] =>
  role === 'supervisor' ? BY_SUPERVISOR : BY_TRAINER;

export const KIND_NAMES: Readonly<Record<Kind, string>> = {
  trigger: 'Trigger raised',
  'hours-logged': 'Hours logged',
  'certificate-recorded': 'Earlier certificate taken over',
  familiarised: 'Familiarised with a machine',
  'training-started': 'Training started',
  taught: 'Attended a lesson',
  'theory-passed': 'Theory passed',
  'drill-met': 'Drill standard met',
  medical: 'Medical passed',
  'refresher-done': 'Refresher done',
  suspended: 'Suspended',
  reinstated: 'Reinstated',
  withdrawn: 'Withdrawn',
  endorsed: 'Endorsed',
  'evaluation-passed': 'Evaluation passed',
  'evaluation-failed': 'Evaluation not passed',
};

/** How the words of a kind are asked for; absent where it has none. */
export const WORDS_ASKED: Partial<Record<Kind, { label: string; needed: boolean }>> = {
  trigger: { label: 'In a few words', needed: false },
  'certificate-recorded': { label: 'In a few words', needed: false },
  familiarised: { label: 'Machine', needed: true },
  taught: { label: 'On what', needed: false },
  suspended: { label: 'In a few words', needed: true },
  reinstated: { label: 'In a few words', needed: true },
  withdrawn: { label: 'In a few words', needed: true },
};

/** The body of a fact from its fields. Throws nothing: what is wrong with it the contract's schema says. */
export function eventBody({ kind, words, trigger, hours, until }: EventFields): CertificationEventBody {
  const said = words.trim() === '' ? {} : { words: words.trim() };
  const bodies: Partial<Record<Kind, object>> = {
    trigger: { kind, trigger, ...said },
    'hours-logged': { kind, hours },
    'certificate-recorded': { kind, ...(until ? { until } : {}), ...said },
    familiarised: { kind, unit: words.trim() },
    taught: { kind, ...said },
    suspended: { kind, words: words.trim() },
    reinstated: { kind, words: words.trim() },
    withdrawn: { kind, words: words.trim() },
  };
  return (bodies[kind] ?? { kind }) as CertificationEventBody;
}
