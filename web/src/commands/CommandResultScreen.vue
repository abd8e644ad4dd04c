<script setup lang="ts">
import type { CommandOutcome } from '@rounds/contract/commands';
import type { CommandResult, ControlAnswers } from '@rounds/core/commands';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import DataTable, { type Column } from '../parts/DataTable.vue';
import StateBox from '../parts/StateBox.vue';
import { day, moment } from '../parts/words';
import { ANSWER_WORDS, CALLED_AT_WORDS, tenths } from './commandWords';
import { useCommandOutcome } from './queries';

/** What a set of commands came to: ready or not yet, which controls are slow or taken for others, and the trend. */
const id = String(useRoute().params['id']);
const outcome = useCommandOutcome(() => id);
const found = computed(() => {
  const told = outcome.data.value;
  return told ? { told, result: told.result as CommandResult } : null;
});
const controls: Column<ControlAnswers>[] = [
  { key: 'name', title: 'Control', text: (each) => each.name, fixed: true },
  { key: 'called', title: 'Called', text: (each) => `${each.called}`, align: 'right' },
  { key: 'right', title: 'Right', text: (each) => `${each.right}`, align: 'right' },
  { key: 'late', title: 'Late', text: (each) => `${each.late + each.missed}`, align: 'right' },
  { key: 'wrong', title: 'Wrong', text: (each) => `${each.wrong}`, align: 'right' },
  { key: 'median', title: 'Median', text: (each) => tenths(each.median), align: 'right' },
  {
    key: 'spread',
    title: 'Spread',
    text: (each) => (each.called > 2 ? tenths(each.spread) : '–'),
    align: 'right',
  },
];
type Kept = CommandOutcome['sets'][number];
const sets: Column<Kept>[] = [
  { key: 'on', title: 'Day', text: (each) => day(each.endedAt), fixed: true },
  { key: 'where', title: 'Where', text: (each) => CALLED_AT_WORDS[each.calledAt].name },
  { key: 'calls', title: 'Calls', text: (each) => `${each.calls}`, align: 'right' },
  { key: 'wrong', title: 'Wrong', text: (each) => `${each.wrong}`, align: 'right' },
  { key: 'late', title: 'Late', text: (each) => `${each.late}`, align: 'right' },
  { key: 'median', title: 'Median', text: (each) => tenths(each.median), align: 'right' },
  { key: 'meets', title: 'Standard', text: (each) => (each.meets ? 'met' : 'not met') },
];
/** Calls that want another look: wrong, not answered, or answered after a hesitation. */
const worth = computed(() => {
  if (!found.value) return [];
  const { told, result } = found.value;
  const slow = new Set(result.hesitations);
  return result.answers.flatMap((each, i) =>
    each.kind === 'right' && !slow.has(i)
      ? []
      : [
          {
            at: i + 1,
            says: told.says[each.call] ?? each.call,
            before: i > 0 ? told.says[result.answers[i - 1]!.call] : null,
            kind: each.kind,
            words: each.kind === 'right' ? 'Hesitated' : ANSWER_WORDS[each.kind],
            seconds: each.seconds,
          },
        ],
  );
});
const heading = computed(() => {
  const { told, result } = found.value!;
  if (told.person && told.ready) return 'Ready for these controls';
  return result.unmet.length === 0 ? 'The standard is met' : 'Not yet';
});
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!found && !outcome.error.value"
      :error="found ? undefined : outcome.error.value"
      what="what the commands came to"
      @retry="outcome.refetch()"
    >
      <template v-if="found">
        <div class="row spread">
          <div>
            <h1>{{ heading }}</h1>
            <p class="quiet">
              {{ found.told.classTitle }}, {{ found.told.placeName.toLowerCase() }},
              {{ CALLED_AT_WORDS[found.told.calledAt].name.toLowerCase() }},
              {{ found.told.person?.name ?? 'a try-out' }}, {{ moment(found.told.endedAt) }}.
            </p>
          </div>
          <RouterLink
            v-slot="{ navigate, href }"
            :to="{ path: '/practise', query: { what: 'commands', class: found.told.classId } }"
            custom
            ><Button type="primary" :href="href" @click="navigate">Another set</Button></RouterLink
          >
        </div>
        <section class="sheet pad stack" aria-label="The set">
          <dl class="figures">
            <div>
              <dt>Right at once</dt>
              <dd>{{ found.result.counts.right }} of {{ found.result.answers.length }}</dd>
            </div>
            <div>
              <dt>Wrong</dt>
              <dd>{{ found.result.counts.wrong }}</dd>
            </div>
            <div>
              <dt>Late or not answered</dt>
              <dd>{{ found.result.counts.late + found.result.counts.missed }}</dd>
            </div>
            <div>
              <dt>Median reaction</dt>
              <dd>{{ tenths(found.result.median) }}</dd>
            </div>
            <div>
              <dt>Reversals called</dt>
              <dd>{{ found.result.reversals.seen }} of {{ found.result.reversals.of }}</dd>
            </div>
          </dl>
          <ul v-if="found.result.unmet.length > 0" class="bullets" aria-label="Why not yet">
            <li v-for="each in found.result.unmet" :key="each">{{ each }}</li>
          </ul>
          <p v-else-if="!found.told.ready" class="quiet">Two such sets in a row make ready.</p>
        </section>
        <div class="halves">
          <section class="stack" aria-label="Worth another look">
            <h2>Worth another look</h2>
            <p v-if="worth.length === 0" class="sheet pad">
              Nothing wrong, nothing late, no hesitation above the own usual.
            </p>
            <ul v-else class="sheet pad looks">
              <li v-for="each in worth" :key="each.at" :class="each.kind">
                <strong>{{ each.words }}</strong> {{ each.says }}
                <span class="quiet"
                  >{{ each.seconds === null ? '' : `after ${tenths(each.seconds)}, `
                  }}{{ each.before ? `following “${each.before}”` : 'the first one' }}</span
                >
              </li>
            </ul>
          </section>
          <section class="stack" aria-label="By control">
            <h2>By control</h2>
            <DataTable
              name="Answers by control"
              :rows="found.result.controls"
              :columns="controls"
              :row-key="(row) => row.control"
              :page-size="50"
            />
          </section>
        </div>
        <section v-if="found.told.sets.length > 1" class="stack" aria-label="Sets so far">
          <h2>Sets so far</h2>
          <DataTable
            name="Sets so far"
            :rows="[...found.told.sets].reverse()"
            :columns="sets"
            :row-key="(row) => row.id"
            :page-size="10"
          />
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 2rem;
}
.figures dt {
  color: var(--quiet);
  font-size: 0.88rem;
}
.figures dd {
  font-size: 1.4rem;
  font-weight: 700;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 1rem;
  align-items: start;
}
.looks {
  display: grid;
  gap: 0.4rem;
}
.looks li {
  border-left: 6px solid var(--amber);
  padding-left: 0.6rem;
}
.looks li.wrong,
.looks li.missed {
  border-left-color: var(--crimson);
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
