import { jobRoutes } from '@rounds/contract/jobs';
import { v4 as uuidv4 } from 'uuid';
import { computed, ref } from 'vue';
import { listen } from './stream';

/** A piece of heavy work on the server, followed while it goes on. */
export function useJobProgress() {
  const job = ref<string | null>(null);
  const done = ref(0);
  const total = ref(0);
  const percent = computed(() => (total.value === 0 ? 0 : Math.round((100 * done.value) / total.value)));

  /** Does work that the server knows by the name it is given. */
  async function follow<T>(work: (name: string) => Promise<T>): Promise<T> {
    const name = uuidv4();
    job.value = name;
    done.value = total.value = 0;
    const stop = listen(jobRoutes.jobProgress, { params: { id: name } }, (told) => {
      done.value = told.done;
      total.value = told.total;
    });
    try {
      return await work(name);
    } finally {
      stop();
      job.value = null;
    }
  }
  return { job, percent, follow };
}
