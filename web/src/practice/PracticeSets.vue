<script setup lang="ts">
import type { PracticeSet } from '@rounds/contract/practice';
import { Button } from 'ant-design-vue';
import { ref } from 'vue';
import { useSession } from '../device/session';
import { askFirst } from '../parts/askFirst';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { day } from '../parts/words';
import { taskWords } from './formWords';
import { useDropPracticeSet } from './queries';

/** Practice that a trainer has set, the first due first: whoever they are set takes one up, the trainer takes one back. */
defineProps<{
  sets: readonly (PracticeSet & { person?: { id: string; name: string } })[];
  mayBegin: boolean;
}>();
const emit = defineEmits<{ take: [set: PracticeSet] }>();
const session = useSession();
const trains = session.is('trainer', 'administrator');
const drop = useDropPracticeSet();
const problem = ref<unknown>(null);
function takeBack(set: PracticeSet) {
  askFirst(
    {
      title: 'Take this back?',
      content: 'What was done of it stays on record.',
      act: 'Take it back',
      stay: 'Leave it',
    },
    async () => {
      problem.value = null;
      try {
        await drop.mutateAsync({ params: { id: set.id } });
      } catch (error) {
        problem.value = error;
      }
    },
  );
}
</script>

<template>
  <section v-if="sets.length > 0" class="sheet pad" aria-label="Set to do">
    <h2>Set to do</h2>
    <ProblemAlert :problem="problem" />
    <ul>
      <li v-for="each in sets" :key="each.id" class="set" :class="{ overdue: each.overdue }">
        <span class="grow">
          <strong v-if="each.person">{{ each.person.name }}: </strong>
          <strong>{{ taskWords(each) }}</strong>, {{ each.classTitle }}
          <span class="quiet"
            >{{ each.times > 1 ? `${each.done} of ${each.times} done, ` : '' }}set by {{ each.by }}</span
          >
        </span>
        <span :class="{ late: each.overdue }"
          >{{ each.overdue ? 'Overdue since' : 'By' }} {{ day(each.dueOn) }}</span
        >
        <Button v-if="mayBegin" @click="emit('take', each)">Do it</Button>
        <Button v-if="trains" type="link" danger @click="takeBack(each)">Take back</Button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.set {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem 0.8rem;
  min-height: 52px;
  padding: 0.3rem 0 0.3rem 0.6rem;
  border-top: 1px solid var(--line);
  border-left: 6px solid transparent;
}
.set .grow {
  flex: 1 1 15rem;
}
.set.overdue {
  border-left-color: var(--amber);
}
.late {
  font-weight: 700;
}
</style>
