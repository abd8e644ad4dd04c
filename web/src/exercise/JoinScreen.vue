<script setup lang="ts">
import { Button, Form, Input } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useJoin } from './queries';

/** Join a class exercise on one's own phone: by the code, signed in as oneself or as a guest with a name. */
const route = useRoute();
const router = useRouter();
const session = useSession();
const code = ref(typeof route.params['code'] === 'string' ? route.params['code'] : '');
const name = ref('');
const join = useJoin();
const problem = ref<unknown>(null);
const who = computed(() => session.account?.name ?? '');
const ready = computed(() => code.value.trim().length >= 4 && (who.value !== '' || name.value.trim() !== ''));
async function enter() {
  if (!ready.value) return;
  problem.value = null;
  try {
    const { id } = await join.mutateAsync({
      body: { code: code.value, name: who.value ? null : name.value },
    });
    // The address keeps the room, so that a phone that is loaded anew is in it again.
    await router.replace(`/room/${id}`);
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <main class="join">
    <h1>Class exercise</h1>
    <Form layout="vertical" @submit.prevent="enter">
      <FieldItem v-slot="{ id }" label="Code on the big screen">
        <Input
          :id="id"
          v-model:value="code"
          size="large"
          :maxlength="12"
          autocomplete="off"
          autocapitalize="characters"
          class="code"
        />
      </FieldItem>
      <p v-if="who">
        You take part as <strong>{{ who }}</strong>; your result joins your record.
      </p>
      <template v-else>
        <FieldItem v-slot="{ id }" label="Your name">
          <Input :id="id" v-model:value="name" size="large" :maxlength="60" autocomplete="name" />
        </FieldItem>
        <p class="quiet">
          You are a guest here: only the trainer sees your name, and when the exercise ends, so does this.
        </p>
      </template>
      <ProblemAlert :problem="problem" />
      <Button
        type="primary"
        html-type="submit"
        size="large"
        block
        :disabled="!ready"
        :loading="join.isLoading.value"
        >Join</Button
      >
    </Form>
  </main>
</template>

<style scoped>
.join {
  max-width: 420px;
  min-height: 100dvh;
  margin: 0 auto;
  padding: 1.5rem 1rem;
  display: grid;
  align-content: center;
  gap: 1rem;
}
.code {
  letter-spacing: 0.2em;
  text-transform: uppercase;
}
</style>
