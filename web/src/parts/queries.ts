import { classRoutes } from '@rounds/contract/classes';
import { machineRoutes } from '@rounds/contract/machines';
import { practiceRoutes } from '@rounds/contract/practice';
import { peopleRoutes } from '@rounds/contract/people';
import { type LibraryRow, LibrarySearch } from '@rounds/core/catalogue';
import { computed } from 'vue';
import { useRouteQuery } from '../device/query';

/** Reading that several areas share. What one area reads alone is declared in its own `queries.ts`. */

/** The machine classes, and a class's title by its id (the id itself until they are there). */
export function useClasses() {
  const query = useRouteQuery(classRoutes.classes, () => ({}), { staleTime: 60_000 });
  const list = computed(() => query.data.value?.classes ?? []);
  const titles = computed(() => new Map(list.value.map((each) => [each.id, each.title])));
  return { ...query, list, title: (id: string) => titles.value.get(id) ?? id };
}

/** A class with its pack, as a site has chosen between schools; asks nothing for ''. */
export function useMachineClass(id: () => string, site: () => string | undefined = () => undefined) {
  return useRouteQuery(classRoutes.machineClass, () =>
    id() === '' ? null : { params: { id: id() }, query: { site: site() } },
  );
}

/** People whose name or payroll number holds some words, the first by name for none, while it is `wanted`. */
export const usePeopleLike = (words: () => string, wanted: () => boolean = () => true) =>
  useRouteQuery(peopleRoutes.people, () => (wanted() ? { query: { search: words(), limit: 20 } } : null));

/** What a person has practised, and what is set them; asks nothing for ''. */
export const usePersonPractice = (id: () => string) =>
  useRouteQuery(practiceRoutes.personPractice, () => (id() === '' ? null : { params: { id: id() } }));

/** Machines of the yard. */
export function useUnits() {
  return useRouteQuery(machineRoutes.units, () => ({}), { staleTime: 60_000 });
}

/** Every row of every class with a search over them, fetched once `wanted`. */
export function useLibrary(wanted: () => boolean) {
  const query = useRouteQuery(classRoutes.library, () => (wanted() ? {} : null), { staleTime: 300_000 });
  const engine = computed(() =>
    query.data.value ? new LibrarySearch(query.data.value.rows as LibraryRow[]) : null,
  );
  return { ...query, engine };
}
