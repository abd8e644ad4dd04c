<script setup lang="ts">
import { Button, Form, Input } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import LessonPicture from './LessonPicture.vue';
import { useJoinLesson } from './queries';
import { useFollowing } from './useFollowing';

/** The big screen of a lesson: it follows the presenter. It joins by a code, or is opened by the presenter. */
const route = useRoute();
const router = useRouter();
const joined = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const { query, lesson, pack, slides, slide, position, ended } = useFollowing(() => joined.value);
const walked = computed(() =>
  slides.value.slice(0, position.value.slide + 1).flatMap((each) => each.station ?? []),
);
const code = ref('');
const join = useJoinLesson();
const problem = ref<unknown>(null);
async function enter() {
  problem.value = null;
  try {
    const { id } = await join.mutateAsync({ body: { code: code.value } });
    // The address keeps the lesson, so that a screen that is loaded anew is in it again.
    await router.replace(`/teach/${id}/screen`);
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <main class="room">
    <div v-if="ended" class="middle">
      <h1>The lesson has ended</h1>
      <p class="quiet">Thank you for your attention.</p>
    </div>
    <div v-else-if="position.blank && lesson" class="blank" role="status">
      <span class="visually-hidden">The screen is blank for now.</span>
    </div>
    <LessonPicture
      v-else-if="pack && lesson && slide"
      :pack="pack"
      :plan="lesson.plan"
      :slide="slide"
      :walked="walked"
      :point-and-call="position.pointAndCall"
      :answered="position.answered"
    />
    <div v-else class="middle">
      <h1>Big screen of a lesson</h1>
      <Form layout="vertical" @submit.prevent="enter">
        <FieldItem v-slot="{ id }" label="Code on the presenter’s screen">
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
        <ProblemAlert :problem="problem ?? (joined ? query.error.value : null)" />
        <Button
          type="primary"
          html-type="submit"
          size="large"
          block
          :disabled="code.trim().length < 4"
          :loading="join.isLoading.value"
          >Join</Button
        >
      </Form>
    </div>
  </main>
</template>

<style scoped>
.room {
  height: 100dvh;
  overflow: hidden;
}
.blank {
  height: 100%;
  background: var(--ink);
}
.middle {
  height: 100%;
  display: grid;
  place-content: center;
  gap: 1rem;
  padding: 1rem;
}
.code {
  letter-spacing: 0.2em;
  text-transform: uppercase;
}
</style>
