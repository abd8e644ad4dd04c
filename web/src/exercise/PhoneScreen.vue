<script setup lang="ts">
import { exerciseRoutes, type ExercisePhone } from '@rounds/contract/exercise';
import { type Grade, GRADES } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { useDocumentVisibility, useOnline } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { explain } from '../device/api';
import { useSession } from '../device/session';
import { listen } from '../device/stream';
import GradeDisc from '../drawing/GradeDisc.vue';
import FindingCard from '../parts/FindingCard.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useGrade, usePhone } from './queries';

/**
 * A phone in a class exercise: the finding, four buttons, and nothing of anybody else. It comes back to its place after
 * sleep, a reload or another network.
 */
const route = useRoute();
const id = String(route.params['id']);
const query = usePhone(() => id);
const send = useGrade();
const phone = shallowRef<ExercisePhone | null>(null);
const problem = ref<unknown>(null);
/** The result of one's own, told when the room closes: a guest's place is gone by then. */
const result = shallowRef<ExercisePhone['result']>(null);
const ended = ref(false);
const session = useSession();
const putOut = ref(false);
/** A guest whose seat is gone: put out, or the room closed while the phone slept. */
const gone = computed(
  () =>
    putOut.value ||
    (!session.account &&
      ['not-signed-in', 'not-found'].includes(query.error.value ? explain(query.error.value).code : '')),
);
watch(
  () => query.data.value,
  (now) => {
    if (!now) return;
    phone.value = now;
    if (now.state === 'ended') {
      ended.value = true;
      result.value = now.result;
    }
  },
  { immediate: true },
);
let stop = () => {};
function follow() {
  stop();
  stop = listen(exerciseRoutes.followExercise, { params: { id } }, (event) => {
    if (event.kind === 'ended') {
      ended.value = true;
      result.value = event.result;
    } else if (event.kind === 'left') putOut.value = true;
    else void query.refetch();
  });
}
follow();
onBeforeUnmount(() => stop());
// A phone that slept or changed its network looks where the room is by now.
const seen = useDocumentVisibility();
const online = useOnline();
watch([seen, online], () => {
  if (seen.value !== 'visible' || !online.value || ended.value) return;
  follow();
  void query.refetch();
});

async function grade(given: Grade) {
  const { n } = phone.value!;
  problem.value = null;
  try {
    phone.value = await send.mutateAsync({ params: { id }, body: { n: n!, grade: given } });
  } catch (error) {
    problem.value = error;
    void query.refetch();
  }
}
const says = computed(() => {
  switch (phone.value?.state) {
    case 'waiting':
      return 'You are in. Wait for the first finding.';
    case 'open':
      return phone.value.mine ? 'Kept. You may change it until it is revealed.' : 'How bad is it?';
    case 'closed':
      return phone.value.mine ? 'Look at the big screen.' : 'Not graded in time. Look at the big screen.';
    default:
      return '';
  }
});
</script>

<template>
  <main class="phone">
    <section v-if="ended" class="over">
      <h1>The exercise has ended</h1>
      <p v-if="result && result.of > 0" class="result">
        <strong>{{ result.right }} of {{ result.of }}</strong> as the key has them
      </p>
      <p class="quiet">Thank you for taking part.</p>
    </section>
    <section v-else-if="gone" class="over">
      <h1>You are not in this room</h1>
      <p>It has ended, or the trainer has put you out of it.</p>
      <RouterLink to="/join">Come in with the code on the big screen</RouterLink>
    </section>
    <StateBox
      v-else
      :loading="!phone && !query.error.value"
      :error="phone ? undefined : query.error.value"
      what="the exercise"
      @retry="query.refetch()"
    >
      <template v-if="phone">
        <header class="row spread">
          <h1>{{ phone.title }}</h1>
          <strong v-if="phone.n !== null">{{ phone.n + 1 }} of {{ phone.of }}</strong>
        </header>
        <div class="what">
          <FindingCard v-if="phone.finding" :finding="phone.finding" />
        </div>
        <footer>
          <p role="status">
            <strong>{{ says }}</strong>
          </p>
          <ProblemAlert :problem="problem" />
          <div v-if="phone.n !== null" class="four" role="group" aria-label="How bad is it?">
            <button
              v-for="each in GRADES"
              :key="each"
              type="button"
              class="big"
              :aria-pressed="phone.mine === each"
              :disabled="phone.state !== 'open' || send.isLoading.value"
              @click="grade(each)"
            >
              <GradeDisc :grade="each" :size="30" />{{ GRADE_WORDS[each] }}
            </button>
          </div>
        </footer>
      </template>
    </StateBox>
  </main>
</template>

<style scoped>
.phone {
  min-height: 100dvh;
  max-width: 700px;
  margin: 0 auto;
  padding: 0.8rem;
  display: flex;
  flex-direction: column;
  gap: 0.8rem;
}
h1 {
  font-size: 1.1rem;
}
.what {
  flex: 1;
}
footer {
  position: sticky;
  bottom: 0;
  background: var(--ground);
  padding: 0.5rem 0;
  display: grid;
  gap: 0.5rem;
}
.four {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.5rem;
}
.four .big {
  min-height: 84px;
  gap: 0.3rem;
  font-size: 1.1rem;
}
.big[aria-pressed='true'] :deep(.disc) {
  color: var(--on-petrol);
}
.big[aria-pressed='true'] :deep(.disc.stop path:last-of-type) {
  stroke: var(--petrol);
}
.over {
  margin: auto;
  text-align: center;
  display: grid;
  gap: 0.8rem;
}
.result strong {
  display: block;
  font-size: 2.6rem;
}
</style>
