<script setup lang="ts">
import { type KeptPlan, teachRoutes } from '@rounds/contract/teach';
import type { LessonPlan, LessonSubject } from '@rounds/core/teaching';
import { Button, Form, Input } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { fileAddress } from '../device/api';
import { askFirst } from '../parts/askFirst';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useDropPlan, useKeepPlan, usePlans } from './queries';

/** Lessons that were kept to be given again: keep this one, take one out again, print it. */
const props = defineProps<{
  /** The lesson as it is planned now; null before a class is chosen. */
  planned: { classId: string; variant: string; site: string | null; plan: LessonPlan } | null;
  subjects: Readonly<Record<LessonSubject, string>>;
}>();
const emit = defineEmits<{ take: [kept: KeptPlan] }>();
const plans = usePlans();
const rows = computed(() => plans.data.value?.rows ?? []);
const keep = useKeepPlan();
const drop = useDropPlan();
const problem = ref<unknown>(null);
const title = ref('');
const taken = ref('');
/** The one's own that keeping would write over: it was taken out and has kept its name. */
const over = computed(() =>
  rows.value.find((each) => each.id === taken.value && each.own && each.title === title.value.trim()),
);
watch(
  () => props.planned?.classId,
  (now) => {
    if (rows.value.find((each) => each.id === taken.value)?.classId !== now) {
      taken.value = '';
      title.value = '';
    }
  },
);
function take(kept: KeptPlan) {
  taken.value = kept.id;
  title.value = kept.title;
  emit('take', kept);
}
async function keepIt() {
  if (!props.planned || title.value.trim() === '') return;
  problem.value = null;
  const id = over.value?.id ?? uuidv7();
  try {
    await keep.mutateAsync({ params: { id }, body: { title: title.value.trim(), ...props.planned } });
    taken.value = id;
  } catch (error) {
    problem.value = error;
  }
}
function leave(kept: KeptPlan) {
  askFirst(
    {
      title: `Keep “${kept.title}” no longer?`,
      content: 'Lessons given with it stay on record.',
      act: 'Remove it',
      stay: 'Keep it',
    },
    async () => {
      problem.value = null;
      try {
        await drop.mutateAsync({ params: { id: kept.id } });
      } catch (error) {
        problem.value = error;
      }
    },
  );
}
</script>

<template>
  <section class="sheet pad stack" aria-label="Kept lessons">
    <h2>Kept lessons</h2>
    <Form v-if="planned" layout="vertical" class="keep" @submit.prevent="keepIt">
      <FieldItem v-slot="{ id }" label="Name of this lesson">
        <Input :id="id" v-model:value="title" :maxlength="80" placeholder="Hoses and pins, 30 minutes" />
      </FieldItem>
      <Button html-type="submit" :disabled="title.trim() === ''" :loading="keep.isLoading.value">{{
        over ? 'Keep it anew' : 'Keep it'
      }}</Button>
    </Form>
    <ProblemAlert :problem="problem" />
    <StateBox
      :loading="!plans.data.value && !plans.error.value"
      :error="plans.data.value ? undefined : plans.error.value"
      what="the kept lessons"
      :lines="2"
      @retry="plans.refetch()"
    >
      <p v-if="rows.length === 0" class="quiet">None kept yet.</p>
      <ul>
        <li v-for="each in rows" :key="each.id" class="kept">
          <button type="button" class="name" :aria-pressed="each.id === taken" @click="take(each)">
            {{ each.title }}
            <span class="quiet small"
              >{{ each.classTitle }}, {{ subjects[each.plan.subject].toLowerCase() }},
              {{ each.trainer }}</span
            >
          </button>
          <Button
            type="link"
            :href="fileAddress(teachRoutes.planPaper, { id: each.id })"
            target="_blank"
            :aria-label="`Print ${each.title}`"
            >Print</Button
          >
          <Button v-if="each.own" type="link" danger :aria-label="`Remove ${each.title}`" @click="leave(each)"
            >Remove</Button
          >
        </li>
      </ul>
    </StateBox>
  </section>
</template>

<style scoped>
.keep {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.6rem;
  align-items: end;
}
.keep :deep(.ant-form-item) {
  margin: 0;
}
.kept {
  display: flex;
  align-items: center;
  gap: 0.2rem;
  border-top: 1px solid var(--line);
}
.name {
  flex: 1;
  min-height: 48px;
  padding: 0.3rem 0.4rem;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: var(--petrol);
  font: inherit;
  font-weight: 700;
  text-align: left;
  cursor: pointer;
}
.name[aria-pressed='true'] {
  border-left-color: var(--petrol);
}
.name .small {
  display: block;
  font-weight: 400;
}
</style>
