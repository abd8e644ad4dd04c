import type { InjectionKey, Ref } from 'vue';

/** Rows that a field of a form may point to, by the field's name. */
export const POINTABLE: InjectionKey<Ref<Readonly<Record<string, { id: string; name: string }[]>>>> =
  Symbol('rows to point to');
