<script setup lang="ts">
import type { RouteAnswer } from '@rounds/contract/route';
import type { practiceRoutes } from '@rounds/contract/practice';
import { tenths } from '../commands/commandWords';
import { PROGRAM_WORDS } from '../desk/deskWords';
import { day } from '../parts/words';
import ReadyParts from './ReadyParts.vue';

/** What a person has practised, a class at a time: whether they are ready, how it went, what to come back to. */
defineProps<{ practice: RouteAnswer<typeof practiceRoutes.personPractice> }>();
/** Drills of a trend that are shown. */
const LAST = 8;
</script>

<template>
  <article
    v-for="each in practice.classes"
    :key="each.classId"
    class="sheet pad class"
    :aria-label="each.classTitle"
  >
    <div class="row spread">
      <h2>{{ each.classTitle }}</h2>
      <strong v-if="each.ready" class="ready">Ready for assessment</strong>
      <span v-else class="quiet">Not ready yet</span>
    </div>
    <ReadyParts :parts="each.parts" />
    <dl class="figures">
      <div v-if="each.last">
        <dt>Last score</dt>
        <dd>
          <RouterLink :to="`/practise/${each.last.id}/result`">{{ Math.round(each.last.score) }}</RouterLink>
          <span class="quiet"> {{ day(each.last.endedAt) }}</span>
        </dd>
      </div>
      <div v-if="each.drills">
        <dt>Drills</dt>
        <dd>{{ each.drills }}</dd>
      </div>
      <div v-if="each.lastBench">
        <dt>Findings graded as the key</dt>
        <dd>
          <RouterLink :to="`/practise/bench/${each.lastBench.id}/result`"
            >{{ each.gradedRight }} of {{ each.graded }}</RouterLink
          >
          <span class="quiet"> {{ day(each.lastBench.endedAt) }}</span>
        </dd>
      </div>
      <div v-if="each.lastDesk">
        <dt>Last at the desk</dt>
        <dd>
          <RouterLink :to="`/practise/desk/${each.lastDesk.id}/result`">{{
            Math.round(each.lastDesk.score)
          }}</RouterLink>
          <span class="quiet">
            {{ PROGRAM_WORDS[each.lastDesk.program].name.toLowerCase() }},
            {{ day(each.lastDesk.endedAt) }}</span
          >
        </dd>
      </div>
      <div v-if="each.lastCommands">
        <dt>{{ each.commandsReady ? 'Commands, ready' : 'Commands, not yet' }}</dt>
        <dd>
          <RouterLink :to="`/practise/commands/${each.lastCommands.id}/result`"
            >{{ each.lastCommands.right }} of {{ each.lastCommands.calls }}</RouterLink
          >
          <span class="quiet">
            {{ tenths(each.lastCommands.median) }}, {{ day(each.lastCommands.endedAt) }}</span
          >
        </dd>
      </div>
      <div>
        <dt>To come back to</dt>
        <dd>{{ each.due }} of {{ each.items }}</dd>
      </div>
    </dl>
    <p v-if="each.trend.length > 0" class="trend">
      <span class="quiet">Whole rounds:</span>
      <RouterLink
        v-for="point in each.trend.slice(-LAST)"
        :key="point.id"
        :to="`/practise/${point.id}/result`"
        ><span class="visually-hidden">{{ day(point.endedAt) }}: </span
        >{{ Math.round(point.score) }}</RouterLink
      >
    </p>
    <p v-if="each.trend.length > 1" class="trend">
      <span class="quiet">Telling bad from sound, d´:</span>
      <span v-for="point in each.trend.slice(-LAST)" :key="point.id"
        ><span class="visually-hidden">{{ day(point.endedAt) }}: </span
        >{{ point.dPrime === null ? 'none' : point.dPrime.toFixed(1) }}</span
      >
    </p>
    <div v-if="each.forgotten.length > 0">
      <h3>Goes wrong most</h3>
      <ul class="bullets">
        <li v-for="item in each.forgotten.slice(0, 5)" :key="item.item">
          {{ item.says }} <span class="quiet">{{ item.wrong }} of {{ item.times }} wrong</span>
        </li>
      </ul>
    </div>
  </article>
  <section v-if="practice.exercises.length" class="sheet pad class" aria-label="Class exercises">
    <h2>Class exercises</h2>
    <ul>
      <li v-for="each in practice.exercises" :key="each.id">
        <strong>{{ each.right }} of {{ each.of }}</strong> as the key, {{ each.title }},
        {{ each.classTitle }},
        {{ day(each.endedAt) }}
      </li>
    </ul>
  </section>
  <section v-if="practice.offline.length" class="sheet pad" aria-label="Practised without a network">
    <h2>Practised without a network</h2>
    <p class="quiet">For the learner alone; these count for no readiness.</p>
    <ul>
      <li v-for="each in practice.offline" :key="each.id">
        <RouterLink :to="`/practise/${each.id}/result`"
          >{{ Math.round(each.score) }}, {{ each.classTitle }}, {{ day(each.endedAt) }}</RouterLink
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.class {
  display: grid;
  gap: 0.6rem;
}
.class + .class {
  margin-top: 0.75rem;
}
.ready {
  border: 2px solid var(--petrol);
  border-radius: 3px;
  padding: 0 0.5rem;
  color: var(--petrol);
}
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
  font-size: 1.15rem;
  font-weight: 700;
}
.figures .quiet {
  font-size: 0.88rem;
  font-weight: 400;
}
.trend {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
}
</style>
