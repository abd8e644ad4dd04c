import type { BenchKind } from '@rounds/contract/bench';
import type { CalledAt } from '@rounds/contract/commands';
import type { practiceRoutes } from '@rounds/contract/practice';
import type { RouteAnswer } from '@rounds/contract/route';
import type { DrillForm } from '@rounds/core/drill';
import type { DeskProgram } from '@rounds/core/machine';
import type { UnitSystem } from '@rounds/core/measuring';
import { useLocalStorage } from '@vueuse/core';
import { v7 as uuidv7 } from 'uuid';
import { computed, type Ref, ref, watch } from 'vue';
import { type SetTask, type What, WHATS } from './formWords';
import { useBegin } from './useBegin';

/** A class to practise, as it is offered. */
export type Offered = RouteAnswer<typeof practiceRoutes.practiceClasses>['classes'][number];

/** What is asked for on Practise, and its beginning. Without a network there are rounds alone. */
export function useAsked(of: {
  classId: Ref<string>;
  variant: Ref<string>;
  personId: Ref<string>;
  chosen: Ref<Offered | null>;
  away: Ref<boolean>;
  /** Whoever may call commands on a machine. */
  trains: boolean;
  first: string;
}) {
  const { classId, variant, personId, chosen, away } = of;
  const beginning = useBegin();
  const what = ref<What>(WHATS.find((each) => each === of.first) ?? 'walk');
  const walks = computed(() => what.value === 'walk' || away.value);

  const [form, station] = [ref<DrillForm>('round'), ref('')];
  const [kind, size, timed] = [ref<BenchKind>('all'), ref(12), ref<number | null>(null)];
  const system = useLocalStorage<UnitSystem>('rounds-units', 'si');
  const programs = computed(() => chosen.value?.programs ?? []);
  const [program, mode, surprise] = [ref<DeskProgram>('start'), ref<'guided' | 'test'>('guided'), ref(false)];
  const places = computed(() => chosen.value?.commandPlaces ?? []);
  const [calledAt, place, full] = [ref<CalledAt>(of.trains ? 'machine' : 'desk'), ref(''), ref(false)];
  // By its id: the same class fetched anew leaves what was chosen.
  watch(
    () => chosen.value?.id,
    () => {
      variant.value = chosen.value?.variants[0]?.id ?? '';
      station.value = '';
      place.value = places.value[0]?.id ?? '';
      // Before a class is chosen there are none, which says nothing of what is wanted.
      if (chosen.value && !programs.value.includes(program.value))
        program.value = programs.value[0] ?? 'free';
    },
    { immediate: true },
  );

  /** The same as it can be set to somebody; null for what is only tried. */
  const task = computed((): SetTask | null => {
    const nothing = { station: null, program: null };
    if (walks.value)
      return { ...nothing, form: form.value, station: form.value === 'station' ? station.value : null };
    if (what.value !== 'desk') return { ...nothing, form: what.value === 'bench' ? 'bench' : 'commands' };
    return program.value === 'free' ? null : { ...nothing, form: 'desk', program: program.value };
  });

  const missing = computed(() => {
    if (!chosen.value) return 'Choose the class first.';
    if (walks.value) return form.value === 'station' && !station.value ? 'Choose the station first.' : '';
    if (what.value === 'desk') return programs.value.length === 0 ? 'This class has no desk yet.' : '';
    if (what.value === 'commands')
      return places.value.length === 0 ? 'This class has no commands to call yet.' : '';
    return '';
  });

  const everything = () => [
    classId.value,
    variant.value,
    personId.value,
    what.value,
    form.value,
    station.value,
    kind.value,
    size.value,
    system.value,
    timed.value,
    program.value,
    mode.value,
    surprise.value,
    calledAt.value,
    place.value,
    full.value,
  ];
  /** The number of what is to be dealt: a second press deals no second one. */
  let number = uuidv7();
  watch(everything, () => (number = uuidv7()));
  async function begin(): Promise<void> {
    const common = {
      id: number,
      classId: classId.value,
      variant: variant.value,
      personId: personId.value || null,
    };
    switch (what.value) {
      case 'walk':
        return beginning.drill({
          ...common,
          form: form.value,
          station: form.value === 'station' ? station.value : null,
        });
      case 'bench':
        return beginning.bench({
          ...common,
          kind: kind.value,
          size: size.value,
          system: system.value,
          timed: timed.value,
        });
      case 'desk':
        return beginning.desk({
          ...common,
          program: program.value,
          mode: program.value === 'free' ? 'free' : mode.value,
          surprise: surprise.value,
        });
      case 'commands':
        return beginning.commands({
          ...common,
          calledAt: calledAt.value,
          place: place.value || null,
          full: full.value,
        });
    }
  }
  return {
    what,
    walks,
    form,
    station,
    kind,
    size,
    system,
    timed,
    programs,
    program,
    mode,
    surprise,
    places,
    calledAt,
    place,
    full,
    missing,
    task,
    begin,
    busy: beginning.busy,
    problem: beginning.problem,
  };
}
