<script setup lang="ts">
import type { SchoolChoice } from '@rounds/contract/classes';
import { type EffectivePack, originWords, type School } from '@rounds/core/catalogue';
import { Button, Collapse, CollapsePanel, Form, Textarea } from 'ant-design-vue';
import { reactive, ref } from 'vue';
import { useSession } from '../../device/session';
import FieldItem from '../../parts/FieldItem.vue';
import ProblemAlert from '../../parts/ProblemAlert.vue';
import { moment } from '../../parts/words';
import { useChooseSchool } from '../queries';

/**
 * Points on which practitioners differ: what holds at the site, the alternatives, and who chose when and
 * why.
 */
const props = defineProps<{
  pack: EffectivePack;
  site: string;
  choices: Readonly<Record<string, string>>;
  log: readonly SchoolChoice[];
  mayChoose: boolean;
}>();
const emit = defineEmits<{
  chosen: [answer: { choices: Record<string, string>; choiceLog: SchoolChoice[] }];
}>();
const session = useSession();
const open = reactive({ school: '', option: '', reason: '' });
const chooseSchool = useChooseSchool();
const problem = ref<unknown>(null);

const lastOf = (school: string) => props.log.filter((each) => each.schoolId === school).at(-1);
const historyOf = (school: string) =>
  props.log
    .filter((each) => each.schoolId === school)
    .slice(0, -1)
    .reverse();
const optionSays = (school: School, id: string) =>
  school.options.find((each) => each.id === id)?.says ?? `${id} (no longer offered)`;
/** What choosing an option changes, in words. */
const effects = (school: School, id: string) =>
  school.options
    .find((each) => each.id === id)
    ?.sets.map((each) =>
      each.path.startsWith('policy/')
        ? 'the grading of every fault'
        : each.path.split('/').slice(0, 2).join(' '),
    ) ?? [];

function start(school: School, option: string) {
  Object.assign(open, { school: school.id, option, reason: '' });
  problem.value = null;
}
async function sign() {
  problem.value = null;
  try {
    const answer = await chooseSchool.mutateAsync({
      params: { id: props.pack.id },
      body: {
        site: props.site,
        schoolId: open.school,
        optionId: open.option,
        reason: open.reason,
        instead: props.choices[open.school] ?? null,
      },
    });
    emit('chosen', answer);
    open.school = '';
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <div class="stack">
    <p class="lead">
      Points on which good practitioners differ.
      {{
        site
          ? `What is marked holds at ${site}`
          : 'Choose a site above to see and change what holds there; without one the class’s own positions hold'
      }}, on this page, in evaluations and on printed cards.
    </p>
    <section
      v-for="s in pack.schools"
      :id="`row-${s.id}`"
      :key="s.id"
      class="sheet pad stack"
      :aria-label="s.question"
    >
      <h2>{{ s.question }}</h2>
      <ul class="options">
        <li v-for="o in s.options" :key="o.id" :class="{ holds: pack.choices[s.id] === o.id }">
          <span class="mark">{{
            pack.choices[s.id] === o.id ? (site && choices[s.id] ? 'Holds here' : 'Holds') : 'Alternative'
          }}</span>
          <span class="grow"
            >{{ o.says }}
            <span class="quiet small"
              ><template v-if="o.origin">{{ originWords(o.origin) }}. </template
              ><template v-if="effects(s, o.id).length">Changes {{ effects(s, o.id).join(', ') }}.</template
              ><template v-else-if="o.taughtOnly"
                >Taught only; changes nothing that is checked or scored.</template
              ><template v-else>Leaves every row as the class has it.</template></span
            ></span
          >
          <Button v-if="site && mayChoose && pack.choices[s.id] !== o.id" @click="start(s, o.id)"
            >Choose for {{ site }}</Button
          >
        </li>
      </ul>
      <Form v-if="open.school === s.id" layout="vertical" class="sign" @submit.prevent="sign">
        <FieldItem v-slot="{ id }" :label="`Why ${site} takes &quot;${optionSays(s, open.option)}&quot;`"
          ><Textarea :id="id" v-model:value="open.reason" :rows="2" :maxlength="500"
        /></FieldItem>
        <ProblemAlert :problem="problem" />
        <div class="row">
          <Button
            type="primary"
            html-type="submit"
            :loading="chooseSchool.isLoading.value"
            :disabled="open.reason.trim().length < 3"
            >Sign as {{ session.account?.name }}</Button
          >
          <Button @click="open.school = ''">Leave as it is</Button>
        </div>
      </Form>
      <p v-if="lastOf(s.id)" class="small">
        Chosen for {{ lastOf(s.id)!.site }} on {{ moment(lastOf(s.id)!.at) }}, signed {{ lastOf(s.id)!.by }}:
        {{ lastOf(s.id)!.reason }}
      </p>
      <Collapse v-if="historyOf(s.id).length" ghost>
        <CollapsePanel key="earlier" header="Earlier choices">
          <ul class="bullets">
            <li v-for="h in historyOf(s.id)" :key="h.at">
              {{ moment(h.at) }}, {{ h.by }}: {{ optionSays(s, h.optionId) }}. {{ h.reason }}
            </li>
          </ul>
        </CollapsePanel>
      </Collapse>
    </section>
  </div>
</template>

<style scoped>
.options li {
  display: flex;
  gap: 0.9rem;
  align-items: center;
  padding: 0.45rem 0.6rem;
  border-left: 4px solid transparent;
}
.options li.holds {
  border-left-color: var(--petrol);
  background: var(--raised);
}
.mark {
  flex: 0 0 6rem;
  font-size: 0.88rem;
  color: var(--quiet);
}
.holds .mark {
  font-weight: 700;
  color: var(--petrol);
}
.options .small {
  display: block;
}
.sign {
  border-top: 2px solid var(--petrol);
  padding-top: 0.7rem;
}
@media (max-width: 640px) {
  .options li {
    flex-wrap: wrap;
  }
  .mark {
    flex-basis: 100%;
  }
}
</style>
