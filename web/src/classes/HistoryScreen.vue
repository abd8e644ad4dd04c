<script setup lang="ts">
import { classRoutes, type PackRevision } from '@rounds/contract/classes';
import { type Pack, packDifferences, packToYaml } from '@rounds/core/catalogue';
import { Button, Collapse, CollapsePanel, Form, Input, Radio, Tag } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import { askFirst } from '../parts/askFirst';
import DataTable, { type Column } from '../parts/DataTable.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useContractForm } from '../parts/useContractForm';
import { day } from '../parts/words';
import ChangeList from './ChangeList.vue';
import { useKeptDraft, useRevision, useRevisions, useSaveDraft, useWithdrawClass } from './queries';

/** Revisions of a class: what changed between any two, and an older one taken up again as a draft. */
const route = useRoute();
const router = useRouter();
const session = useSession();
const id = String(route.params['id']);
const revisions = useRevisions(() => id);
const list = computed(() => revisions.data.value?.revisions ?? []);
const earlier = ref('');
const later = ref('');
watch(
  list,
  ([first, second]) => {
    later.value ||= first?.hash ?? '';
    earlier.value ||= second?.hash ?? later.value;
  },
  { immediate: true },
);
const before = useRevision(
  () => id,
  () => earlier.value,
);
const after = useRevision(
  () => id,
  () => later.value,
);
const changes = computed(() =>
  before.data.value && after.data.value
    ? packDifferences(before.data.value.pack as Pack, after.data.value.pack as Pack)
    : null,
);
const several = computed(() => list.value.length > 1);
const name = (hash: string) => `revision ${list.value.find((each) => each.hash === hash)?.revision ?? '?'}`;
const mayEdit = session.is('trainer', 'administrator');
const problem = ref<unknown>(null);

/* An older revision is taken up again as a draft; a draft that somebody left is asked about first. */
const wanted = ref('');
const older = useRevision(
  () => id,
  () => wanted.value,
);
const draft = useKeptDraft(() => id);
const saveDraft = useSaveDraft();
async function takeUp(hash: string) {
  problem.value = null;
  wanted.value = hash;
  const [{ data: found, error }, { data: left, error: unread }] = await Promise.all([
    older.refresh(),
    draft.refetch(),
  ]);
  problem.value = error ?? unread;
  if (!found || !left) return;
  const take = async () => {
    try {
      await saveDraft.mutateAsync({
        params: { id },
        body: { source: packToYaml(found.pack as Pack), version: left.draft?.version ?? 0 },
      });
      await router.push(`/classes/${id}/edit?tab=changes`);
    } catch (refusal) {
      problem.value = refusal;
    }
  };
  if (!left.draft) return take();
  askFirst(
    {
      title: `${left.draft.by} left a draft of this class`,
      content: 'Taking this revision up puts it in the place of that draft.',
      act: 'Replace the draft',
      stay: 'Leave it',
      grave: true,
    },
    take,
  );
}

const withdrawClass = useWithdrawClass();
const withdrawal = useContractForm(classRoutes.withdrawClass.body, () => ({ reason: '' }));
async function withdraw() {
  const done = await withdrawal.submit((body) => withdrawClass.mutateAsync({ params: { id }, body }));
  if (done) withdrawal.clear();
}
const columns = computed<Column<PackRevision>[]>(() => [
  { key: 'revision', title: 'Revision', fixed: true },
  { key: 'published', title: 'Published', text: (row) => day(row.publishedAt) },
  { key: 'by', title: 'By', text: (row) => row.by },
  { key: 'note', title: 'Why', text: (row) => row.note },
  ...(several.value
    ? [
        { key: 'before', title: 'Before' },
        { key: 'after', title: 'After' },
      ]
    : []),
  ...(mayEdit ? [{ key: 'act', title: 'Act' }] : []),
]);
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!revisions.data.value"
      :error="revisions.data.value ? undefined : revisions.error.value"
      :empty="list.length === 0"
      what="the revisions"
      @retry="revisions.refetch()"
    >
      <template #empty><p>This class was never published here.</p></template>
      <div class="row spread">
        <h1>
          Revisions of {{ (after.data.value?.pack as Pack | undefined)?.title.toLowerCase() ?? 'the class' }}
        </h1>
        <RouterLink v-slot="{ navigate, href }" :to="`/classes/${id}`" custom
          ><Button :href="href" @click="navigate">Back to the class</Button></RouterLink
        >
      </div>
      <ProblemAlert :problem="problem" />
      <DataTable name="List of revisions" :rows="list" :columns="columns" :row-key="(row) => row.hash">
        <template #revision="{ row }">
          <strong class="revision">{{ row.revision }}</strong><Tag v-if="row.current">in use</Tag>
        </template>
        <template #before="{ row }">
          <Radio
            :checked="earlier === row.hash"
            :aria-label="`Compare from revision ${row.revision}`"
            @change="earlier = row.hash"
          />
        </template>
        <template #after="{ row }">
          <Radio
            :checked="later === row.hash"
            :aria-label="`Compare to revision ${row.revision}`"
            @change="later = row.hash"
          />
        </template>
        <template #act="{ row }">
          <Button v-if="!row.current" @click="takeUp(row.hash)">Take up again as a draft</Button>
        </template>
      </DataTable>
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
      <Collapse v-if="session.is('administrator') && list.some((each) => each.current)">
        <CollapsePanel key="withdraw" header="Take this class out of use">
          <Form layout="vertical" @submit.prevent="withdraw">
            <p>
              Its name, certificates and old evaluations stay; nobody can be assessed on it until a pack is
              published or imported again.
            </p>
            <FieldItem v-slot="{ id: field }" label="Why" :error="withdrawal.errors.value['reason']"
              ><Input :id="field" v-model:value="withdrawal.values.reason" :maxlength="500"
            /></FieldItem>
            <ProblemAlert :problem="withdrawal.problem.value" />
            <Button danger html-type="submit" :loading="withdrawal.busy.value">Take out of use</Button>
          </Form>
        </CollapsePanel>
      </Collapse>
    </StateBox>
  </div>
</template>

<style scoped>
.revision {
  margin-right: 0.6rem;
}
</style>
