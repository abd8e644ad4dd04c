<script setup lang="ts">
import { routes } from '@rounds/contract';
import { packDifferences, packToYaml, type Pack } from '@rounds/core/catalogue';
import { useQuery, useQueryCache } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import { call, explain } from '../device/api';
import { useSession } from '../device/session';
import { day } from '../parts/words';
import ChangeList from './ChangeList.vue';

/** Revisions of a class: what changed between any two, and an older one taken up again as a draft. */
const route = useRoute();
const router = useRouter();
const session = useSession();
const cache = useQueryCache();
const id = String(route.params['id']);
const params = { id };
const { data, error, isPending, refetch } = useQuery({
  key: ['revisions', id],
  query: () => call(routes.classRevisions, { params }),
});
const earlier = ref('');
const later = ref('');
watch(
  data,
  (now) => {
    if (!now) return;
    later.value ||= now.revisions[0]?.hash ?? '';
    earlier.value ||= now.revisions[1]?.hash ?? later.value;
  },
  { immediate: true },
);
const fetched = (hash: typeof earlier) =>
  useQuery({
    key: () => ['revision', id, hash.value],
    query: () => call(routes.classRevision, { params: { id, hash: hash.value } }),
    enabled: () => hash.value !== '',
  });
const [before, after] = [fetched(earlier), fetched(later)];
const changes = computed(() =>
  before.data.value && after.data.value
    ? packDifferences(before.data.value.pack as Pack, after.data.value.pack as Pack)
    : null,
);
const several = computed(() => (data.value?.revisions.length ?? 0) > 1);
const name = (hash: string) =>
  `revision ${data.value?.revisions.find((each) => each.hash === hash)?.revision ?? '?'}`;
const mayEdit = computed(() => ['trainer', 'administrator'].includes(session.account?.role ?? ''));
const problem = ref<{ title: string; detail: string } | null>(null);
const reason = ref('');

async function takeUp(hash: string) {
  problem.value = null;
  try {
    const { pack } = await call(routes.classRevision, { params: { id, hash } });
    const { draft } = await call(routes.classDraft, { params });
    if (draft && !confirm(`${draft.by} left a draft of this class. Replace it?`)) return;
    await call(routes.saveDraft, {
      params,
      body: { source: packToYaml(pack as Pack), version: draft?.version ?? 0 },
    });
    await router.push(`/classes/${id}/edit?tab=changes`);
  } catch (failure) {
    problem.value = explain(failure);
  }
}
async function withdraw() {
  problem.value = null;
  try {
    await call(routes.withdrawClass, { params, body: { reason: reason.value } });
    for (const key of [['classes'], ['class'], ['library'], ['revisions']])
      void cache.invalidateQueries({ key });
    reason.value = '';
    await refetch();
  } catch (failure) {
    problem.value = explain(failure);
  }
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="isPending"
      :error="error"
      :empty="data?.revisions.length === 0"
      what="the revisions"
      @retry="refetch()"
    >
      <template #empty><p>This class was never published here.</p></template>
      <div class="row spread">
        <h1>
          Revisions of {{ (after.data.value?.pack as Pack | undefined)?.title.toLowerCase() ?? 'the class' }}
        </h1>
        <RouterLink :to="`/classes/${id}`" class="act plain">Back to the class</RouterLink>
      </div>
      <div v-if="problem" class="sheet pad problem" role="alert">
        <strong>{{ problem.title }}.</strong> {{ problem.detail }}
      </div>
      <div class="sheet scrolls" tabindex="0" role="region" aria-label="List of revisions">
        <table class="rows">
          <thead>
            <tr>
              <th>Revision</th>
              <th>Published</th>
              <th>By</th>
              <th>Why</th>
              <th v-if="several">Before</th>
              <th v-if="several">After</th>
              <th><span class="visually-hidden">Act</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in data!.revisions" :key="r.hash">
              <td>
                <strong>{{ r.revision }}</strong> <span v-if="r.current" class="by-choice">in use</span>
              </td>
              <td>{{ day(r.publishedAt) }}</td>
              <td>{{ r.by }}</td>
              <td>{{ r.note }}</td>
              <td v-if="several">
                <input
                  v-model="earlier"
                  type="radio"
                  name="before"
                  :value="r.hash"
                  :aria-label="`Compare from revision ${r.revision}`"
                />
              </td>
              <td v-if="several">
                <input
                  v-model="later"
                  type="radio"
                  name="after"
                  :value="r.hash"
                  :aria-label="`Compare to revision ${r.revision}`"
                />
              </td>
              <td>
                <Button v-if="mayEdit && !r.current" @click="takeUp(r.hash)">Take up again as a draft</Button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="!several" class="quiet">
        This is the only revision so far; once there is another, the two can be compared here.
      </p>
      <section v-else class="sheet pad" aria-label="Differences">
        <h2>From {{ name(earlier) }} to {{ name(later) }}</h2>
        <p v-if="earlier === later" class="quiet">Choose two revisions to see what differs.</p>
        <StateBox
          v-else
          :loading="!changes && !(before.error.value ?? after.error.value)"
          :error="before.error.value ?? after.error.value"
          what="both revisions"
          @retry="before.refetch()"
        >
          <p v-if="changes!.length === 0">They say the same.</p>
          <ChangeList v-else :changes="changes!" :before="name(earlier)" :after="name(later)" />
        </StateBox>
      </section>
      <details
        v-if="session.account?.role === 'administrator' && data!.revisions.some((r) => r.current)"
        class="sheet pad"
      >
        <summary>Take this class out of use</summary>
        <form class="stack" @submit.prevent="withdraw">
          <p>
            Its name, certificates and old evaluations stay; nobody can be assessed on it until a pack is
            published or imported again.
          </p>
          <label class="field"
            >Why <input v-model="reason" class="plain" required minlength="3" maxlength="500"
          /></label>
          <div>
            <Button danger html-type="submit" :disabled="reason.trim().length < 3">Take out of use</Button>
          </div>
        </form>
      </details>
    </StateBox>
  </div>
</template>

<style scoped>
input[type='radio'] {
  width: 24px;
  height: 24px;
  accent-color: var(--petrol);
}
summary {
  cursor: pointer;
  line-height: 44px;
  font-weight: 700;
}
</style>
