<script setup lang="ts">
import { type EffectivePack, givesFigures, METHOD_WORDS } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { session } from '@rounds/core/procedure';
import { lessonProcedure, type LessonPlan, type LessonSlide } from '@rounds/core/teaching';
import type { Evidence } from '@rounds/core/drawing/evidence';
import { useElementSize } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import EvidenceDrawing from '../drawing/EvidenceDrawing.vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import MethodSign from '../drawing/MethodSign.vue';
import PlanRing from '../drawing/PlanRing.vue';
import SequenceRail from '../drawing/SequenceRail.vue';

/**
 * One thing as the room sees it: the ring, the rail or what each sense tells fills two thirds, one sentence under it, and
 * along the top what must be brought about first.
 */
const props = defineProps<{
  pack: EffectivePack;
  plan: LessonPlan;
  slide: LessonSlide;
  /** Stations shown so far, in order. */
  walked: readonly string[];
  pointAndCall: boolean;
  /** The grade of a fault, and what to do about it, are shown too. */
  answered: boolean;
}>();
const asked = computed(() => props.slide.item.kind === 'fault' && !props.answered);
const procedure = computed(() => lessonProcedure(props.pack, props.plan.subject));
const rail = computed(() => (procedure.value ? session(props.pack, [procedure.value.id]) : null));
/** Each drawing once, with the methods that show it; beside a fault, the sound part. */
const drawings = computed(() => {
  const found: { says: string; figures: boolean; evidence: Evidence }[] = [];
  for (const { method, drawing } of props.slide.senses) {
    if (!drawing) continue;
    const figures = givesFigures(method);
    const known = found.find((each) => JSON.stringify(each.evidence) === JSON.stringify(drawing));
    if (known) {
      known.says += `, ${METHOD_WORDS[method].toLowerCase()}`;
      known.figures ||= figures;
    } else found.push({ says: METHOD_WORDS[method], figures, evidence: drawing });
  }
  const { soundDrawing } = props.slide;
  const sound =
    soundDrawing && !asked.value ? [{ says: 'Sound', figures: false, evidence: soundDrawing }] : [];
  return [...sound, ...found].slice(0, 3);
});
const next = computed(() => new Set(props.slide.item.kind === 'step' ? [props.slide.item.id] : []));
const shows = computed<'call' | 'ring' | 'rail' | 'senses' | 'words'>(() => {
  const { kind } = props.slide.item;
  if (props.pointAndCall && props.slide.call && kind !== 'fault') return 'call';
  if (kind === 'check' || kind === 'fault') return props.slide.senses.length > 0 ? 'senses' : 'ring';
  if (kind === 'step' || (rail.value && kind !== 'school')) return 'rail';
  return kind === 'school' ? 'words' : 'ring';
});

/** Width that the rail is laid out for; it is made as wide as the picture, and what comes now stands in its middle. */
const RAIL_WIDTH = 620;
const frame = ref<HTMLElement | null>(null);
const track = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(frame);
const scale = computed(() => width.value / RAIL_WIDTH || 1);
const up = ref(0);
watch(
  [() => props.slide.item.id, width, height, shows],
  async () => {
    await nextTick();
    const row = track.value?.querySelector(`[data-step="${CSS.escape(props.slide.item.id)}"]`);
    if (!track.value || !row) return void (up.value = 0);
    const whole = track.value.getBoundingClientRect();
    const { top, height: tall } = row.getBoundingClientRect();
    const middle = top - whole.top + tall / 2;
    up.value = Math.max(0, Math.min(whole.height - height.value, middle - height.value / 2));
  },
  { immediate: true, flush: 'post' },
);
</script>

<template>
  <article class="picture" :aria-label="slide.heading">
    <p v-if="slide.band.length" class="band">First: {{ slide.band.join('; ') }}</p>
    <header class="head">
      <h1>{{ slide.heading }}</h1>
      <p v-if="slide.grade && !asked" class="grade">
        <GradeDisc :grade="slide.grade" :size="56" />{{ GRADE_WORDS[slide.grade] }}
      </p>
    </header>
    <p v-if="shows === 'call'" class="call">“{{ slide.call }}”</p>
    <div v-else-if="shows === 'senses'" class="two" :class="{ compared: drawings.length > 1 }">
      <div class="senses">
        <div v-for="each in slide.senses" :key="each.method" class="sense">
          <span class="by"><MethodSign :method="each.method" />{{ METHOD_WORDS[each.method] }}</span>
          <span class="capital">{{ each.shows }}</span>
        </div>
      </div>
      <div v-if="drawings.length" class="drawings">
        <figure v-for="each in drawings" :key="each.says">
          <EvidenceDrawing :evidence="each.evidence" :figures="each.figures" />
          <figcaption v-if="drawings.length > 1">{{ each.says }}</figcaption>
        </figure>
      </div>
      <div v-else class="ring">
        <PlanRing :plan="pack.plan" :walked="walked" :current="slide.station" small title="Where it is" />
      </div>
    </div>
    <ul v-else-if="shows === 'words'" class="words">
      <li v-for="each in slide.notes" :key="each.text" :class="{ here: each.label === 'Here' }">
        <strong>{{ each.label }}</strong> {{ each.text }}
      </li>
    </ul>
    <div v-else-if="shows === 'rail' && rail" ref="frame" class="rail">
      <div
        ref="track"
        class="track"
        :style="{ width: `${RAIL_WIDTH}px`, transform: `translateY(${-up}px) scale(${scale})` }"
      >
        <SequenceRail :session="rail" :next="next" :label="procedure!.title" />
      </div>
    </div>
    <div v-else class="ring">
      <PlanRing
        :plan="pack.plan"
        :walked="walked"
        :current="slide.station"
        small
        title="The walk round the machine"
      />
    </div>
    <p v-if="asked" class="sentence">{{ slide.ask?.question }}</p>
    <p v-else-if="slide.sentence && shows !== 'call'" class="sentence">{{ slide.sentence }}</p>
  </article>
</template>

<style scoped>
.picture {
  container-type: size;
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 2cqh;
  padding: 0 4cqw 4cqh;
  background: var(--ground);
  color: var(--ink);
  overflow: hidden;
}
.band {
  margin: 0 -4cqw;
  padding: 1.6cqh 4cqw;
  background: var(--amber);
  color: var(--on-amber);
  font-weight: 700;
  font-size: clamp(14px, 3.4cqh, 40px);
}
.head {
  display: flex;
  align-items: center;
  gap: 2cqw;
  padding-top: 3cqh;
}
.head h1 {
  font-size: clamp(18px, 6cqh, 68px);
}
.grade {
  display: flex;
  align-items: center;
  gap: 1cqw;
  font-weight: 700;
  font-size: clamp(16px, 5cqh, 56px);
}
.head {
  justify-content: space-between;
}
.two {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 3cqw;
}
.two.compared {
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
}
.drawings {
  min-height: 0;
  display: flex;
  gap: 2cqw;
}
.drawings figure {
  flex: 1;
  min-width: 0;
  min-height: 0;
  margin: 0;
  display: flex;
  flex-direction: column;
  justify-content: center;
}
.drawings :deep(.evidence) {
  height: auto;
  max-height: 60cqh;
}
.drawings figcaption {
  text-align: center;
  font-weight: 700;
  font-size: clamp(13px, 3cqh, 32px);
}
.senses {
  flex: 1;
  min-height: 0;
  display: grid;
  gap: 2cqh;
  align-content: center;
}
.sense {
  display: grid;
  grid-template-columns: minmax(5.5em, 18cqw) 1fr;
  align-items: center;
  gap: 2cqw;
  font-size: clamp(14px, 4cqh, 44px);
  line-height: 1.2;
}
.by {
  display: flex;
  align-items: center;
  gap: 0.5em;
  font-weight: 700;
}
.by :deep(.sign) {
  width: 1.5em;
  height: 1.5em;
}
.call {
  flex: 1;
  display: grid;
  place-content: center;
  text-align: center;
  font-weight: 700;
  font-size: clamp(20px, 9cqh, 96px);
  line-height: 1.15;
}
.ring {
  flex: 1;
  min-height: 0;
}
.rail {
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
.track {
  transform-origin: top left;
}
.words {
  flex: 1;
  display: grid;
  align-content: center;
  gap: 2cqh;
  font-size: clamp(14px, 4cqh, 44px);
}
.words .here {
  border-left: 8px solid var(--petrol);
  padding-left: 1cqw;
}
.sentence {
  font-size: clamp(15px, 5cqh, 56px);
  line-height: 1.2;
}
</style>
