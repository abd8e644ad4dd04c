<script setup lang="ts">
import type { Participant } from '@rounds/contract/exercise';
import { GRADES } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { onKeyStroke } from '@vueuse/core';
import { Button, InputNumber, Popover, QRCode } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import GradeDisc from '../drawing/GradeDisc.vue';
import { askFirst } from '../parts/askFirst';
import FindingCard from '../parts/FindingCard.vue';
import KeyReasons from '../parts/KeyReasons.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import { amount } from '../parts/words';
import { useCountCards, useEndExercise, useMoveExercise, usePutOut } from './queries';
import SpreadBars from './SpreadBars.vue';
import { useRoom } from './useRoom';

/**
 * The trainer's side of a class exercise: who is in, who has answered and not what, then the spread, the key and who
 * said what; cards of those without a phone are tapped in.
 */
const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
const { query, room, take } = useRoom(id);
const move = useMoveExercise();
const count = useCountCards();
const ending = useEndExercise();
const puttingOut = usePutOut();
const problem = ref<unknown>(null);
const busy = computed(() => move.isLoading.value || ending.isLoading.value);
const address = computed(() => `${location.origin}/join/${room.value?.code ?? ''}`);
/** Phones do not find a machine by the name it has for itself. */
const alone = ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname);
const answered = computed(() => room.value?.participants.filter((each) => each.answered).length ?? 0);
const last = computed(() => room.value !== null && room.value.n === room.value.of - 1);

async function act(body: { show: number } | { reveal: true }) {
  problem.value = null;
  try {
    take(await move.mutateAsync({ params: { id }, body }));
  } catch (error) {
    problem.value = error;
  }
}
const step = () => {
  const now = room.value;
  if (!now || busy.value || now.ended) return;
  if (now.n === null) void act({ show: 0 });
  else if (!now.revealed) void act({ reveal: true });
  else if (!last.value) void act({ show: now.n + 1 });
};
onKeyStroke(['ArrowRight', 'PageDown'], (event) => {
  if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(event.target.tagName)) return;
  event.preventDefault();
  step();
});

/** Cards as they are typed, kept when the field is left. */
const cards = ref<number[]>([0, 0, 0, 0]);
watch(
  () => [room.value?.n, room.value?.cards] as const,
  ([, kept]) => (cards.value = [...(kept ?? [0, 0, 0, 0])]),
  { immediate: true },
);
async function keepCards() {
  const n = room.value?.n;
  if (n === null || n === undefined) return;
  if (cards.value.join() === (room.value!.cards ?? [0, 0, 0, 0]).join()) return;
  problem.value = null;
  try {
    take(await count.mutateAsync({ params: { id }, body: { n, counts: cards.value } }));
  } catch (error) {
    problem.value = error;
  }
}
function end() {
  askFirst(
    {
      title: 'End the exercise?',
      content: 'The room closes: guests leave, and everybody has their result on record.',
      act: 'End it',
      stay: 'Go on',
    },
    async () => {
      problem.value = null;
      try {
        await ending.mutateAsync({ params: { id } });
        await router.push(`/teach/exercise/${id}/report`);
      } catch (error) {
        problem.value = error;
      }
    },
  );
}
/** Guests are put out only while this is asked for, so that no touch beside a name does it. */
const choosesGuest = ref(false);
const hasGuests = computed(() => room.value?.participants.some((each) => each.guest) ?? false);
function putOut({ id: participant, name }: Participant) {
  askFirst(
    {
      title: `Put ${name} out of the room?`,
      content: 'What they graded counts for nothing. With the code they can come in again.',
      act: 'Put out',
      stay: 'Keep them in',
      grave: true,
    },
    async () => {
      problem.value = null;
      try {
        take(await puttingOut.mutateAsync({ params: { id, participant } }));
      } catch (error) {
        problem.value = error;
      }
    },
  );
}
const openWall = () => window.open(`/teach/exercise/${id}/screen`, 'rounds-exercise');
</script>

<template>
  <div class="leading">
    <StateBox
      :loading="!room && !query.error.value"
      :error="room ? undefined : query.error.value"
      what="the exercise"
      @retry="query.refetch()"
    >
      <template v-if="room">
        <WorkHeader back="/teach/exercise" back-label="Back to exercises">
          <h1>{{ room.title }}</h1>
          <span class="quiet">{{ room.classTitle }}</span>
          <template #acts>
            <Popover trigger="click" placement="bottomRight">
              <template #content>
                <QRCode :value="address" :size="220" color="#11302e" bg-color="#ffffff" />
                <p class="quiet">{{ address }}</p>
              </template>
              <Button size="large"
                >Join: <strong class="code">{{ room.code ?? 'ended' }}</strong></Button
              >
            </Popover>
            <Button size="large" @click="openWall">Big screen</Button>
            <Button v-if="!room.ended" size="large" danger :disabled="busy" @click="end">End</Button>
          </template>
          <template #told>
            <strong v-if="room.n !== null">{{ room.n + 1 }} of {{ room.of }}</strong>
          </template>
        </WorkHeader>
        <p v-if="alone && !room.ended" class="hint">
          Phones cannot reach “{{ address.split('/')[2] }}”. Open this page by the name or number that this
          computer has on the building’s network.
        </p>
        <div class="body">
          <section class="sheet pad stack" aria-label="Finding">
            <template v-if="room.ended">
              <h2>The exercise has ended</h2>
              <RouterLink :to="`/teach/exercise/${id}/report`">What the room showed</RouterLink>
            </template>
            <template v-else-if="room.n === null">
              <h2>{{ amount(room.of, 'finding is', 'findings are') }} ready</h2>
              <p>Put the big screen up, wait until everybody is in, then show the first.</p>
            </template>
            <template v-else>
              <FindingCard v-if="room.finding" :finding="room.finding" :figures="room.revealed" />
              <template v-if="room.spread && room.key">
                <SpreadBars :spread="room.spread" :key-grade="room.key.grade" />
                <KeyReasons :grading="room.key" />
              </template>
            </template>
          </section>
          <section class="sheet pad stack" aria-label="The room">
            <h2>
              {{ answered }} of {{ room.participants.length }}
              <span class="quiet">{{ room.n === null ? 'in the room' : 'answered' }}</span>
            </h2>
            <ul class="people" aria-label="Who is in the room">
              <li v-for="each in room.participants" :key="each.id" :class="{ done: each.answered }">
                <GradeDisc v-if="each.grade" :grade="each.grade" :label="GRADE_WORDS[each.grade]" />
                <span v-else class="mark" aria-hidden="true">{{ each.answered ? '✓' : '' }}</span>
                <span>{{ each.name }}</span>
                <Button
                  v-if="each.guest && choosesGuest && !room.ended"
                  danger
                  :aria-label="`Put ${each.name} out`"
                  @click="putOut(each)"
                  >Put out</Button
                >
                <span v-else-if="each.guest" class="quiet small">guest</span>
                <span v-if="each.answered && !each.grade" class="visually-hidden">has answered</span>
              </li>
            </ul>
            <p v-if="room.participants.length === 0" class="quiet">Nobody is in yet.</p>
            <Button
              v-if="hasGuests && !room.ended"
              class="out"
              :aria-pressed="choosesGuest"
              @click="choosesGuest = !choosesGuest"
              >{{ choosesGuest ? 'Everybody stays' : 'Put a guest out' }}</Button
            >
            <fieldset v-if="room.n !== null && !room.ended" class="cards">
              <legend>Cards of those without a phone</legend>
              <label v-for="(grade, i) in GRADES" :key="grade">
                <span><GradeDisc :grade="grade" :size="18" /> {{ GRADE_WORDS[grade] }}</span>
                <InputNumber
                  :value="cards[i]"
                  :min="0"
                  :max="500"
                  :precision="0"
                  :aria-label="`Cards: ${GRADE_WORDS[grade]}`"
                  @change="cards[i] = typeof $event === 'number' ? $event : 0"
                  @blur="keepCards"
                  @press-enter="keepCards"
                />
              </label>
            </fieldset>
          </section>
        </div>
        <footer v-if="!room.ended" class="thumb">
          <ProblemAlert :problem="problem" />
          <div class="steps">
            <button
              class="big"
              :disabled="busy || room.n === null || room.n === 0"
              @click="act({ show: room.n! - 1 })"
            >
              Back
            </button>
            <button class="big primary" :disabled="busy || (room.revealed && last)" @click="step">
              {{
                room.n === null
                  ? 'Show the first finding'
                  : !room.revealed
                    ? `Reveal (${answered} of ${room.participants.length} answered)`
                    : last
                      ? 'That was the last'
                      : 'Next finding'
              }}
            </button>
          </div>
        </footer>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.leading {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
h1 {
  font-size: 1rem;
}
.code {
  letter-spacing: 0.15em;
  margin-left: 0.3rem;
}
.hint {
  background: var(--raised);
  border-left: 6px solid var(--amber);
  padding: 0.4rem 0.9rem;
}
.body {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0.75rem;
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(280px, 4fr);
  gap: 0.75rem;
  align-items: start;
}
.people {
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 0.35rem;
}
.people li {
  display: flex;
  align-items: center;
  gap: 0.4rem;
  min-height: 2.2rem;
  border-bottom: 1px solid var(--line);
}
.people .done {
  font-weight: 700;
}
.mark {
  width: 22px;
  text-align: center;
  color: var(--petrol);
}
.out {
  align-self: start;
  justify-self: start;
}
.cards {
  border: 1px solid var(--line);
  padding: 0.6rem;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.5rem;
}
.cards label {
  display: grid;
  gap: 0.2rem;
}
.thumb {
  border-top: 2px solid var(--ink);
  background: var(--ground);
  padding: 0.5rem 0.75rem;
}
.steps {
  display: grid;
  grid-template-columns: 8rem 1fr;
  gap: 0.6rem;
}
.steps .big {
  min-height: 60px;
}
@media (max-width: 900px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
