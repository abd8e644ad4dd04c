<script setup lang="ts">
import { startsOrStops, type EffectivePack, type Step, originWords } from '@rounds/core/catalogue';
import { computed } from 'vue';

/**
 * Procedures with their true order: either starting and stopping, or everything else with what is
 * forbidden.
 */
const props = defineProps<{
  pack: EffectivePack;
  which: 'start-stop' | 'procedures';
  byChoice: ReadonlyMap<string, string>;
}>();
const shown = computed(() =>
  props.pack.procedures.filter((each) => startsOrStops(each.kind) === (props.which === 'start-stop')),
);
const order = computed(
  () =>
    new Map(
      props.pack.procedures.flatMap((each) =>
        each.steps.map((s, i) => [s.id, { procedure: each.id, title: each.title, n: i + 1 }] as const),
      ),
    ),
);
/** "after 2 and 3", naming the procedure where it is another one. */
function after(step: Step, procedure: string): string {
  const name = (id: string) => {
    const at = order.value.get(id);
    return !at ? id : at.procedure === procedure ? String(at.n) : `${at.title.toLowerCase()} ${at.n}`;
  };
  return step.after
    .map((each) => (typeof each === 'string' ? name(each) : each.anyOf.map(name).join(' or ')))
    .join(', ');
}
</script>

<template>
  <div class="stack">
    <div class="columns">
      <section v-for="p in shown" :id="`row-${p.id}`" :key="p.id" class="sheet pad">
        <h2>{{ p.title }}</h2>
        <ol class="rail">
          <li
            v-for="(s, i) in p.steps"
            :id="`row-${s.id}`"
            :key="s.id"
            :class="{ critical: s.critical, free: s.after.length === 0 }"
          >
            <span class="n" aria-hidden="true">{{ i + 1 }}</span>
            <strong>{{ s.do }}</strong><span v-if="s.timing" class="timing">{{ s.timing.says }}</span>
            <span v-if="byChoice.has(s.id)" class="by-choice">site choice: {{ byChoice.get(s.id) }}</span>
            <div class="small">
              {{ s.why }}<template v-if="s.ifFails">. <strong>If not:</strong> {{ s.ifFails }}</template>
            </div>
            <div class="quiet small">
              {{ s.id }}, {{ s.after.length ? `after ${after(s, p.id)}` : 'any time'
              }}<template v-if="s.afterNote">, {{ s.afterNote }}</template
              ><template v-if="s.holds.length">; holds: {{ s.holds.join(', ') }}</template
              >{{ s.critical ? '; critical' : '' }}. {{ originWords(s.origin) }}.
            </div>
          </li>
        </ol>
        <p v-for="n in p.notes" :key="n" class="quiet small">{{ n }}</p>
      </section>
    </div>
    <template v-if="which === 'procedures'">
      <p v-if="shown.length === 0" class="quiet">This class has no further procedures.</p>
      <section class="sheet pad">
        <h2>Forbidden</h2>
        <ul class="bullets">
          <li v-for="f in pack.forbidden" :id="`row-${f.id}`" :key="f.id">{{ f.rule }}</li>
        </ul>
      </section>
      <section class="sheet pad">
        <h2>Failures to practise on the simulator</h2>
        <ul class="bullets">
          <li v-for="f in pack.machine.failures" :id="`row-${f.id}`" :key="f.id">
            <strong>{{ f.failure }}</strong><template v-if="f.shows">: {{ f.shows }}</template
            >. Right answer: {{ f.response }}
          </li>
        </ul>
      </section>
      <section v-for="t in pack.tables" :key="t.id" class="sheet pad scrolls">
        <h2>{{ t.title }}</h2>
        <table class="rows">
          <thead>
            <tr>
              <th v-for="c in t.columns" :key="c">{{ c }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in t.rows" :key="i">
              <td v-for="(cell, j) in r" :key="j">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
        <p class="quiet small">{{ originWords(t.origin) }}</p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.columns {
  columns: 2 520px;
  column-gap: 0.75rem;
}
.columns > section {
  break-inside: avoid-column;
  margin-bottom: 0.75rem;
}
.rail {
  list-style: none;
  border-left: 4px solid var(--petrol);
  padding-left: 1.35rem;
  margin: 0.5rem 0 0 0.7rem;
}
.rail li {
  position: relative;
  padding: 0.35rem 0;
}
.n {
  position: absolute;
  left: -2.25rem;
  top: 0.4rem;
  min-width: 1.6rem;
  height: 1.6rem;
  line-height: 1.3rem;
  text-align: center;
  border-radius: 50%;
  font-size: 0.82rem;
  font-weight: 700;
  background: var(--sheet);
  border: 2px solid var(--petrol);
}
.rail li.critical .n {
  background: var(--petrol);
  color: var(--on-petrol);
}
.timing {
  margin-left: 0.6rem;
  border: 1px solid var(--quiet);
  border-radius: 3px;
  padding: 0 0.4rem;
  font-size: 0.88rem;
}
</style>
