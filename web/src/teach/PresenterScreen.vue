<script setup lang="ts">
import { METHOD_WORDS } from '@rounds/core/catalogue';
import { onKeyStroke, refDebounced } from '@vueuse/core';
import { Modal } from 'ant-design-vue';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import PlanRing, { type RingMark } from '../drawing/PlanRing.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import SeveralField from '../parts/SeveralField.vue';
import { usePeopleLike } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import { duration } from '../parts/words';
import LessonPicture from './LessonPicture.vue';
import { useEndLesson, useMoveLesson } from './queries';
import { useFollowing } from './useFollowing';

/** The trainer's side of a lesson: the ring as its contents, what to say and ask, and the picture as the room sees it. */
const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
const { query, lesson, pack, slides, slide, position, ended } = useFollowing(() => id);
const move = useMoveLesson();
const problem = ref<unknown>(null);
async function show(change: Partial<typeof position.value>) {
  const next = { ...position.value, ...change };
  next.slide = Math.max(0, Math.min(slides.value.length - 1, next.slide));
  // The presenter sees it at once; the screens follow through the server.
  position.value = next;
  problem.value = null;
  try {
    await move.mutateAsync({ params: { id }, body: next });
  } catch (error) {
    problem.value = error;
  }
}
const jump = (to: number) => show({ slide: to, blank: false, answered: false });
/** Of a fault the room is asked first: the next step shows the answer, the one after goes on. */
const asks = computed(() => slide.value?.item.kind === 'fault' && !position.value.answered);
const go = (by: number) =>
  by > 0 && asks.value ? show({ answered: true, blank: false }) : jump(position.value.slide + by);
const at = computed(() => position.value.slide);
const walked = computed(() => slides.value.slice(0, at.value + 1).flatMap((each) => each.station ?? []));
const left = computed(() => slides.value.slice(at.value + 1).reduce((sum, each) => sum + each.seconds, 0));
const marks = computed(() => {
  const shown: Record<string, RingMark> = {};
  slides.value.forEach((each, i) => {
    if (!each.station || each.item.kind === 'station') return;
    const mark = (shown[each.station] ??= { done: 0, total: 0, state: 'untouched' } as RingMark);
    mark.total += 1;
    if (i <= at.value) mark.done += 1;
    mark.state = mark.done === 0 ? 'untouched' : mark.done === mark.total ? 'complete' : 'begun';
  });
  return shown;
});
function toStation(station: string) {
  const found = slides.value.findIndex((each) => each.station === station);
  if (found >= 0) void jump(found);
}

const next = ref<HTMLButtonElement | null>(null);
/** Chosen by hand, the space bar goes on from there. */
function choose(to: number, { detail }: MouseEvent) {
  void jump(to);
  if (detail > 0) next.value?.focus();
}

const list = ref<HTMLElement | null>(null);
watch(
  [at, () => slides.value.length],
  async () => {
    await nextTick();
    list.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'center' });
  },
  { immediate: true },
);

const ending = ref(false);
const attended = ref<string[]>([]);
const names = ref(new Map<string, string>());
const search = ref('');
const settled = refDebounced(search, 180);
const attendants = usePeopleLike(
  () => settled.value,
  () => ending.value,
);
const choices = computed(() => {
  const found = (attendants.data.value?.rows ?? []).map(({ person }) => ({
    value: person.id,
    label: `${person.givenName} ${person.familyName}`,
    more: `${person.payroll}, ${person.team}`,
  }));
  const chosen = attended.value
    .filter((each) => !found.some((one) => one.value === each))
    .map((value) => ({ value, label: names.value.get(value) ?? value, more: '' }));
  return [...chosen, ...found];
});
watch(choices, (now) => {
  for (const each of now) if (each.label !== each.value) names.value.set(each.value, each.label);
});
const end = useEndLesson();
async function finish() {
  problem.value = null;
  try {
    await end.mutateAsync({ params: { id }, body: { attended: attended.value } });
    ending.value = false;
    await router.push('/teach');
  } catch (error) {
    problem.value = error;
  }
}

const key = (keys: string[], does: () => unknown) =>
  onKeyStroke(keys, (event) => {
    const from = event.target;
    if (ending.value || event.ctrlKey || event.metaKey || event.altKey) return;
    if (from instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(from.tagName)) return;
    if (event.key === ' ' && from instanceof HTMLElement && from.closest('button, [role=button], a')) return;
    event.preventDefault();
    void does();
  });
key([' ', 'ArrowRight', 'PageDown'], () => go(1));
key(['ArrowLeft', 'PageUp'], () => go(-1));
key(['b'], () => show({ blank: !position.value.blank }));
key(['c'], () => show({ pointAndCall: !position.value.pointAndCall }));
</script>

<template>
  <div class="presenter">
    <WorkHeader back="/teach" back-label="Back to lessons" class="head">
      <strong>{{ lesson?.classTitle ?? 'Lesson' }}</strong>
      <span v-if="lesson?.code" class="quiet"
        >Screen: open <b>/screen</b>, code <b class="code">{{ lesson.code }}</b></span
      >
      <template #acts>
        <a v-if="lesson" class="act plain open" :href="`/teach/${id}/screen`" target="_blank" rel="noopener"
          >Open the screen</a
        >
      </template>
      <template v-if="slides.length" #told>
        <strong>{{ at + 1 }} of {{ slides.length }}</strong>
        <span class="quiet">{{ duration(left) }} left</span>
      </template>
    </WorkHeader>
    <StateBox
      :loading="!lesson && !query.error.value"
      :error="lesson ? undefined : query.error.value"
      what="the lesson"
      @retry="query.refetch()"
    >
      <div v-if="lesson && pack && slide" class="body">
        <section class="contents" aria-label="Contents">
          <div v-if="lesson.plan.subject === 'round'" class="ring">
            <PlanRing
              :plan="pack.plan"
              :marks="marks"
              :walked="walked"
              :current="slide.station"
              interactive
              small
              title="Stations of the lesson"
              @station="toStation"
            />
          </div>
          <ol ref="list" class="list" tabindex="0" aria-label="Things shown">
            <li v-for="(each, i) in slides" :key="i">
              <button
                class="thing"
                :class="[each.item.kind, { past: i < at }]"
                :aria-current="i === at ? 'step' : undefined"
                @click="choose(i, $event)"
              >
                {{ each.heading }}
              </button>
            </li>
          </ol>
        </section>
        <section class="say" aria-label="What to say">
          <h1>{{ slide.heading }}</h1>
          <ProblemAlert :problem="problem" />
          <p v-if="ended" class="band">This lesson has ended.</p>
          <p v-if="slide.band.length" class="band">First: {{ slide.band.join('; ') }}</p>
          <p v-if="slide.call" class="call"><span class="quiet">Say:</span> “{{ slide.call }}”</p>
          <dl>
            <div v-for="(each, i) in slide.notes" :key="i">
              <dt>{{ each.label }}</dt>
              <dd>{{ each.text }}</dd>
            </div>
            <div v-for="each in slide.senses" :key="each.method">
              <dt>{{ METHOD_WORDS[each.method] }}</dt>
              <dd>{{ each.shows }}</dd>
            </div>
          </dl>
          <div v-if="slide.ask" class="ask">
            <strong>Ask: {{ slide.ask.question }}</strong>
            <p>{{ slide.ask.answer }}</p>
          </div>
        </section>
        <section class="seen" aria-label="As the room sees it">
          <div class="frame" :class="{ dark: position.blank }">
            <span v-if="position.blank" class="dark-words">The screen is blank</span>
            <LessonPicture
              v-else
              :pack="pack"
              :plan="lesson.plan"
              :slide="slide"
              :walked="walked"
              :point-and-call="position.pointAndCall"
              :answered="position.answered"
            />
          </div>
          <div class="switches" role="group" aria-label="The screen">
            <button class="big" :aria-pressed="position.blank" @click="show({ blank: !position.blank })">
              Blank
            </button>
            <button
              class="big"
              :aria-pressed="position.pointAndCall"
              @click="show({ pointAndCall: !position.pointAndCall })"
            >
              Point and call
            </button>
          </div>
        </section>
        <footer class="steps" role="group" aria-label="Steps of the lesson">
          <button class="big" :disabled="at === 0" @click="go(-1)">Back</button>
          <button
            ref="next"
            class="big primary next"
            :disabled="at >= slides.length - 1 && !asks"
            @click="go(1)"
          >
            {{
              asks
                ? 'Show the answer'
                : slides[at + 1]
                  ? `Next: ${slides[at + 1]!.heading}`
                  : 'That was the last'
            }}
          </button>
          <button class="big" :disabled="ended" @click="ending = true">End the lesson</button>
        </footer>
      </div>
    </StateBox>
    <Modal
      v-model:open="ending"
      title="End the lesson"
      ok-text="End and sign"
      cancel-text="Go on teaching"
      :confirm-loading="end.isLoading.value"
      @ok="finish"
    >
      <p>Who attended has it on their record from today, under your name. It cannot be taken back.</p>
      <SeveralField
        v-model:value="attended"
        label="Who attended"
        placeholder="Find by name or payroll number"
        remote
        :options="choices"
        @search="search = $event"
      />
      <ProblemAlert :problem="problem" />
    </Modal>
  </div>
</template>

<style scoped>
.presenter {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
.head {
  border-bottom: 2px solid var(--ink);
}
.code {
  letter-spacing: 0.12em;
}
.open {
  min-height: 48px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(220px, 3fr) minmax(280px, 4fr) minmax(320px, 5fr);
  grid-template-rows: minmax(0, 1fr) auto;
}
.contents {
  min-height: 0;
  display: flex;
  flex-direction: column;
  border-right: 1px solid var(--line);
}
.ring {
  height: 36%;
  padding: 0.4rem;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  list-style: none;
  padding: 0;
}
.thing {
  font: inherit;
  width: 100%;
  min-height: 44px;
  text-align: left;
  padding: 0.3rem 0.8rem;
  border: 0;
  border-left: 6px solid transparent;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.thing.station {
  font-weight: 700;
}
.thing.fault {
  padding-left: 1.6rem;
}
.thing.past {
  color: var(--quiet);
}
.thing[aria-current] {
  border-left-color: var(--amber);
  background: var(--sheet);
  font-weight: 700;
}
.say {
  min-height: 0;
  overflow-y: auto;
  padding: 0.9rem 1rem;
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
}
.say dt {
  color: var(--quiet);
  font-size: 0.88rem;
}
.say dl {
  display: grid;
  gap: 0.4rem;
}
.band {
  background: var(--amber);
  color: var(--on-amber);
  font-weight: 700;
  padding: 0.4rem 0.7rem;
}
.call {
  font-size: 1.1rem;
}
.ask {
  border-top: 1px solid var(--line);
  padding-top: 0.6rem;
}
.seen {
  min-height: 0;
  overflow-y: auto;
  padding: 0.9rem;
  border-left: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
}
.frame {
  aspect-ratio: 16 / 9;
  border: 3px solid var(--ink);
  overflow: hidden;
}
.dark {
  background: var(--ink);
  display: grid;
  place-items: center;
}
.dark-words {
  color: var(--sheet);
}
.switches {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
.steps {
  grid-column: 1 / -1;
  display: flex;
  gap: 0.5rem;
  padding: 0.5rem 0.75rem;
  border-top: 2px solid var(--ink);
  background: var(--ground);
}
.next {
  flex: 1;
}
@media (max-width: 900px) {
  .presenter {
    height: auto;
    min-height: 100dvh;
  }
  .body {
    display: flex;
    flex-direction: column;
  }
  .contents,
  .seen {
    border: 0;
  }
  .contents {
    order: 3;
  }
  .ring {
    height: 260px;
  }
  .list {
    max-height: 320px;
  }
  .say {
    overflow: visible;
  }
  .steps {
    position: sticky;
    bottom: 0;
    order: 4;
  }
  .seen {
    order: -1;
    overflow: visible;
  }
}
</style>
