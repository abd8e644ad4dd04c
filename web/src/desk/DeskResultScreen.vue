<script setup lang="ts">
import {
  askedOf,
  type DeskDeal,
  type DeskPack,
  type DeskResult,
  deskWords,
  isHandled,
} from '@rounds/core/machine';
import { judge, judgementWords, momentWords, tellsCriticalFlaw } from '@rounds/core/procedure';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import SequenceRail from '../drawing/SequenceRail.vue';
import StateBox from '../parts/StateBox.vue';
import { duration, moment } from '../parts/words';
import { PROGRAM_WORDS } from './deskWords';
import { useDeskOutcome } from './queries';

/** What a run at the desk comes to: the score, what went otherwise, what was forbidden, what was done about what failed. */
const id = String(useRoute().params['id']);
const outcome = useDeskOutcome(() => id);
const found = computed(() => {
  const told = outcome.data.value;
  if (!told) return null;
  const pack = told.pack as DeskPack;
  const deal = told.deal as DeskDeal;
  const result = told.result as DeskResult;
  return { told, pack, result, judgement: judge(pack, deal.procedures, result.trace) };
});
const words = computed(() =>
  found.value
    ? judgementWords(found.value.judgement, found.value.result.trace)
        // Rules are told above, with their moment and length.
        .filter((each) => each.kind !== 'rule')
    : [],
);
const rules = computed(() => {
  if (!found.value) return [];
  const said = new Map(found.value.pack.forbidden.map((each) => [each.id, each.rule]));
  return found.value.result.breaches.map((each) => ({
    ...each,
    says: said.get(each.id) ?? each.id,
    lasted: (each.to ?? found.value!.result.seconds) - each.from,
  }));
});
const failures = computed(() => {
  if (!found.value) return [];
  const { pack, result } = found.value;
  return result.reactions.map((each) => {
    const row = pack.machine.failures.find((one) => one.id === each.failure);
    const says = (text: string) => deskWords(pack.machine.desk!, text);
    return {
      ...each,
      title: row?.failure ?? each.failure,
      shows: row?.shows ?? '',
      response: row?.response ?? '',
      handled: isHandled(each),
      right: each.right.map((one) => ({ ...one, says: says(one.text) })),
      wrong: each.wrong.filter((one) => one.at !== null).map((one) => ({ ...one, says: says(one.text) })),
    };
  });
});
/** What was asked on the way, about what a desk cannot show. */
const asked = computed(() => {
  if (!found.value) return [];
  const { pack, result } = found.value;
  const said = new Map(pack.forbidden.map((each) => [each.id, each.rule]));
  return (result.cards ?? []).map((each) => {
    const card = askedOf(pack.machine.desk!, each.rule);
    return {
      ...each,
      says: card?.says ?? '',
      rightly: card?.right ?? '',
      forbidden: said.get(each.rule) ?? each.rule,
    };
  });
});
const never = computed(() => {
  const deal = found.value?.told.deal as DeskDeal | undefined;
  return (deal?.failures.length ?? 0) > 0 && failures.value.length === 0;
});
const score = computed(() => {
  const of = found.value?.result.score;
  return of === null || of === undefined ? null : Math.round(of);
});
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!found && !outcome.error.value"
      :error="found ? undefined : outcome.error.value"
      what="the run at the desk"
      @retry="outcome.refetch()"
    >
      <template v-if="found">
        <div class="row spread">
          <div>
            <h1>
              <template v-if="score !== null"
                ><span class="score">{{ score }}</span> of 100,
                {{
                  found.result.critical === 0
                    ? 'nothing critical'
                    : found.result.critical === 1
                      ? 'one critical flaw'
                      : `${found.result.critical} critical flaws`
                }}</template
              >
              <template v-else>Tried out: nothing is judged</template>
            </h1>
            <p class="quiet">
              {{ found.told.classTitle }}, {{ PROGRAM_WORDS[found.told.program].name.toLowerCase() }},
              {{ found.told.person?.name ?? 'a try-out' }}, {{ moment(found.told.endedAt) }},
              {{ duration(found.result.seconds) }} of machine time.
            </p>
          </div>
          <RouterLink
            v-slot="{ navigate, href }"
            :to="{ path: '/practise', query: { what: 'desk', class: found.told.classId } }"
            custom
            ><Button type="primary" :href="href" @click="navigate">To the desk again</Button></RouterLink
          >
        </div>
        <div class="halves">
          <div class="stack">
            <section v-for="each in failures" :key="each.failure" class="sheet pad" :aria-label="each.title">
              <h2>
                <span :class="each.handled ? 'good' : 'stopped'">{{
                  each.handled ? 'Handled' : 'Not handled'
                }}</span>
                {{ each.title }}
              </h2>
              <p class="quiet">
                Began at {{ momentWords(each.begun) }}.
                {{
                  each.seen === null
                    ? 'It could never be perceived from where you stood.'
                    : `To be perceived after ${duration(each.seen - each.begun)}.`
                }}
                {{ each.shows }}
              </p>
              <ul class="reactions">
                <li v-for="one in each.right" :key="one.text" :class="{ missed: one.at === null }">
                  <strong>{{
                    one.at === null ? 'Not done' : `After ${duration(one.at - each.begun)}`
                  }}</strong>
                  {{ one.says }}
                </li>
                <li v-for="one in each.wrong" :key="one.text" class="wrong">
                  <strong>Wrong, after {{ duration(one.at! - each.begun) }}</strong> {{ one.says }}
                </li>
              </ul>
              <p v-if="!each.handled"><strong>What it wants:</strong> {{ each.response }}</p>
            </section>
            <p v-if="never" class="sheet pad">
              Something was to go wrong, but the run never came to where it begins.
            </p>
            <section v-for="each in asked" :key="each.rule" class="sheet pad" aria-label="What you would do">
              <h2>
                <span :class="each.right ? 'good' : 'stopped'">{{
                  each.right ? 'Answered right' : each.chose === null ? 'Not answered' : 'Answered wrong'
                }}</span>
                {{ each.says }}
              </h2>
              <p v-if="each.chose">{{ each.chose }}</p>
              <template v-if="!each.right">
                <p><strong>What it wants:</strong> {{ each.rightly }}</p>
                <p class="quiet">Forbidden: {{ each.forbidden }}</p>
              </template>
            </section>
            <section v-if="rules.length > 0" class="sheet pad" aria-label="Forbidden">
              <h2>Forbidden, and done</h2>
              <ul class="reactions">
                <li v-for="each in rules" :key="`${each.id} ${each.from}`" class="wrong">
                  <strong>{{ momentWords(each.from) }}, for {{ duration(each.lasted) }}:</strong>
                  {{ each.says }}
                </li>
              </ul>
            </section>
            <section v-if="score !== null" class="sheet pad" aria-label="What the judge says">
              <h2>What went how</h2>
              <ol class="words">
                <li
                  v-for="(each, i) in words"
                  :key="i"
                  :class="{ critical: tellsCriticalFlaw(each), note: each.kind === 'note' }"
                >
                  {{ each.says }}
                </li>
              </ol>
            </section>
            <section v-if="found.told.earlier.length > 0" class="sheet pad" aria-label="Earlier runs">
              <h2>Earlier runs</h2>
              <ul>
                <li v-for="each in found.told.earlier" :key="each.id">
                  <RouterLink :to="`/practise/desk/${each.id}/result`">{{
                    each.score === null ? 'tried out' : Math.round(each.score)
                  }}</RouterLink>
                  {{ moment(each.endedAt) }},
                  {{ each.critical === 0 ? 'nothing critical' : `${each.critical} critical` }},
                  {{ duration(each.seconds) }}
                </li>
              </ul>
            </section>
          </div>
          <SequenceRail
            v-if="score !== null"
            :session="found.judgement.session"
            :judgement="found.judgement"
            :trace="found.result.trace"
            label="What was done"
          />
        </div>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.score {
  font-size: 2.6rem;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 1.5rem;
  align-items: start;
}
.good {
  background: var(--petrol);
  color: var(--on-petrol);
  border-radius: 3px;
  padding: 0.05rem 0.45rem;
}
.reactions,
.words {
  list-style: none;
  margin: 0.4rem 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}
.reactions li,
.words li {
  border-left: 6px solid var(--petrol);
  padding: 0.1rem 0 0.1rem 0.7rem;
}
.words li {
  border-left-color: var(--line);
}
.reactions .missed {
  border-left-style: dashed;
  border-left-color: var(--crimson);
}
.reactions .wrong,
.words .critical {
  border-left-color: var(--crimson);
  font-weight: 700;
}
.words .note {
  border-left-color: transparent;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
