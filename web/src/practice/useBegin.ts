import type { benchRoutes } from '@rounds/contract/bench';
import type { commandRoutes } from '@rounds/contract/commands';
import type { deskRoutes } from '@rounds/contract/desk';
import type { practiceRoutes } from '@rounds/contract/practice';
import type { RouteInput } from '@rounds/contract/route';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useStartCommands } from '../commands/queries';
import { useStartDesk } from '../desk/queries';
import { useStartBench, useStartDrill } from './queries';

/** Begins what is practised and goes there; what stands in the way is the problem. */
export function useBegin() {
  const router = useRouter();
  const problem = ref<unknown>(null);
  const [drill, bench, desk] = [useStartDrill(), useStartBench(), useStartDesk()];
  const commands = useStartCommands();
  async function go(
    made: Promise<{ id: string }>,
    under: '' | 'bench/' | 'desk/' | 'commands/',
  ): Promise<void> {
    problem.value = null;
    try {
      await router.push(`/practise/${under}${(await made).id}`);
    } catch (error) {
      problem.value = error;
    }
  }
  return {
    problem,
    busy: computed(() => [drill, bench, desk, commands].some((each) => each.isLoading.value)),
    drill: (body: RouteInput<typeof practiceRoutes.startDrill>['body']) =>
      go(drill.mutateAsync({ body }), ''),
    bench: (body: RouteInput<typeof benchRoutes.startBench>['body']) =>
      go(bench.mutateAsync({ body }), 'bench/'),
    desk: (body: RouteInput<typeof deskRoutes.startDesk>['body']) => go(desk.begin(body), 'desk/'),
    commands: (body: RouteInput<typeof commandRoutes.startCommands>['body']) =>
      go(commands.mutateAsync({ body }), 'commands/'),
  };
}
