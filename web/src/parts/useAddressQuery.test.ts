import { describe, expect, it } from 'vitest';
import { defineComponent } from 'vue';
import { show, settled } from '../testing/mount';
import { useAddressQuery } from './useAddressQuery';

async function shown() {
  let write: ReturnType<typeof useAddressQuery> | undefined;
  const Screen = defineComponent({
    setup() {
      write = useAddressQuery();
      return () => 'a screen';
    },
  });
  const { router } = await show(Screen);
  return { router, write: write! };
}

describe('the query of the address', () => {
  it('says what is shown', async () => {
    const { router, write } = await shown();
    write({ search: 'Berg' });
    await settled();
    expect(router.currentRoute.value.fullPath).toBe('/?search=Berg');
  });
  it('calls nobody back who is on the way to another screen', async () => {
    const { router, write } = await shown();
    let open = () => {};
    const stop = router.beforeResolve(() => new Promise<void>((resolve) => (open = resolve)));
    const way = router.push('/elsewhere');
    await settled();
    write({ search: 'Berg' });
    open();
    await way;
    expect(router.currentRoute.value.fullPath).toBe('/elsewhere');
    stop();
  });
  it('is written again when the way was barred', async () => {
    const { router, write } = await shown();
    const stop = router.beforeResolve((to) => to.path !== '/elsewhere');
    await router.push('/elsewhere');
    stop();
    write({ page: '2' });
    await settled();
    expect(router.currentRoute.value.fullPath).toBe('/?page=2');
  });
});
