import { type FitOut, needsMet } from '../catalogue/needs';
import { COMPONENT_KINDS } from './components';
import type { Unfitted } from './build';
import { type Desk, placesOf, waysTo } from './desk';

/** A desk cut down to one machine, with what that is not fitted with. */
export interface FittedDesk {
  desk: Desk;
  unfitted: Unfitted;
  /** For each list of rows that are left, which rows of the whole desk they are. */
  rows: Readonly<Partial<Record<keyof Desk, readonly number[]>>>;
}

/** A path in a fitted desk as one in the whole desk. */
export function pathInDesk({ rows }: FittedDesk, path: readonly (string | number)[]): (string | number)[] {
  const [list, row, ...rest] = path;
  const whole = typeof row === 'number' ? rows[list as keyof Desk]?.[row] : undefined;
  return whole === undefined ? [...path] : [list!, whole, ...rest];
}

const fits = (row: { needs?: string[] | undefined }, fitOut: FitOut) => needsMet(row.needs ?? [], fitOut);

/** The states that a component gives, by their names in the desk. */
function statesOf({
  kind,
  id,
  needs: _needs,
  origin: _origin,
  ...given
}: Desk['components'][number]): string[] {
  const found = COMPONENT_KINDS.get(kind);
  const read = found?.parameters.safeParse(given);
  if (!found || !read?.success) return [];
  return Object.keys(found.states(read.data as Readonly<Record<string, unknown>>)).map(
    (state) => `${id ?? kind}.${state}`,
  );
}

/**
 * A desk as one machine is fitted out: rows whose needs are not met go. What only such rows name is absent, and reads as
 * false.
 */
export function fitDesk(desk: Desk, fitOut: FitOut): FittedDesk {
  const rows: Partial<Record<keyof Desk, number[]>> = {};
  const note = (list: keyof Desk, left: readonly number[]) => {
    rows[list] = [...left];
  };
  const kept = <Row extends { needs?: string[] | undefined }>(
    list: keyof Desk,
    all: readonly Row[],
  ): Row[] => {
    const left = all.flatMap((each, i) => (fits(each, fitOut) ? [i] : []));
    note(list, left);
    return left.map((i) => all[i]!);
  };
  const keptBy = <Row extends { needs?: string[] | undefined }>(
    rows: Readonly<Record<string, Row>>,
  ): Record<string, Row> => Object.fromEntries(Object.entries(rows).filter(([, each]) => fits(each, fitOut)));
  const places = kept('places', desk.places);
  const here = new Set(places.map((each) => each.id));
  /** Rows with the places that are left; what stands only where nobody can be goes too. */
  const placed = <Row extends { at: string | string[]; needs?: string[] | undefined }>(
    list: keyof Desk,
    all: readonly Row[],
  ): Row[] => {
    const left = all.flatMap((each, i) => {
      const at = placesOf(each.at).filter((place) => here.has(place));
      return fits(each, fitOut) && at.length > 0 ? [{ i, row: { ...each, at } }] : [];
    });
    note(
      list,
      left.map((each) => each.i),
    );
    return left.map((each) => each.row);
  };
  const fitted: Desk = {
    places: places.map((each) => ({
      ...each,
      ...(each.from
        ? { from: each.from.filter((way) => here.has(typeof way === 'string' ? way : way.place)) }
        : {}),
    })),
    controls: placed('controls', desk.controls),
    looks: placed('looks', desk.looks),
    shows: placed('shows', desk.shows),
    states: kept('states', desk.states),
    components: kept('components', desk.components),
    rules: kept('rules', desk.rules),
    steps: keptBy(desk.steps),
    forbidden: keptBy(desk.forbidden),
    failures: keptBy(desk.failures),
    starts: desk.starts,
    commands: kept('commands', desk.commands),
  };
  const namesOf = ({ controls, looks, shows, states, components }: Desk) =>
    new Set([
      ...[...controls, ...looks, ...shows, ...states].map((each) => each.id),
      ...components.flatMap(statesOf),
    ]);
  const names = namesOf(fitted);
  const gone = desk.places.filter((each) => !here.has(each.id));
  return {
    desk: fitted,
    rows,
    unfitted: {
      names: [...namesOf(desk)].filter((name) => !names.has(name)),
      places: gone.map((each) => each.id),
      ways: gone.flatMap(waysTo),
    },
  };
}
