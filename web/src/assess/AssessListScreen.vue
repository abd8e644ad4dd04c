<script setup lang="ts">
import { OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { routes, type EvaluationSummary } from '@rounds/contract';
import type { Outcome } from '@rounds/core/evaluation';
import { Button } from 'ant-design-vue';
import { onMounted, ref } from 'vue';
import StateBox from '../parts/StateBox.vue';
import { call } from '../device/api';
import { useSession } from '../device/session';
import { day } from '../parts/words';

const session = useSession();
const rows = ref<EvaluationSummary[]>([]);
const next = ref<string | null>(null);
const loading = ref(true);
const error = ref<unknown>(null);

async function load(more = false) {
  error.value = null;
  try {
    const page = await call(routes.evaluations, { query: more && next.value ? { cursor: next.value } : {} });
    rows.value = more ? [...rows.value, ...page.rows] : page.rows;
    next.value = page.next;
  } catch (problem) {
    error.value = problem;
  } finally {
    loading.value = false;
  }
}
onMounted(() => load());
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>{{ session.role === 'operator' ? 'My evaluations' : 'Evaluations' }}</h1>
      <RouterLink v-if="session.is('trainer', 'administrator')" to="/assess/new"
        ><Button type="primary" size="large">Prepare an evaluation</Button></RouterLink
      >
    </div>
    <StateBox :loading="loading" :error="error" :empty="rows.length === 0" what="evaluations" @retry="load()">
      <template #empty
        ><h2>No evaluation yet</h2>
        <p>
          {{
            session.is('trainer', 'administrator')
              ? 'Prepare the first: choose a person, a machine, and what to plant.'
              : 'They appear here when a trainer has made one.'
          }}
        </p></template
      >
      <div class="sheet scrolls" tabindex="0" role="region" aria-label="List of evaluations">
        <table class="rows">
          <thead>
            <tr>
              <th>Person</th>
              <th>Class and machine</th>
              <th>When</th>
              <th>Trainer</th>
              <th>Result</th>
              <th class="number">Score</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="each in rows" :key="each.id">
              <td>
                <RouterLink :to="`/assess/${each.id}`"
                  ><strong>{{ each.personName }}</strong></RouterLink
                >
              </td>
              <td>{{ each.classTitle }}, {{ each.unitName }}</td>
              <td>{{ day(each.createdAt) }}</td>
              <td>{{ each.trainerName }}</td>
              <td>
                <span v-if="each.stillPlanted.length" class="needs-you"
                  >{{ each.stillPlanted.length }} still planted</span
                >
                {{ each.outcome ? OUTCOME_WORDS[each.outcome as Outcome] : PHASE_WORDS[each.phase]
                }}{{ each.overridden ? ' (overridden)' : '' }}
              </td>
              <td class="number">{{ each.score === null ? '' : `${each.score} %` }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <Button v-if="next" @click="load(true)">Show older</Button>
    </StateBox>
  </div>
</template>
