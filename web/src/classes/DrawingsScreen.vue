<script setup lang="ts">
import { drawEvidence, EVIDENCE_KINDS } from '@rounds/core/drawing/evidence';
import { Button, Checkbox, Form, Input } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import EvidenceDrawing from '../drawing/EvidenceDrawing.vue';
import { useAddressQuery } from '../parts/useAddressQuery';
import EvidenceParams from './edit/EvidenceParams.vue';

/** Every kind of drawing that a finding can be shown by, with its parameters to move: for editors, and for looking. */
const kinds = [...EVIDENCE_KINDS.values()];
const find = ref('');
const shown = computed(() => {
  const words = find.value.trim().toLowerCase();
  return kinds.filter((each) =>
    `${each.title} ${each.id} ${Object.values(each.params)
      .flatMap((param) => [param.label, ...(param.type === 'choice' ? Object.values(param.says) : [])])
      .join(' ')}`
      .toLowerCase()
      .includes(words),
  );
});
const route = useRoute();
const write = useAddressQuery();
const kind = computed(() => EVIDENCE_KINDS.get(String(route.query['kind'])) ?? kinds[0]!);
const params = ref<Record<string, unknown>>({});
watch(kind, () => (params.value = {}));
const figures = ref(true);
const evidence = computed(() => ({ kind: kind.value.id, params: params.value }));
const says = computed(() => drawEvidence(evidence.value, { figures: figures.value })!.text);
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Drawings</h1>
      <RouterLink v-slot="{ navigate, href }" to="/classes" custom
        ><Button :href="href" @click="navigate">Machine classes</Button></RouterLink
      >
    </div>
    <div class="two">
      <section class="sheet pad work" :aria-label="kind.title">
        <h2>{{ kind.title }}</h2>
        <div class="sizes">
          <EvidenceDrawing class="large" :evidence="evidence" :figures="figures" />
          <EvidenceDrawing class="small-one" :evidence="evidence" :figures="figures" decorative />
        </div>
        <p aria-live="polite">{{ says }}</p>
        <div class="row">
          <Checkbox v-model:checked="figures">With figures, as measured</Checkbox>
          <Button v-if="Object.keys(params).length" @click="params = {}">All sound again</Button>
        </div>
        <Form layout="vertical" component="div">
          <EvidenceParams v-model="params" :kind="kind.id" />
        </Form>
      </section>
      <section class="stack" aria-label="Kinds of drawing">
        <Input
          v-model:value="find"
          type="search"
          allow-clear
          aria-label="Search the drawings"
          placeholder="hose, crack, needle"
          :maxlength="60"
        />
        <p v-if="shown.length === 0">No drawing has that in its words.</p>
        <div class="kinds">
          <button
            v-for="each in shown"
            :key="each.id"
            class="kind"
            :aria-pressed="each.id === kind.id"
            @click="write({ kind: each.id })"
          >
            <EvidenceDrawing :evidence="{ kind: each.id, params: {} }" decorative />
            {{ each.title }}
          </button>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(300px, 2fr);
  gap: 1.25rem;
  align-items: start;
}
.work {
  position: sticky;
  top: 0.75rem;
  max-height: calc(100dvh - 6rem);
  overflow-y: auto;
}
.sizes {
  display: flex;
  align-items: end;
  gap: 1.5rem;
}
.large {
  width: min(100%, 340px);
  height: auto;
}
.small-one {
  width: 96px;
  height: auto;
}
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 0.5rem;
}
.kind {
  display: grid;
  gap: 0.3rem;
  justify-items: center;
  padding: 0.5rem;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 0.85rem;
  cursor: pointer;
}
.kind :deep(.evidence) {
  width: 84px;
  height: 84px;
}
.kind[aria-pressed='true'] {
  border-color: var(--petrol);
  box-shadow: inset 0 0 0 2px var(--petrol);
  font-weight: 700;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .work {
    position: static;
    max-height: none;
  }
}
</style>
