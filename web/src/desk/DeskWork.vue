<script setup lang="ts">
import { SoundOutlined } from '@ant-design/icons-vue';
import type { DeskView } from '@rounds/contract/desk';
import { momentWords } from '@rounds/core/procedure';
import { onKeyStroke } from '@vueuse/core';
import { Button, Segmented } from 'ant-design-vue';
import { computed, watch } from 'vue';
import { useRouter } from 'vue-router';
import SequenceRail from '../drawing/SequenceRail.vue';
import { askFirst } from '../parts/askFirst';
import ProblemAlert from '../parts/ProblemAlert.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import DeskActs from './DeskActs.vue';
import DeskCard from './DeskCard.vue';
import DeskControls from './DeskControls.vue';
import DeskPlaces from './DeskPlaces.vue';
import DeskSenses from './DeskSenses.vue';
import { MODE_WORDS, PROGRAM_WORDS } from './deskWords';
import { useDesk } from './useDesk';
import { useDeskSound } from './useDeskSound';
import { type Speed, SPEED_CHOICES } from './useMachine';

/** A run under way: where one is, what is perceived there, what is in reach; below it the clock, and the way if it is shown. */
const props = defineProps<{ view: DeskView }>();
const router = useRouter();
const result = `/practise/desk/${props.view.id}/result`;
if (props.view.ended) void router.replace(result);
const desk = useDesk(props.view);
const { told, speed, problem, unsent, seconds } = desk;
const sound = useDeskSound(desk);
const soundWords = computed(() =>
  sound.failed.value
    ? 'There is no sound to be had here; all of it is written'
    : sound.names.value.length > 0
      ? `Sounds now: ${sound.names.value.join(', ')}`
      : 'What is heard, as sound; it is always written too',
);

const guided = computed(() => props.view.mode === 'guided' && desk.session.steps.length > 0);
const next = computed(() => new Set(desk.next.value.map((each) => each.id)));
const nextWords = computed(() => desk.next.value.slice(0, 3).map((each) => each.do));
/** Rules that are broken just now; a test tells of them at the end. */
const broken = computed(() => {
  if (props.view.mode === 'test') return [];
  const said = new Map(desk.pack.forbidden.map((each) => [each.id, each.rule]));
  return desk.state.value.breaches
    .filter((each) => each.to === null)
    .flatMap((each) => said.get(each.id) ?? []);
});
const titles = computed(() =>
  props.view.mode === 'free'
    ? PROGRAM_WORDS.free.name
    : `${PROGRAM_WORDS[props.view.program].name}, ${MODE_WORDS[props.view.mode].name.toLowerCase()}`,
);
/** The clock by key, also while something is held. */
const CLOCK_KEYS: Readonly<Record<string, Speed>> = { p: 0, '1': 1, '2': 10, '3': 60 };
onKeyStroke(Object.keys(CLOCK_KEYS), (event) => {
  const from = event.target;
  if (
    from instanceof HTMLElement &&
    /^(INPUT|TEXTAREA|SELECT)$/.test(from.tagName) &&
    from.getAttribute('type') !== 'radio'
  )
    return;
  if (!event.ctrlKey && !event.metaKey && !event.altKey) speed.value = CLOCK_KEYS[event.key]!;
});

async function end() {
  if (await desk.end()) await router.replace(result);
}
const askEnd = () =>
  askFirst(
    {
      title: 'End the run?',
      content: 'It is judged as it stands now. What has not been done counts as left out.',
      act: 'End it',
      stay: 'Go on',
    },
    end,
  );
watch(desk.full, (now) => {
  if (now) void end();
});
</script>

<template>
  <div class="desk">
    <WorkHeader back="/practise" back-label="Back to practice">
      <h1>{{ view.classTitle }}</h1>
      <span class="quiet small">{{ titles }}, {{ view.person?.name ?? 'a try-out, for nobody' }}</span>
      <template #acts>
        <Button type="primary" :loading="desk.ending.value" @click="askEnd">End</Button>
      </template>
    </WorkHeader>
    <div class="work" :class="{ guided }">
      <div class="stack left">
        <DeskPlaces :desk="desk" />
      </div>
      <div class="stack middle">
        <DeskSenses :desk="desk" />
        <p v-for="each in broken" :key="each" class="breach" role="alert">{{ each }}</p>
        <ProblemAlert :problem="problem" />
        <DeskControls :desk="desk" />
        <DeskActs :desk="desk" />
      </div>
      <aside v-if="guided" class="rail-side" aria-label="The way" tabindex="0">
        <h2>May come next</h2>
        <ul class="next">
          <li v-for="each in nextWords" :key="each">{{ each }}</li>
          <li v-if="nextWords.length === 0" class="quiet">Everything is done. End the run.</li>
        </ul>
        <SequenceRail
          :session="desk.session"
          :judgement="desk.judgement.value"
          :trace="desk.trace.value"
          :next="next"
          label="The way through it"
        />
      </aside>
    </div>
    <DeskCard :desk="desk" />
    <footer class="bar">
      <span class="clock" aria-label="Machine time">{{ momentWords(Math.floor(seconds)) }}</span>
      <Segmented
        :value="speed"
        :options="SPEED_CHOICES"
        size="large"
        aria-label="How fast the machine's clock runs"
        title="Keys: P pauses, 1 real time, 2 ten times, 3 sixty times"
        @change="speed = Number($event) as Speed"
      />
      <Button
        size="large"
        :type="sound.on.value ? 'primary' : 'default'"
        aria-label="Sound"
        :aria-pressed="sound.on.value"
        :title="soundWords"
        @click="sound.toggle"
      >
        <template #icon><SoundOutlined /></template>
        <span class="sound-word">Sound</span>
      </Button>
      <p class="told grow" role="status" aria-live="polite">
        <template v-if="told[0]">
          <strong v-if="told[0].refused" class="refused">Not from here: </strong>{{ told[0].says }}
        </template>
        <span v-else class="quiet">What you do is told here.</span>
      </p>
      <span v-if="unsent" class="quiet small">Kept on this device; no network</span>
    </footer>
  </div>
</template>

<style scoped>
h1 {
  font-size: 1rem;
  line-height: 1.25;
}
.desk {
  min-height: 100vh;
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
}
.work {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(220px, 280px) minmax(0, 1fr);
  gap: 1rem;
  padding: 0.8rem 1rem 5.5rem;
  align-items: start;
}
.work.guided {
  grid-template-columns: minmax(200px, 240px) minmax(0, 1fr) minmax(260px, 330px);
}
.left,
.rail-side {
  position: sticky;
  top: 0.8rem;
}
.rail-side {
  max-height: calc(100dvh - 10rem);
  overflow: auto;
  padding-left: 0.8rem;
  border-left: 1px solid var(--line);
}
.next {
  margin: 0.3rem 0 0.8rem;
  display: grid;
  gap: 0.3rem;
}
.next li {
  border-left: 6px solid var(--amber);
  padding-left: 0.6rem;
}
.breach {
  border-left: 8px solid var(--crimson);
  padding: 0.3rem 0.7rem;
  background: var(--sheet);
  font-weight: 700;
}
.bar {
  position: fixed;
  inset: auto 0 0 0;
  display: flex;
  align-items: center;
  gap: 0.9rem;
  padding: 0.5rem 1rem;
  background: var(--sheet);
  border-top: 2px solid var(--ink);
  z-index: 5;
}
.clock {
  font-size: 1.4rem;
  font-weight: 700;
  min-width: 4.5em;
}
.told {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  -webkit-box-orient: vertical;
}
.refused {
  color: var(--crimson);
}
@media (max-width: 1000px) {
  .work,
  .work.guided {
    grid-template-columns: minmax(0, 1fr);
  }
  .left,
  .rail-side {
    position: static;
    max-height: none;
  }
  .rail-side {
    border-left: 0;
    padding-left: 0;
    order: -1;
  }
  .left :deep(.plan) {
    max-height: 150px;
  }
  .work,
  .work.guided {
    padding-bottom: 9rem;
  }
  .bar {
    flex-wrap: wrap;
    gap: 0.4rem 0.6rem;
    padding-inline: 0.6rem;
  }
  .clock {
    min-width: 3.2em;
  }
  .sound-word {
    display: none;
  }
  .told {
    order: -1;
    flex-basis: 100%;
  }
}
</style>
