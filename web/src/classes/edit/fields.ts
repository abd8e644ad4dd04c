import { COMMON_CONDITIONS, listedRows, type Pack, type RowListId } from '@rounds/core/catalogue';
import type { InjectionKey, Ref } from 'vue';

/** The draft that a form belongs to, as far as it can be read. */
export const EDITED: InjectionKey<Ref<Pack | undefined>> = Symbol('the class under edit');

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
  at: 'Point on the walking line',
  spot: 'Where it is drawn',
  origin: 'Where this comes from',
};

/** A field's name as a form shows it. */
export function fieldName(field: string): string {
  return NAMES[field] ?? field.replace(/([A-Z])/g, ' $1').replace(/^./, (c) => c.toUpperCase());
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
const MEASURED: ReadonlySet<string> = new Set(['value', 'range', 'at', 'min', 'max']);

/** The unit of a number: its own, or the one of the measure it belongs to; '' for none. */
export function unitOf(field: string, measure: string | undefined): string {
  if (UNITS[field]) return UNITS[field];
  return MEASURED.has(field) && measure && measure !== '-' ? measure : '';
}
