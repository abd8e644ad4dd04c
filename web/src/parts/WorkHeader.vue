<script setup lang="ts">
import { ArrowLeftOutlined } from '@ant-design/icons-vue';

/** The top of a screen that fills the window: the way back, what it is about, and how far it has come. */
defineProps<{ back: string; backLabel: string }>();
</script>

<template>
  <header class="top">
    <RouterLink :to="back" class="back" :aria-label="backLabel"><ArrowLeftOutlined /></RouterLink>
    <div class="grow about"><slot></slot></div>
    <slot name="acts"></slot>
    <div v-if="$slots.told" class="about told"><slot name="told"></slot></div>
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 0.75rem;
  background: var(--sheet);
  padding-right: 0.9rem;
}
.back {
  display: grid;
  place-items: center;
  width: 60px;
  height: 60px;
  background: var(--rail);
  color: var(--on-rail);
  font-size: 1.3rem;
}
.about {
  display: flex;
  flex-direction: column;
  line-height: 1.25;
}
.told {
  margin-left: auto;
  text-align: right;
  white-space: nowrap;
}
@media (max-width: 900px) {
  .top {
    flex-wrap: wrap;
  }
}
</style>
