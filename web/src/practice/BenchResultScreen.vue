<script setup lang="ts">
import type { AnsweredFinding, AnsweredNumber } from '@rounds/contract/bench';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import ConfusionTable from '../parts/ConfusionTable.vue';
import FindingCard from '../parts/FindingCard.vue';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';
import { BENCH_WORDS } from './benchWords';
import FindingKey from './FindingKey.vue';
import { useBenchOutcome } from './queries';

/** What a bench comes to: how many as the key has them, what that means for so many, and every case with its key. */
const route = useRoute();
const id = String(route.params['id']);
const outcome = useBenchOutcome(() => id);
const found = computed(() => outcome.data.value ?? null);
const findings = computed(() =>
  (found.value?.answered ?? []).filter((each): each is AnsweredFinding => 'finding' in each),
);
const numbers = computed(() =>
  (found.value?.answered ?? []).filter((each): each is AnsweredNumber => 'number' in each),
);
const wholly = (each: AnsweredFinding) => each.gradeRight && each.actRight && each.by !== 'later';
const critical = (each: AnsweredFinding) =>
  each.key.grade === 'stop' && (each.answer.grade === 'sound' || each.answer.grade === 'watch');
const groups = computed(() => [
  { name: 'Stops let go on', cases: findings.value.filter(critical) },
  { name: 'Graded otherwise', cases: findings.value.filter((each) => !each.gradeRight && !critical(each)) },
  {
    name: 'Grade right, but not what to do',
    cases: findings.value.filter((each) => each.gradeRight && !wholly(each)),
  },
  { name: 'Right', cases: findings.value.filter(wholly) },
]);
const answered = computed(() => found.value?.answered.length ?? 0);
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!found && !outcome.error.value"
      :error="found ? undefined : outcome.error.value"
      what="the bench"
      @retry="outcome.refetch()"
    >
      <template v-if="found">
        <div class="row spread">
          <div>
            <h1>
              <span class="score">{{ found.right }}</span> of {{ answered }}
              {{ found.grading ? 'graded as the key has it' : 'known' }}
            </h1>
            <p class="quiet">
              {{ BENCH_WORDS[found.kind].name }}, {{ found.classTitle }},
              {{ found.person?.name ?? 'a try-out' }}, {{ day(found.endedAt) }}.
              <template v-if="answered < found.of">Ended after {{ answered }} of {{ found.of }}.</template>
            </p>
          </div>
          <RouterLink
            v-slot="{ navigate, href }"
            :to="{
              path: '/practise',
              query: { what: 'bench', class: found.classId, person: found.person?.id },
            }"
            custom
            ><Button type="primary" :href="href" @click="navigate">Grade again</Button></RouterLink
          >
        </div>
        <div class="columns">
          <section v-if="found.grading" class="sheet pad stack" aria-label="What it says">
            <ul class="says">
              <li v-for="each in found.grading.says" :key="each">{{ each }}</li>
              <li>
                What to do was right for {{ found.actsRight }} of {{ answered
                }}<template v-if="found.tooLate">, {{ found.tooLate }} times too late</template>.
              </li>
            </ul>
            <ConfusionTable :confusion="found.grading.confusion" />
            <p v-if="found.earlier.length > 0" class="trend">
              <span class="quiet">Before:</span>
              <RouterLink
                v-for="each in found.earlier.slice(-8)"
                :key="each.id"
                :to="`/practise/bench/${each.id}/result`"
                >{{ each.right }} of {{ each.of }}</RouterLink
              >
            </p>
          </section>
          <div class="stack">
            <template v-for="group in groups" :key="group.name">
              <section v-if="group.cases.length > 0" class="sheet pad stack" :aria-label="group.name">
                <h2>
                  {{ group.name }} <span class="quiet">{{ group.cases.length }}</span>
                </h2>
                <div v-for="each in group.cases" :key="each.n" class="case">
                  <FindingCard :finding="each.finding" figures small />
                  <FindingKey :answered="each" />
                </div>
              </section>
            </template>
            <section v-if="numbers.length > 0" class="sheet pad" aria-label="Numbers">
              <ul class="numbers">
                <li v-for="each in numbers" :key="each.n">
                  <strong>{{ each.number.name }}: {{ each.number.options[each.right] }}</strong>
                  <span v-if="each.choice === each.right" class="quiet">right</span>
                  <span v-else class="wrong">you said {{ each.number.options[each.choice] }}</span>
                  <span class="quiet small">{{ each.number.meaning }}. {{ each.origin }}</span>
                </li>
              </ul>
            </section>
          </div>
        </div>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.score {
  font-size: 2.6rem;
}
.columns {
  display: grid;
  grid-template-columns: minmax(320px, 5fr) minmax(0, 7fr);
  gap: 1rem;
  align-items: start;
}
.columns > :only-child {
  grid-column: 1 / -1;
}
.says {
  display: grid;
  gap: 0.5rem;
  list-style: none;
}
.case {
  display: grid;
  gap: 0.7rem;
}
.case + .case {
  border-top: 6px solid var(--line);
  padding-top: 1rem;
}
.trend {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
}
.numbers {
  display: grid;
  gap: 0.9rem;
  list-style: none;
}
.numbers li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.7rem;
}
.numbers .small {
  flex-basis: 100%;
}
.wrong {
  color: var(--crimson);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
