<script setup lang="ts">
import { RightOutlined } from '@ant-design/icons-vue';
import {
  type EffectivePack,
  MOMENT_WORDS,
  originWords,
  startsOrStops,
  type Step,
  TIMING_WORDS,
  timingFigures,
} from '@rounds/core/catalogue';
import { session } from '@rounds/core/procedure';
import { Segmented, Switch } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useSession } from '../../device/session';
import SequenceRail from '../../drawing/SequenceRail.vue';
import SlipsTable from './SlipsTable.vue';
import DataTable, { type Column } from '../../parts/DataTable.vue';

/**
 * Procedures with their true order: either starting and stopping, or everything else with what is
 * forbidden.
 */
const props = defineProps<{
  pack: EffectivePack;
  which: 'start-stop' | 'procedures';
  byChoice: ReadonlyMap<string, string>;
}>();
const account = useSession();
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
function after(step: Pick<Step, 'after'>, procedure: string): string {
  const name = (id: string) => {
    const at = order.value.get(id);
    return !at ? id : at.procedure === procedure ? String(at.n) : `${at.title.toLowerCase()} ${at.n}`;
  };
  return step.after
    .map((each) => (typeof each === 'string' ? name(each) : each.anyOf.map(name).join(' or ')))
    .join(', ');
}
type Sheet = EffectivePack['tables'][number];
interface Line {
  at: string;
  cells: readonly unknown[];
}
const rowsOf = (table: Sheet): Line[] => table.rows.map((cells, at) => ({ at: String(at), cells }));
const columnsOf = (table: Sheet): Column<Line>[] =>
  table.columns.map((title, j) => ({ key: String(j), title, text: (row) => String(row.cells[j] ?? '') }));
const FORMS = ['Steps in words', 'Order as a rail'] as const;
const form = ref<(typeof FORMS)[number]>('Steps in words');
/** What else is to say of a step is there on demand, of one or of all. */
const everything = ref(false);
const open = ref<ReadonlySet<string>>(new Set());
const isOpen = (id: string) => everything.value || open.value.has(id);
function toggle(id: string) {
  const next = new Set(open.value);
  if (!next.delete(id)) next.add(id);
  open.value = next;
}
</script>

<template>
  <div class="stack">
    <div class="row">
      <Segmented v-model:value="form" :options="[...FORMS]" aria-label="How procedures are shown" />
    </div>
    <div v-if="form === 'Steps in words'" class="row">
      <Switch id="everything" v-model:checked="everything" /><label for="everything"
        >Order, conditions and sources of every step</label
      >
    </div>
    <div class="columns">
      <section v-for="p in shown" :id="`row-${p.id}`" :key="p.id" class="sheet pad">
        <h2>{{ p.title }}</h2>
        <SequenceRail
          v-if="form === 'Order as a rail'"
          :session="session(pack, [p.id])"
          :label="`Order of ${p.title.toLowerCase()}`"
        />
        <ol v-else class="rail">
          <li
            v-for="(s, i) in p.steps"
            :id="`row-${s.id}`"
            :key="s.id"
            :class="{ critical: s.critical, free: s.after.length === 0 }"
          >
            <span class="n" aria-hidden="true">{{ i + 1 }}</span>
            <button
              class="step"
              type="button"
              :aria-expanded="isOpen(s.id)"
              :aria-controls="`more-${s.id}`"
              @click="toggle(s.id)"
            >
              <strong>{{ s.do }}</strong><span v-if="s.timing" class="timing">{{ s.timing.says }}</span>
              <span v-if="s.critical" class="mark">critical</span>
              <RightOutlined class="turn" :rotate="isOpen(s.id) ? 90 : 0" aria-hidden="true" />
            </button>
            <span v-if="byChoice.has(s.id)" class="by-choice">site choice: {{ byChoice.get(s.id) }}</span>
            <div v-if="s.why" class="quiet small">{{ s.why }}</div>
            <dl v-if="isOpen(s.id)" :id="`more-${s.id}`" class="more small">
              <template v-if="s.ifFails">
                <dt>If not</dt>
                <dd>{{ s.ifFails }}</dd>
              </template>
              <template v-if="s.timing && s.timing.means !== 'none'">
                <dt>Time</dt>
                <dd>
                  {{ TIMING_WORDS[s.timing.means] }}: {{ timingFigures(s.timing)
                  }}{{ s.timing.since ? `, from ${after({ after: [s.timing.since] }, p.id)}` : ''
                  }}{{ s.timing.means === 'typical' ? ' (never judged)' : '' }}
                </dd>
              </template>
              <template v-if="s.moment">
                <dt>Here</dt>
                <dd>{{ MOMENT_WORDS[s.moment] }}</dd>
              </template>
              <dt>Order</dt>
              <dd>
                {{ s.after.length ? `after ${after(s, p.id)}` : 'any time'
                }}{{ s.afterNote ? `, ${s.afterNote}` : '' }}
              </dd>
              <template v-if="s.holds.length">
                <dt>Meanwhile</dt>
                <dd>{{ s.holds.join(', ') }}</dd>
              </template>
              <dt>From</dt>
              <dd>{{ originWords(s.origin) }} ({{ s.id }})</dd>
            </dl>
          </li>
        </ol>
        <p v-for="n in p.notes" :key="n" class="quiet small">{{ n }}</p>
      </section>
    </div>
    <SlipsTable
      v-if="which === 'start-stop' && account.is('trainer', 'supervisor', 'administrator')"
      :class-id="pack.id"
    />
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
        <DataTable
          :name="t.title"
          :rows="rowsOf(t)"
          :columns="columnsOf(t)"
          :row-key="(row) => row.at"
          :page-size="200"
        />
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
.step {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0.2rem 0;
  min-height: 36px;
  text-align: left;
  cursor: pointer;
}
.turn {
  font-size: 0.75rem;
  margin-left: 0.5rem;
  color: var(--quiet);
}
.mark {
  margin-left: 0.6rem;
  font-size: 0.82rem;
  font-weight: 700;
}
.more {
  display: grid;
  grid-template-columns: 6rem 1fr;
  gap: 0.1rem 0.7rem;
  border-left: 2px solid var(--line);
  padding-left: 0.7rem;
  margin: 0.2rem 0;
}
.more dt {
  color: var(--quiet);
}
.timing {
  display: inline-block;
  margin-left: 0.6rem;
  border: 1px solid var(--quiet);
  border-radius: 3px;
  padding: 0 0.4rem;
  font-size: 0.88rem;
}
</style>
