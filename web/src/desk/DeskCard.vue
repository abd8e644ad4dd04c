<script setup lang="ts">
import { Modal } from 'ant-design-vue';
import type { Desk } from './useDesk';

/** What would you do? Something that a desk cannot show, asked while the clock stands; it goes on with the answer. */
const props = defineProps<{ desk: Desk }>();
const { card } = props.desk;
function answer(offer: number, says: string) {
  const rule = card.value?.rule;
  if (rule !== undefined) props.desk.act({ kind: 'answer', rule, offer }, `You: ${says}`);
}
</script>

<template>
  <Modal
    :open="card !== null"
    title="What would you do?"
    :closable="false"
    :mask-closable="false"
    :keyboard="false"
    :footer="null"
    destroy-on-close
  >
    <p class="says">{{ card?.says }}</p>
    <div class="offers" role="group" aria-label="What you would do">
      <button
        v-for="each in card?.offers ?? []"
        :key="each.n"
        type="button"
        class="big"
        @click="answer(each.n, each.says)"
      >
        {{ each.says }}
      </button>
    </div>
  </Modal>
</template>

<style scoped>
.says {
  font-size: 1.15rem;
  margin-bottom: 0.9rem;
}
.offers {
  display: grid;
  gap: 0.6rem;
}
.offers .big {
  justify-content: flex-start;
  text-align: left;
  font-weight: 400;
}
</style>
