<script setup lang="ts">
import type { PackError, RowChange } from '@rounds/core/catalogue';
import { Button, Form, Input } from 'ant-design-vue';
import { computed, ref } from 'vue';
import FieldItem from '../../parts/FieldItem.vue';
import ChangeList from '../ChangeList.vue';

/** What publishing a draft would change, what stands in its way, and publishing it. */
const props = defineProps<{
  errors: readonly PackError[];
  changes: readonly RowChange[];
  checked: boolean;
  revision: number;
  busy: boolean;
}>();
defineEmits<{ line: [line: number]; publish: [note: string] }>();
const SHOWN = 40;
const note = ref('');
const ready = computed(
  () =>
    props.checked && props.errors.length === 0 && props.changes.length > 0 && note.value.trim().length >= 3,
);
</script>

<template>
  <section v-if="errors.length" class="sheet pad stack" aria-label="Errors">
    <h2>To put right before publishing</h2>
    <ul>
      <li v-for="(e, i) in errors.slice(0, SHOWN)" :key="i" class="change row spread">
        <span>{{ e.message }}</span><Button type="link" @click="$emit('line', e.line)"
          >line {{ e.line }}</Button
        >
      </li>
    </ul>
    <p v-if="errors.length > SHOWN" class="quiet">and {{ errors.length - SHOWN }} more</p>
  </section>
  <section class="sheet pad">
    <h2>What publishing would change</h2>
    <p v-if="!checked" role="status">Checking</p>
    <p v-else-if="errors.length" class="quiet">Shown when there are no errors.</p>
    <p v-else-if="changes.length === 0">Nothing: the draft says what revision {{ revision }} says.</p>
    <ChangeList v-else :changes="changes" :before="`revision ${revision}`" after="draft" />
  </section>
  <section class="sheet pad stack" aria-label="Publish">
    <h2>Publish as revision {{ revision + 1 }} or the next free number</h2>
    <p class="quiet">
      From then on it is assessed here. Evaluations made before keep the content they were made with.
    </p>
    <Form layout="vertical" @submit.prevent="$emit('publish', note.trim())">
      <FieldItem v-slot="{ id }" label="Why it changes" hint="For the list of revisions."
        ><Input :id="id" v-model:value="note" :maxlength="500"
      /></FieldItem>
      <Button type="primary" html-type="submit" :disabled="!ready" :loading="busy">Publish</Button>
    </Form>
  </section>
</template>
