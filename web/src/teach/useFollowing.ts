import { type LessonPosition, type LessonView, teachRoutes } from '@rounds/contract/teach';
import type { EffectivePack } from '@rounds/core/catalogue';
import { lessonSlides } from '@rounds/core/teaching';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { listen } from '../device/stream';
import { useLesson } from './queries';

/**
 * A lesson as one of its windows: what it shows, and where it is, which follows the presenter. After a break it goes
 * on where the lesson is by then.
 */
export function useFollowing(id: () => string) {
  const query = useLesson(id);
  const lesson = computed<LessonView | null>(() => query.data.value ?? null);
  const position = ref<LessonPosition>({
    slide: 0,
    blank: false,
    pointAndCall: false,
    answered: false,
  });
  const ended = ref(false);
  let heard = false;
  let stop = () => {};
  watch(
    lesson,
    (found) => {
      if (!found || heard) return;
      position.value = found.position;
      ended.value = found.ended;
    },
    { immediate: true },
  );
  watch(
    () => lesson.value?.id ?? '',
    (now) => {
      stop();
      if (!now) return;
      stop = listen(teachRoutes.followLesson, { params: { id: now } }, (event) => {
        heard = true;
        const { ended: over, ...where } = event;
        position.value = where;
        ended.value = over;
      });
    },
    { immediate: true },
  );
  onBeforeUnmount(() => stop());
  const pack = computed(() => (lesson.value?.pack ?? null) as EffectivePack | null);
  const slides = computed(() =>
    pack.value && lesson.value ? lessonSlides(pack.value, lesson.value.plan) : [],
  );
  const slide = computed(() => slides.value[Math.min(position.value.slide, slides.value.length - 1)] ?? null);
  return { query, lesson, pack, slides, slide, position, ended };
}
