import {
  BOUND_WORDS,
  COMMON_CONDITIONS,
  GRADE_KINDS,
  listedRows,
  MOMENT_WORDS,
  type Pack,
  PLANT_WORDS,
  type RowListId,
  TIMING_WORDS,
} from '@rounds/core/catalogue';
import type { InjectionKey, Ref } from 'vue';

/** The draft that a form belongs to, as far as it can be read. */
export const EDITED: InjectionKey<Ref<Pack | undefined>> = Symbol('the class under edit');

/** The row that is edited, whatever field of it a form is for. */
export const EDITED_ROW: InjectionKey<Ref<Readonly<Record<string, unknown>> | undefined>> =
  Symbol('the row under edit');

/** The list that the edited row is in. */
export const EDITED_LIST: InjectionKey<Ref<RowListId | undefined>> = Symbol('the list under edit');

/** What is wrong with the edited row, by the path of its field ("/when", "/acts/2"). */
export const ROW_ERRORS: InjectionKey<Ref<readonly { path: string; message: string }[]>> = Symbol(
  'errors of the row under edit',
);

export interface FieldChoice {
  value: string;
  label: string;
  more?: string;
}

/** The rows a reference may point to, by name. */
export function rowChoices(pack: Pack | undefined, list: RowListId): FieldChoice[] {
  if (!pack) return [];
  const rows = listedRows(pack, list).map(({ id, title, where }) => ({
    value: id,
    label: title,
    more: [id, where].filter(Boolean).join(', '),
  }));
  if (list !== 'conditions') return rows;
  const common = Object.entries(COMMON_CONDITIONS).map(([value, label]) => ({ value, label }));
  return [...common, ...rows];
}

/** Names of the values of choices, by the field and the one it stands in, where the value is no word. */
const VALUE_NAMES: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'until.bound': BOUND_WORDS,
  'timing.means': TIMING_WORDS,
  'plant.as': PLANT_WORDS,
  moment: MOMENT_WORDS,
  kind: Object.fromEntries(GRADE_KINDS.map((each) => [each.id, `${each.says} (${each.grade})`])),
};

/** The values of a choice as they are read. */
export function valueChoices(field: string, within: string, values: readonly unknown[]): FieldChoice[] {
  const names = VALUE_NAMES[`${within}.${field}`] ?? VALUE_NAMES[field] ?? {};
  return values.map((each) => ({ value: String(each), label: names[String(each)] ?? String(each) }));
}

/** A part of a row with its filled fields only; undefined when nothing is left of it. */
export function filledOnly(part: Readonly<Record<string, unknown>>): Record<string, unknown> | undefined {
  const filled = Object.entries(part).filter(([, value]) => value !== undefined && value !== '');
  return filled.length === 0 ? undefined : Object.fromEntries(filled);
}

const words = (value: string) => value.replaceAll('-', ' ');

/** Conditions on the fit-out that a row may need: every switch and power variant of the class, both ways. */
export function needChoices(pack: Pack | undefined): FieldChoice[] {
  const features = (pack?.features ?? []).flatMap((feature) => {
    const plain = feature.values.length === 2 && feature.values.includes('yes');
    if (plain)
      return [
        { value: feature.id, label: feature.name },
        { value: `!${feature.id}`, label: `not ${feature.name}` },
      ];
    return feature.values.flatMap((value) => [
      { value: `${feature.id}=${value}`, label: `${feature.name}: ${words(value)}` },
      { value: `${feature.id}!=${value}`, label: `${feature.name}: not ${words(value)}` },
    ]);
  });
  const variants = (pack?.variants ?? []).map(({ id, name }) => ({
    value: `variant=${id}`,
    label: `Power: ${name}`,
  }));
  return [...variants, ...features];
}

/** Names of fields that read better than what the schema calls them. */
const NAMES: Readonly<Record<string, string>> = {
  honestSeconds: 'Honest time',
  alsoAt: 'Also at stations',
  when: 'Counts under these conditions',
  whenNote: 'Conditions in words',
  spurFrom: 'Hangs from station',
  after: 'Comes after',
  afterNote: 'Prerequisite that is no step',
  holds: 'Must hold meanwhile',
  ifFails: 'If it fails',
  do: 'What to do',
  needs: 'Only on machines with',
  appears: 'What a sound part shows',
  until: 'How far it may go on',
  bound: 'Until',
  n: 'How many',
  says: 'In words',
  departs: 'Why it is graded otherwise',
  moment: 'What it does to the machine',
  taughtOnly: 'Taught only',
  as: 'Planted as',
  how: 'How it is planted',
  retrieve: 'How it comes out again',
  at: 'Point on the walking line',
  spot: 'Where it is drawn',
  origin: 'Where this comes from',
};

/** Names of fields of a desk, where they mean something else than elsewhere. */
const DESK_NAMES: Readonly<Record<string, string>> = {
  at: 'Where it is worked or perceived',
  from: 'From where one gets there',
  by: 'By which act',
  wrong: 'A way that nobody should take',
  helper: 'A helper stands there',
  when: 'When (an expression)',
  value: 'Figure (an expression)',
  lockedWhen: 'Locked when (an expression)',
  springs: 'Springs back to',
  latch: 'May be kept worked',
  of: 'Looks at',
  then: 'Then',
  acts: 'What is done, one act on a line',
  inOrder: 'In this order',
  confirms: 'Touching it is enough',
  rule: 'A state of affairs (an expression)',
  if: 'Wanted only if (an expression)',
  away: 'Done away from the desk',
  begins: 'Begins when (an expression)',
  sets: 'What it sets',
  seen: 'Shows itself by',
  right: 'Right: acts and expressions, one on a line',
  wrong_: 'Wrong: acts and expressions, one on a line',
  answer: 'Answered when (an expression)',
  say: 'What is called',
  opposite: 'The contrary',
  until: 'Until (an expression)',
  least: 'At least, with its unit',
  most: 'At most, with its unit',
  alternatives: 'Other ways of doing it',
  start: 'At the start',
  positions: 'Positions',
  values: 'What it may be',
  notHere: 'Why the desk cannot show it',
  tone: 'What it sounds like',
  choice: 'Up to the person, no control of the machine',
};

/** A field's name as a form shows it. */
export function fieldName(field: string, list?: RowListId): string {
  if (list?.startsWith('desk')) {
    const own = DESK_NAMES[list === 'deskFailures' && field === 'wrong' ? 'wrong_' : field];
    if (own) return own;
  }
  return (
    NAMES[field] ??
    field.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`).replace(/^./, (c) => c.toUpperCase())
  );
}

/** Units of fields that have one of their own. */
const UNITS: Readonly<Record<string, string>> = {
  honestSeconds: 's',
  seconds: 's',
  cut: '%',
  minimum: '%',
  perError: 'of the credit',
  promptCredit: 'of the credit',
  notApplicableMax: 'of the weight',
};
/** Fields measured in the unit that stands beside them, in their own row or the one they belong to. */
const MEASURED: ReadonlySet<string> = new Set(['value', 'range', 'at', 'least', 'most', 'rest']);

/** The unit of a number: its own, or the one of the measure it belongs to; '' for none. */
export function unitOf(field: string, measure: string | undefined): string {
  if (UNITS[field]) return UNITS[field];
  return MEASURED.has(field) && measure && measure !== '-' ? measure : '';
}
