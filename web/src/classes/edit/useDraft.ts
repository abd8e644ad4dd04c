import { classRoutes, type PackDraft } from '@rounds/contract/classes';
import { localTime } from '@rounds/core/calendar';
import { type Pack, type PackError, packToYaml, type RowChange } from '@rounds/core/catalogue';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { ApiProblem, call, ownProblem } from '../../device/api';
import { siteTime } from '../../device/siteTime';
import { useDropDraft, usePublishDraft, useSaveDraft } from '../queries';
import type { PackAnswer, PackQuestion } from './packWorker';

const SAVE_AFTER = 1200;
const CHECK_AFTER = 250;
const TRY_AGAIN = 5000;

/**
 * A draft of a class under edit: its text, kept on this device at every change and on the server a moment
 * later, checked in a worker, and published. What somebody else saved meanwhile is never written over.
 */
export function useDraft(id: string) {
  const params = { id };
  const kept = `rounds-draft-${id}`;
  const saveDraft = useSaveDraft();
  const dropDraft = useDropDraft();
  const publishDraft = usePublishDraft();

  const loading = ref(true);
  const failure = ref<unknown>(null);
  const published = shallowRef<Pack | null>(null);
  const source = ref('');
  const version = ref(0);
  /** Text that the server has; what differs from it is not saved yet. */
  const savedText = ref('');
  const savedBy = ref('');
  const savedAt = ref('');
  const problem = ref<unknown>(null);
  const code = computed(() => (problem.value instanceof ApiProblem ? problem.value.code : ''));
  const saving = ref(false);

  async function load(): Promise<void> {
    loading.value = true;
    failure.value = null;
    try {
      const [machineClass, { draft }] = await Promise.all([
        call(classRoutes.machineClass, { params }),
        call(classRoutes.classDraft, { params }),
      ]);
      published.value = machineClass.pack as Pack | null;
      take(draft);
      const left = localStorage.getItem(kept);
      if (left !== null && left !== savedText.value) {
        source.value = left;
        problem.value = ownProblem(
          'kept',
          'Text left on this device',
          'It was not saved last time and is shown here. It is saved as soon as you change something.',
        );
      }
    } catch (error) {
      failure.value = error;
    } finally {
      loading.value = false;
    }
  }
  function take(draft: PackDraft | null): void {
    version.value = draft?.version ?? 0;
    savedText.value = draft?.source ?? (published.value ? packToYaml(published.value) : '');
    savedBy.value = draft?.by ?? '';
    savedAt.value = draft?.at ?? '';
    source.value = savedText.value;
  }

  /* Checking, in a worker: a pack takes a tenth of a second to read. */
  const errors = shallowRef<PackError[]>([]);
  const changes = shallowRef<RowChange[]>([]);
  const checked = ref(false);
  const worker = new Worker(new URL('./packWorker.ts', import.meta.url), { type: 'module' });
  let turn = 0;
  worker.onmessage = (event: MessageEvent<PackAnswer>) => {
    if (event.data.turn !== turn) return;
    errors.value = event.data.errors;
    changes.value = event.data.changes;
    checked.value = true;
  };
  let checking: ReturnType<typeof setTimeout> | undefined;
  let waiting: ReturnType<typeof setTimeout> | undefined;
  watch(source, (text) => {
    checked.value = false;
    clearTimeout(checking);
    checking = setTimeout(() => {
      turn += 1;
      const plain = JSON.parse(JSON.stringify(published.value)) as Pack | null;
      worker.postMessage({ turn, source: text, published: plain } satisfies PackQuestion);
    }, CHECK_AFTER);
    clearTimeout(waiting);
    if (text === savedText.value) return localStorage.removeItem(kept);
    localStorage.setItem(kept, text);
    if (code.value !== 'draft-moved') waiting = setTimeout(save, SAVE_AFTER);
  });
  onScopeDispose(() => {
    worker.terminate();
    clearTimeout(checking);
    clearTimeout(waiting);
  });
  onBeforeRouteLeave(async () => {
    if (source.value !== savedText.value && !problem.value) await save();
  });

  /** The save under way; whoever needs the draft settled waits for it. */
  let underWay: Promise<void> = Promise.resolve();
  function save(): Promise<void> {
    underWay = underWay.then(saveNow);
    return underWay;
  }
  async function saveNow(): Promise<void> {
    clearTimeout(waiting);
    if (source.value === savedText.value) return;
    saving.value = true;
    const text = source.value;
    try {
      const draft = await saveDraft.mutateAsync({
        params,
        body: { source: text, version: version.value },
      });
      version.value = draft.version;
      savedText.value = text;
      savedBy.value = draft.by;
      savedAt.value = draft.at;
      problem.value = null;
      if (source.value === text) localStorage.removeItem(kept);
    } catch (error) {
      problem.value = error;
      if (code.value === 'offline') waiting = setTimeout(save, TRY_AGAIN);
    } finally {
      saving.value = false;
    }
  }

  /** Lets one's own text go and opens what the server has. */
  async function takeTheirs(): Promise<void> {
    localStorage.removeItem(kept);
    problem.value = null;
    await load();
  }

  /** Throws the draft away, here and on the server. */
  async function discard(): Promise<void> {
    clearTimeout(waiting);
    // A save that is under way would bring the draft back after it was thrown away.
    await underWay;
    try {
      if (version.value > 0) await dropDraft.mutateAsync({ params });
      localStorage.removeItem(kept);
      problem.value = null;
      take(null);
    } catch (error) {
      problem.value = error;
    }
  }

  /** Publishes the draft; true once it is in use. */
  async function publish(note: string): Promise<boolean> {
    try {
      await save();
      if (problem.value) return false;
      await publishDraft.mutateAsync({ params, body: { version: version.value, note } });
      localStorage.removeItem(kept);
      savedText.value = source.value;
      return true;
    } catch (error) {
      problem.value = error;
      return false;
    }
  }

  const unsaved = computed(() => source.value !== savedText.value);
  const status = computed(() => {
    if (saving.value) return 'Saving';
    if (unsaved.value) return problem.value ? 'Kept on this device, not saved' : 'Changed, saved in a moment';
    if (version.value === 0) return 'As published, no draft';
    return `Draft saved ${localTime(savedAt.value, siteTime.zone)} by ${savedBy.value}`;
  });

  void load();
  return {
    loading,
    failure,
    published,
    source,
    version,
    problem,
    code,
    unsaved,
    status,
    errors,
    changes,
    checked,
    load,
    takeTheirs,
    discard,
    publish,
  };
}
