<script setup lang="ts">
import { QRCode } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import FindingCard from '../parts/FindingCard.vue';
import KeyReasons from '../parts/KeyReasons.vue';
import StateBox from '../parts/StateBox.vue';
import SpreadBars from './SpreadBars.vue';
import { useRoom } from './useRoom';

/** The big screen of a class exercise: how to join, the finding, how many have answered, then the spread and the key. No name. */
const route = useRoute();
const { query, room } = useRoom(String(route.params['id']));
const address = computed(() => `${location.origin}/join/${room.value?.code ?? ''}`);
const answered = computed(() => room.value?.participants.filter((each) => each.answered).length ?? 0);
</script>

<template>
  <div class="wall">
    <StateBox
      :loading="!room && !query.error.value"
      :error="room ? undefined : query.error.value"
      what="the exercise"
      @retry="query.refetch()"
    >
      <template v-if="room">
        <section v-if="room.ended" class="middle">
          <h1>The exercise has ended</h1>
          <p class="quiet">Thank you for taking part.</p>
        </section>
        <section v-else-if="room.n === null" class="middle join">
          <h1>{{ room.title }}</h1>
          <QRCode :value="address" :size="280" color="#11302e" bg-color="#ffffff" error-level="M" />
          <p>
            Scan it, or go to
            <strong>{{ address.replace(/^https?:\/\//, '').replace(/\/[^/]*$/, '') }}</strong> and type
          </p>
          <p class="code">{{ room.code }}</p>
          <p role="status">{{ room.participants.length }} in the room</p>
        </section>
        <section v-else class="put">
          <header class="row spread">
            <h1>{{ room.title }}</h1>
            <p role="status">
              <strong>{{ answered }} of {{ room.participants.length }}</strong> answered
            </p>
            <p>
              {{ room.n + 1 }} of {{ room.of }} <span class="quiet">code {{ room.code }}</span>
            </p>
          </header>
          <div class="body" :class="{ revealed: room.revealed }">
            <FindingCard v-if="room.finding" :finding="room.finding" :figures="room.revealed" class="large" />
            <div v-if="room.key && room.spread" class="told">
              <SpreadBars :spread="room.spread" :key-grade="room.key.grade" />
              <KeyReasons :grading="room.key" />
            </div>
            <p v-else class="ask">How bad is it?</p>
          </div>
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.wall {
  min-height: 100dvh;
  font-size: clamp(1.1rem, 1.7vw, 1.9rem);
  padding: 1.2rem 1.8rem;
}
.middle {
  min-height: 90dvh;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 1rem;
}
.code {
  font-size: 3.4em;
  font-weight: 700;
  letter-spacing: 0.18em;
}
.put {
  display: grid;
  gap: 1.4rem;
}
h1 {
  font-size: 1em;
}
.body {
  display: grid;
  gap: 1.6rem;
}
.body.revealed {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.told {
  display: grid;
  gap: 1.4rem;
  align-content: start;
}
.large :deep(h2) {
  font-size: 1.5em;
}
.large :deep(.shows) {
  font-size: 1.3em;
}
.large :deep(.picture) {
  width: clamp(200px, 46vmin, 620px);
  height: clamp(200px, 46vmin, 620px);
}
.ask {
  font-size: 2em;
  font-weight: 700;
}
@media (max-width: 900px) {
  .body.revealed {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
