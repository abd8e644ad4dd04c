<script setup lang="ts">
import type { ScrutinisedItemView } from '@rounds/contract/insight';
import { ITEM_DECISIONS, type ItemDecision } from '@rounds/core/scrutiny';
import { Button, Form, FormItem, Modal, Radio, RadioGroup, Textarea } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useReviewItem } from './queries';

/** The review of an item: what becomes of it, and why. To change it leads into the editor of its class. */
const props = defineProps<{ item: ScrutinisedItemView | null; classId: string }>();
const emit = defineEmits<{ close: []; done: [] }>();
const router = useRouter();
const send = useReviewItem();
const decision = ref<ItemDecision>('keep');
const reason = ref('');
const problem = ref<unknown>(null);
const LEAST = 10;
let number = uuidv7();
watch(
  () => props.item?.item,
  () => {
    decision.value = 'keep';
    reason.value = '';
    problem.value = null;
    number = uuidv7();
  },
);
const CHOICES: Readonly<Record<ItemDecision, { name: string; says: string }>> = {
  keep: { name: 'Keep it', says: 'The key is right; people have to learn it.' },
  change: { name: 'Change it', says: 'The key or the wording is put right in the editor of the class.' },
  retire: { name: 'Leave it out', says: 'Drills, benches and class exercises deal it no more.' },
};
const choices = computed(() => ITEM_DECISIONS.filter((each) => each !== 'retire' || props.item?.mayRetire));
async function decide() {
  const { item, row } = props.item!;
  problem.value = null;
  try {
    await send.mutateAsync({
      body: { id: number, classId: props.classId, item, decision: decision.value, reason: reason.value },
    });
    emit('done');
    if (decision.value === 'change')
      await router.push({ path: `/classes/${props.classId}/edit`, query: { row } });
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <Modal
    :open="item !== null"
    title="Review this key"
    :footer="null"
    destroy-on-close
    @cancel="emit('close')"
  >
    <Form v-if="item" layout="vertical" @submit.prevent="decide">
      <p>
        <strong>{{ item.words }}</strong>
      </p>
      <p>{{ item.says }}</p>
      <FormItem label="What becomes of it">
        <RadioGroup v-model:value="decision" class="choices">
          <Radio v-for="each in choices" :key="each" :value="each"
            ><strong>{{ CHOICES[each].name }}.</strong> {{ CHOICES[each].says }}</Radio
          >
        </RadioGroup>
      </FormItem>
      <FieldItem v-slot="{ id }" label="Why" hint="Kept on record with your name."
        ><Textarea :id="id" v-model:value="reason" :rows="3" :maxlength="1000"
      /></FieldItem>
      <ProblemAlert :problem="problem" />
      <Button
        type="primary"
        html-type="submit"
        block
        :loading="send.isLoading.value"
        :disabled="reason.trim().length < LEAST"
        >{{ decision === 'change' ? 'Note it and open the editor' : CHOICES[decision].name }}</Button
      >
    </Form>
  </Modal>
</template>

<style scoped>
.choices {
  display: grid;
  gap: 0.6rem;
}
.choices :deep(.ant-radio-wrapper) {
  white-space: normal;
}
p {
  margin-bottom: 0.6rem;
}
</style>
