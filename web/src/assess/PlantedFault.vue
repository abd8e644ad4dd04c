<script setup lang="ts">
import { type EffectivePack, type Fault, type Grade, PLANT_WORDS } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import { faultChoice, placeOf } from './plantList';

/** A fault to plant: where and how, its exchange for another, and its tick once it is in the machine. */
const props = defineProps<{
  pack: EffectivePack;
  fault: Fault;
  confirmed: boolean;
  /** Faults that could be planted instead. */
  others: readonly Fault[];
}>();
defineEmits<{ remove: []; confirm: []; swap: [id: string] }>();
const choices = computed(() => [props.fault, ...props.others].map((each) => faultChoice(props.pack, each)));
const name = computed(() => props.fault.title);
</script>

<template>
  <li :class="{ in: confirmed }">
    <div class="row spread nowrap">
      <span
        ><GradeDisc :grade="fault.grade" />
        <strong>{{ GRADE_WORDS[fault.grade] }}{{ fault.grade === 'sound' ? ' (lookalike)' : '' }}</strong>
        <span class="quiet">{{ ' ' }}{{ placeOf(pack, fault) }}</span></span
      ><Button :aria-label="`Leave out: ${name}`" @click="$emit('remove')">Leave out</Button>
    </div>
    <p>
      <strong>{{ fault.title }}.</strong> {{ fault.plant!.how }}.
      <span class="quiet">{{ PLANT_WORDS[fault.plant!.as] }}</span>
    </p>
    <div class="row spread nowrap">
      <ChoiceField
        class="grow swap"
        :value="fault.id"
        label="Replace by"
        searchable
        :options="choices"
        @update:value="$emit('swap', $event)"
      >
        <template #option="option">
          <GradeDisc :grade="(option as unknown as { grade: Grade }).grade" :size="18" /> {{ option.label }}
          <span class="quiet">{{ option.more }}</span>
        </template>
      </ChoiceField>
      <button
        class="big tick"
        role="checkbox"
        :aria-checked="confirmed"
        :aria-label="`Planted: ${name}`"
        @click="$emit('confirm')"
      >
        {{ confirmed ? 'Planted' : 'Confirm planted' }}
      </button>
    </div>
  </li>
</template>

<style scoped>
li {
  border-left: 6px solid var(--line);
  padding: 0.5rem 0 0.7rem 0.9rem;
  margin-bottom: 0.6rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.35rem;
}
li.in {
  border-left-color: var(--amber);
}
.nowrap {
  flex-wrap: nowrap;
}
.tick {
  flex: 0 0 170px;
}
.tick[aria-checked='true'] {
  background: var(--amber);
  color: var(--on-amber);
}
@media (max-width: 640px) {
  .nowrap {
    flex-wrap: wrap;
  }
  .swap {
    flex-basis: 100%;
  }
  .tick {
    flex: 1 0 170px;
  }
}
</style>
