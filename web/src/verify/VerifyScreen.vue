<script setup lang="ts">
import { certificationRoutes } from '@rounds/contract/certification';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useRouteQuery } from '../device/query';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';

/** What a scanned card answers: valid or not valid today, and nothing about the person. */
const token = String(useRoute().params['token']);
const check = useRouteQuery(certificationRoutes.verify, () => ({ params: { token } }));
const data = computed(() => check.data.value);
const heading = computed(() => {
  if (data.value?.valid) return 'Valid today';
  return data.value?.known ? 'Not valid today' : 'No such card';
});
</script>

<template>
  <main class="check">
    <StateBox
      :loading="!data"
      :error="data ? undefined : check.error.value"
      what="this card"
      @retry="check.refetch()"
    >
      <div v-if="data" class="answer" role="status">
        <svg viewBox="0 0 120 120" width="180" height="180" aria-hidden="true">
          <circle
            v-if="data.valid"
            cx="60"
            cy="60"
            r="48"
            fill="none"
            stroke="var(--petrol)"
            stroke-width="14"
          />
          <template v-else>
            <path
              d="M84.600 18.800A48 48 0 0 1 84.600 101.200"
              fill="none"
              stroke="var(--crimson)"
              stroke-width="14"
            />
            <path
              d="M35.400 101.200A48 48 0 0 1 35.400 18.800"
              fill="none"
              stroke="var(--crimson)"
              stroke-width="14"
            />
            <path d="M40 60h40" stroke="var(--crimson)" stroke-width="12" />
          </template>
        </svg>
        <h1>{{ heading }}</h1>
        <p>{{ day(data.on) }}</p>
        <p class="quiet">
          {{
            data.valid
              ? 'Check that the name on the card is the name of the person. The machine itself must be one they have been shown.'
              : 'The holder may not operate on this card. Ask the training office.'
          }}
        </p>
      </div>
    </StateBox>
  </main>
</template>

<style scoped>
.check {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 1.5rem;
}
.answer {
  text-align: center;
  max-width: 34rem;
  display: grid;
  gap: 0.6rem;
  justify-items: center;
}
h1 {
  font-size: 2.4rem;
}
</style>
