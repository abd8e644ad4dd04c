import { type FitOut, needsMet } from '../catalogue';
import { COMPONENT_KINDS } from './components';
import type { Unfitted } from './build';
import { type Desk, placesOf, waysTo } from './desk';

/** A desk cut down to one machine, with what that is not fitted with. */
export interface FittedDesk {
  desk: Desk;
  unfitted: Unfitted;
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
  const kept = <Row extends { needs?: string[] | undefined }>(rows: readonly Row[]): Row[] =>
    rows.filter((each) => fits(each, fitOut));
  const keptBy = <Row extends { needs?: string[] | undefined }>(
    rows: Readonly<Record<string, Row>>,
  ): Record<string, Row> => Object.fromEntries(Object.entries(rows).filter(([, each]) => fits(each, fitOut)));
  const places = kept(desk.places);
  const here = new Set(places.map((each) => each.id));
  /** Rows with the places that are left; what stands only where nobody can be goes too. */
  const placed = <Row extends { at: string | string[]; needs?: string[] | undefined }>(
    rows: readonly Row[],
  ): Row[] =>
    kept(rows).flatMap((each) => {
      const at = placesOf(each.at).filter((place) => here.has(place));
      return at.length === 0 ? [] : [{ ...each, at }];
    });
  const fitted: Desk = {
    places: places.map((each) => ({
      ...each,
      ...(each.from
        ? { from: each.from.filter((way) => here.has(typeof way === 'string' ? way : way.place)) }
        : {}),
    })),
    controls: placed(desk.controls),
    looks: placed(desk.looks),
    shows: placed(desk.shows),
    states: kept(desk.states),
    components: kept(desk.components),
    rules: kept(desk.rules),
    steps: keptBy(desk.steps),
    forbidden: keptBy(desk.forbidden),
    failures: keptBy(desk.failures),
    starts: desk.starts,
    commands: kept(desk.commands),
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
    unfitted: {
      names: [...namesOf(desk)].filter((name) => !names.has(name)),
      places: gone.map((each) => each.id),
      ways: gone.flatMap(waysTo),
    },
  };
}
