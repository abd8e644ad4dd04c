<script setup lang="ts">
import { classRoutes } from '@rounds/contract/classes';
import type { CourseLayout, EffectivePack } from '@rounds/core/catalogue';
import { courseSvg } from '@rounds/core/drawing';
import { courseFor, machineSize } from '@rounds/core/teaching';
import { Form, InputNumber, Segmented } from 'ant-design-vue';
import { computed, reactive, ref } from 'vue';
import { fileAddress } from '../../device/api';
import FieldItem from '../../parts/FieldItem.vue';
import { useTheme } from '../../parts/theme';
import { PALETTES } from '../../parts/tokens';

/** What is set out with cones for driving: drawn to scale for the machine at hand, with what to bring and measure. */
const props = defineProps<{ pack: EffectivePack }>();
const course = props.pack.teaching.course!;
const theme = useTheme();
const LAYOUT_WORDS: Readonly<Record<CourseLayout, string>> = {
  'figure-of-eight': 'Figure of eight',
  slalom: 'Slalom',
  'square-approach': 'Square approach',
  'reverse-lane': 'Reverse lane',
};
const layout = ref<CourseLayout>(course.layouts[0]!);
const options = course.layouts.map((value) => ({ value, label: LAYOUT_WORDS[value] }));
const size = reactive(machineSize(props.pack.plan, course.turns));
const FIELDS = [
  { key: 'length', label: 'Length, m' },
  { key: 'width', label: 'Width, m' },
  { key: 'turns', label: 'Turns within, m' },
] as const;
const laid = computed(() => {
  try {
    return { course: courseFor(layout.value, { ...size }), problem: '' };
  } catch (error) {
    return { course: null, problem: error instanceof Error ? error.message : '' };
  }
});
const drawing = computed(() => {
  const { ink, quiet, sheet, amber } = PALETTES[theme.name];
  return laid.value.course
    ? courseSvg(laid.value.course, props.pack.plan.outlines, {
        ink: { ink, quiet, ground: sheet, cone: amber },
      })
    : '';
});
const paper = computed(() =>
  fileAddress(
    classRoutes.coursePaper,
    { id: props.pack.id },
    {
      variant: props.pack.fitOut['variant'] ?? '',
      layout: layout.value,
      length: String(size.length),
      width: String(size.width),
      turns: String(size.turns),
    },
  ),
);
</script>

<template>
  <section class="sheet pad course" aria-label="Course to set out">
    <div class="row spread">
      <h2>Course to set out</h2>
      <a v-if="laid.course" :href="paper" target="_blank">Print it, to scale (PDF)</a>
    </div>
    <Segmented
      v-if="options.length > 1"
      class="which"
      :value="layout"
      :options="options"
      aria-label="Which course"
      @change="layout = $event as CourseLayout"
    />
    <div class="halves">
      <div>
        <!-- Made by the core from figures alone. -->
        <!-- eslint-disable vue/no-v-html -->
        <div
          v-if="laid.course"
          class="drawing"
          role="img"
          :aria-label="`${LAYOUT_WORDS[layout]}, to scale`"
          v-html="drawing"
        />
        <!-- eslint-enable vue/no-v-html -->
        <p v-else role="alert">No course comes of this size: {{ laid.problem }}.</p>
      </div>
      <div class="stack">
        <p v-if="laid.course">{{ laid.course.says }}</p>
        <Form layout="vertical" class="sizes">
          <FieldItem v-for="each in FIELDS" :key="each.key" v-slot="{ id }" :label="each.label">
            <InputNumber
              :id="id"
              :value="size[each.key]"
              :min="0.3"
              :max="60"
              :step="0.1"
              @change="size[each.key] = typeof $event === 'number' ? $event : size[each.key]"
            />
          </FieldItem>
        </Form>
        <template v-if="laid.course">
          <h3>What to set out</h3>
          <ul class="bullets">
            <li v-for="each in laid.course.setOut" :key="each">{{ each }}</li>
          </ul>
        </template>
        <p class="quiet small">
          Clearances are common practice; the turn is that of a usual machine, from memory. Measure the
          machine at hand. Whoever teaches on the ground decides.
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.course {
  grid-column: 1 / -1;
  display: grid;
  gap: 0.7rem;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(260px, 2fr);
  gap: 1.2rem;
  align-items: start;
}
.drawing :deep(svg) {
  display: block;
  width: 100%;
  max-height: 62vh;
}
.sizes {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0.6rem;
}
.sizes :deep(.ant-form-item) {
  margin-bottom: 0;
}
.sizes :deep(.ant-input-number) {
  width: 100%;
}
.which {
  justify-self: start;
  max-width: 100%;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
