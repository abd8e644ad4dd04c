import { reactive, type Reactive, ref, type Ref } from 'vue';
import type { z } from 'zod';
import { ApiProblem } from '../device/api';

/** A form over a schema of the contract: its values, what is wrong with each field, and sending it. */
export interface ContractForm<S extends z.ZodType, V extends object> {
  values: Reactive<V>;
  /** What is wrong, by the field's path ("email", "sections.0.title"). */
  errors: Ref<Record<string, string>>;
  /** What the server refused and no field can show. */
  problem: Ref<unknown>;
  busy: Ref<boolean>;
  /** Checks the values, then sends what the schema made of them. True when the server took it. */
  submit: (send: (body: z.output<S>) => Promise<unknown>) => Promise<boolean>;
  /** Back to how it began. */
  clear: () => void;
}

interface FormOptions<S extends z.ZodType, V> {
  /** Problems of the server that belong to one field: "payroll-taken" to "payroll". */
  fields?: Readonly<Record<string, string>>;
  /** What the values say in the schema's terms, where that differs: an empty field as null, say. */
  read?: (values: V) => z.input<S>;
}

/**
 * Validates with the same schema as the server, and puts the server's own field errors at the field.
 * `blank` gives the values to begin with.
 */
export function useContractForm<S extends z.ZodType, V extends object>(
  schema: S,
  blank: () => V,
  { fields = {}, read = (values) => values as z.input<S> }: FormOptions<S, V> = {},
): ContractForm<S, V> {
  const values = reactive(blank());
  const errors = ref<Record<string, string>>({});
  const problem = ref<unknown>(null);
  const busy = ref(false);

  function clear() {
    Object.assign(values, blank());
    errors.value = {};
    problem.value = null;
  }

  function place(list: readonly { path: string; message: string }[]): Record<string, string> {
    // The first thing wrong with a field is enough to put it right.
    return Object.fromEntries([...list].reverse().map((each) => [each.path, each.message]));
  }

  /** Field errors of a refusal; null where the refusal is not about fields of this form. */
  function refused(error: unknown): Record<string, string> | null {
    if (!(error instanceof ApiProblem)) return null;
    const field = fields[error.code];
    if (field) return { [field]: error.problem.detail };
    const told = (error.problem.errors ?? []).filter((each) => each.path.split('.')[0]! in values);
    return told.length > 0 ? place(told) : null;
  }

  async function submit(send: (body: z.output<S>) => Promise<unknown>): Promise<boolean> {
    if (busy.value) return false;
    problem.value = null;
    const checked = schema.safeParse(read({ ...values } as V));
    if (!checked.success) {
      errors.value = place(
        checked.error.issues.map((each) => ({ path: each.path.join('.'), message: each.message })),
      );
      return false;
    }
    errors.value = {};
    busy.value = true;
    try {
      await send(checked.data);
      return true;
    } catch (error) {
      const placed = refused(error);
      if (placed) errors.value = placed;
      else problem.value = error;
      return false;
    } finally {
      busy.value = false;
    }
  }

  return { values, errors, problem, busy, submit, clear };
}
