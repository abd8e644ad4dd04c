<script setup lang="ts">
import { type Pack, packDocumentText } from '@rounds/core/catalogue';
import type { Point } from '@rounds/core/round';
import { Alert, Button } from 'ant-design-vue';
import { computed, defineAsyncComponent, nextTick, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { type Document, parseDocument } from 'yaml';
import { explain } from '../device/api';
import { askFirst } from '../parts/askFirst';
import StateBox from '../parts/StateBox.vue';
import TabRow from '../parts/TabRow.vue';
import PlanEditor from './edit/PlanEditor.vue';
import PublishPart from './edit/PublishPart.vue';
import RowsEditor from './edit/RowsEditor.vue';
import { useDraft } from './edit/useDraft';
import { amount } from '../parts/words';

/** Editing a class: rows as forms, the text as YAML, stations on the plan; draft, check, publish. */
const CodeEditor = defineAsyncComponent(() => import('./edit/CodeEditor.vue'));
const TABS = [
  { key: 'rows', name: 'Rows' },
  { key: 'text', name: 'Text' },
  { key: 'plan', name: 'Plan' },
  { key: 'changes', name: 'Changes and publishing' },
] as const;
type Tab = (typeof TABS)[number]['key'];

const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
const draft = useDraft(id);
const { source, errors, changes, checked, published, problem, code, unsaved, version } = draft;
const tab = computed<Tab>({
  get: () => TABS.find((each) => each.key === route.query['tab'])?.key ?? 'rows',
  set: (now) => void router.replace({ query: { ...route.query, tab: now } }),
});

/* Forms and plan work on the YAML document, so that comments and the order of everything else stay. */
const document = computed<Document | null>(() => {
  if (tab.value === 'text' || tab.value === 'changes') return null;
  const parsed = parseDocument(source.value);
  return parsed.errors.length === 0 ? parsed : null;
});
const value = computed(() => document.value?.toJS({ maxAliasCount: 100 }) as Pack | undefined);
function write(change: (doc: Document) => void) {
  const doc = document.value;
  if (!doc) return;
  change(doc);
  source.value = packDocumentText(doc);
}
function moveStation(station: string, field: 'at' | 'spot', to: Point) {
  const index = value.value!.plan.stations.findIndex((each) => each.id === station);
  write((doc) => doc.setIn(['plan', 'stations', index, field], doc.createNode(to)));
}

const editor = ref<{ goTo: (line: number) => void } | null>(null);
const line = ref<number | null>(null);
async function goTo(wanted: number) {
  line.value = wanted;
  tab.value = 'text';
  await nextTick();
  editor.value?.goTo(wanted);
}
function discard() {
  askFirst(
    {
      title: 'Throw this draft away?',
      content: 'What is in use stays as it is.',
      act: 'Throw it away',
      stay: 'Keep it',
      grave: true,
    },
    () => draft.discard(),
  );
}
const publishing = ref(false);
async function publish(note: string) {
  publishing.value = true;
  if (await draft.publish(note)) await router.push(`/classes/${id}`);
  publishing.value = false;
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="draft.loading.value"
      :error="draft.failure.value"
      what="the draft"
      @retry="draft.load()"
    >
      <div class="row spread">
        <div>
          <h1>Edit {{ published?.title.toLowerCase() ?? id }}</h1>
          <p class="quiet" role="status">
            {{ draft.status.value }}.
            <template v-if="checked && errors.length === 0">No errors.</template>
            <span v-else-if="checked" class="stopped">{{ amount(errors.length, 'error') }}</span>
          </p>
        </div>
        <div class="row">
          <Button v-if="version > 0 || unsaved" @click="discard">Throw the draft away</Button>
          <RouterLink v-slot="{ navigate, href }" :to="`/classes/${id}`" custom
            ><Button :href="href" @click="navigate">Back to the class</Button></RouterLink
          >
        </div>
      </div>
      <Alert
        v-if="problem"
        type="error"
        show-icon
        role="alert"
        :message="explain(problem).title"
        :description="explain(problem).detail"
      >
        <template v-if="code === 'draft-moved' || code === 'kept'" #action>
          <Button @click="draft.takeTheirs()">{{
            code === 'kept' ? 'Leave it, open what is saved' : 'Open what is saved'
          }}</Button>
        </template>
      </Alert>
      <TabRow v-model:chosen="tab" label="Ways to edit" :tabs="TABS" />
      <Alert
        v-if="!value && (tab === 'rows' || tab === 'plan')"
        type="warning"
        :show-icon="false"
        role="alert"
        message="The text cannot be read as YAML just now. Put it right under Text; the forms come back then."
      />
      <RowsEditor v-else-if="tab === 'rows' && value" :value="value" :errors="errors" @write="write" />
      <PlanEditor v-else-if="tab === 'plan' && value" :plan="value.plan" @move="moveStation" />
      <template v-else-if="tab === 'text'">
        <CodeEditor ref="editor" v-model="source" :errors="errors" :line="line" label="The class as YAML" />
        <p class="quiet small">
          Ctrl+Space offers the keys and values that may stand here. Errors are marked at their lines. Escape,
          then Tab, leaves the text.
        </p>
      </template>
      <PublishPart
        v-else
        :errors="errors"
        :changes="changes"
        :checked="checked"
        :revision="published?.revision ?? 0"
        :busy="publishing"
        @line="goTo"
        @publish="publish"
      />
    </StateBox>
  </div>
</template>
