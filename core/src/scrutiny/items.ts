import { type SharedAlpha, sharedAlpha } from './alpha';
import { correlation, correlationInterval, type Interval, mean, wilsonInterval } from '../statistics';

/** One answer to an item: whether it was as the key has it. */
export interface ItemAnswer {
  who: string;
  item: string;
  right: boolean;
}

/** What may be wrong with an item, not with those who answer it. */
export type ItemFlag = 'against-the-able' | 'nearly-all-fail';

/** How an item did among those who answered it. */
export interface ScrutinisedItem {
  item: string;
  people: number;
  right: number;
  /** Share right: high is easy. */
  difficulty: number;
  difficultyInterval: Interval;
  /**
   * Correlation of being right here with the share right of everything else that the person answered; null where either
   * does not vary.
   */
  discrimination: number | null;
  discriminationInterval: Interval | null;
  /**
   * Cronbach's alpha of the items that enough people answered together, without this one; null where it is not among
   * them.
   */
  alphaIfDropped: number | null;
  /** Share right among the better half of those who answered it, and among the other. */
  able: number | null;
  others: number | null;
  /** Whether enough people answered it to say anything. */
  enough: boolean;
  flags: ItemFlag[];
  says: string;
}

/** People from which on an item is judged. */
export const LEAST_PEOPLE = 10;
/** Nearly all fail where even the upper end of the interval is below this. */
const NEARLY_ALL = 0.35;

/**
 * Items that good people fail: each item's difficulty and discrimination with their intervals, and whether its key is to
 * be looked at. People need not have answered the same items; how able somebody is shows in the rest of what they
 * answered. An answer given twice counts as the last. Method: corrected item-rest correlation (S. Henrysson, 1963)
 * with Fisher's interval, shares with Wilson's.
 */
export function scrutiniseItems(answers: readonly ItemAnswer[]): ScrutinisedItem[] {
  return scrutinise(answers).items;
}

/** The items with how far those that enough people answered together measure the same. */
export function scrutinise(answers: readonly ItemAnswer[]): {
  items: ScrutinisedItem[];
  scale: Omit<SharedAlpha, 'ifDropped'> & { items: number };
} {
  const last = new Map<string, ItemAnswer>();
  for (const each of answers) last.set(JSON.stringify([each.who, each.item]), each);
  const byPerson = new Map<string, { right: number; of: number }>();
  const byItem = new Map<string, ItemAnswer[]>();
  for (const each of last.values()) {
    const own = byPerson.get(each.who) ?? { right: 0, of: 0 };
    byPerson.set(each.who, { right: own.right + Number(each.right), of: own.of + 1 });
    byItem.set(each.item, [...(byItem.get(each.item) ?? []), each]);
  }
  const scores = new Map<string, Map<string, number>>();
  for (const { who, item, right } of last.values())
    scores.set(who, (scores.get(who) ?? new Map<string, number>()).set(item, Number(right)));
  const judged = [...byItem].filter(([, own]) => own.length >= LEAST_PEOPLE).map(([item]) => item);
  const { ifDropped, ...scale } = sharedAlpha(scores, judged, LEAST_PEOPLE);
  const items = [...byItem]
    .map(([item, own]) => ({
      ...scrutinised(item, own, byPerson),
      alphaIfDropped: ifDropped.get(item) ?? null,
    }))
    .sort(
      (a, b) =>
        b.flags.length - a.flags.length ||
        Number(b.enough) - Number(a.enough) ||
        a.difficulty - b.difficulty ||
        a.item.localeCompare(b.item),
    );
  return { items, scale: { ...scale, items: ifDropped.size } };
}

function scrutinised(
  item: string,
  answers: readonly ItemAnswer[],
  byPerson: ReadonlyMap<string, { right: number; of: number }>,
): Omit<ScrutinisedItem, 'alphaIfDropped'> {
  const people = answers.length;
  const right = answers.filter((each) => each.right).length;
  const rested = answers.flatMap((each) => {
    const { right: all, of } = byPerson.get(each.who)!;
    return of < 2 ? [] : [{ right: Number(each.right), rest: (all - Number(each.right)) / (of - 1) }];
  });
  const discrimination =
    rested.length < 3
      ? null
      : correlation(
          rested.map((each) => each.right),
          rested.map((each) => each.rest),
        );
  const halves = [...rested].sort((a, b) => b.rest - a.rest);
  const half = Math.floor(halves.length / 2);
  const share = (list: typeof halves) => (list.length === 0 ? null : mean(list.map((each) => each.right)));
  const difficultyInterval = wilsonInterval(right, people);
  const found = {
    item,
    people,
    right,
    difficulty: right / people,
    difficultyInterval,
    discrimination,
    discriminationInterval:
      discrimination === null ? null : correlationInterval(discrimination, rested.length),
    able: share(halves.slice(0, half)),
    others: share(halves.slice(halves.length - half)),
    enough: people >= LEAST_PEOPLE,
  };
  const flags: ItemFlag[] = [];
  if (found.enough) {
    if (found.discriminationInterval && found.discriminationInterval.high < 0.2 && discrimination! < 0)
      flags.push('against-the-able');
    if (difficultyInterval.high < NEARLY_ALL) flags.push('nearly-all-fail');
  }
  return { ...found, flags, says: words({ ...found, flags }) };
}

const percent = (value: number) => `${Math.round(100 * value)} %`;

function words({
  people,
  right,
  enough,
  flags,
  able,
  others,
}: Omit<ScrutinisedItem, 'says' | 'alphaIfDropped'>): string {
  if (!enough)
    return `${people} ${people === 1 ? 'person is' : 'people are'} too few to judge it; from ${LEAST_PEOPLE} on it can be.`;
  const said = flags.map((each) =>
    each === 'against-the-able'
      ? `Those who are good at the rest fail it more often (${percent(able!)} right) than the others (${percent(others!)}): the key or the wording is probably wrong.`
      : `Only ${right} of ${people} have it: look at the key before blaming people.`,
  );
  return said.length > 0
    ? said.join(' ')
    : `${right} of ${people} have it, the good ones no less than the others.`;
}
