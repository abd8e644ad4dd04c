import { seededRandom, shuffled } from '../statistics';
import type { Desk } from './desk';
import { TICKS } from './expression';
import type { LoggedAct } from './work';

/** A question that comes up in a run, about something that a desk cannot show. */
export interface DeskCard {
  /** The forbidden row that it is about. */
  rule: string;
  /** When it comes up. */
  tick: number;
  /** What is offered, in the order shown: 0 is the right thing, 1 and on what is wrong. */
  offers: number[];
}

/** What became of a card. */
export interface CardAnswer {
  rule: string;
  /** Machine time in seconds at which it came up, and at which it was answered; null where it was not. */
  at: number;
  answered: number | null;
  /** What was chosen, in words; null where nothing was. */
  chose: string | null;
  right: boolean;
}

type Asked = { says: string; right: string; wrong: string[] };

/** What is asked about a forbidden row; null where nothing is. */
export const askedOf = (desk: Desk, rule: string): Asked | null => desk.forbidden[rule]?.asked ?? null;

/** The forbidden rows that a desk asks about. */
export const cardsOf = (desk: Desk): string[] =>
  Object.keys(desk.forbidden).filter((rule) => askedOf(desk, rule) !== null);

/** A card comes up so many seconds after the beginning, at least and at most. */
const [SOONEST, LATEST] = [10, 60];

/** Deals a card of those a desk has, drawn by the seed; none where it has none. */
export function dealCards(desk: Desk, seed: number): DeskCard[] {
  const random = seededRandom(seed);
  const all = cardsOf(desk);
  const rule = all[Math.floor(random() * all.length)];
  if (rule === undefined) return [];
  const { wrong } = askedOf(desk, rule)!;
  return [
    {
      rule,
      tick: Math.round((SOONEST + random() * (LATEST - SOONEST)) * TICKS),
      offers: shuffled([0, ...wrong.map((_, i) => i + 1)], random),
    },
  ];
}

/** What an offer says. */
export const offerWords = ({ right, wrong }: Asked, offer: number): string | null =>
  offer === 0 ? right : (wrong[offer - 1] ?? null);

/** What became of the cards of a run, by its log: the first answer to each counts. */
export function cardAnswers(
  desk: Desk,
  cards: readonly DeskCard[],
  log: readonly LoggedAct[],
  ticks: number,
): CardAnswer[] {
  return cards.flatMap(({ rule, tick }) => {
    const asked = askedOf(desk, rule);
    if (!asked || tick > ticks) return [];
    const given = log.find(
      (each) => each.act.kind === 'answer' && each.act.rule === rule && each.tick >= tick,
    );
    const offer = given?.act.kind === 'answer' ? given.act.offer : null;
    return [
      {
        rule,
        at: tick / TICKS,
        answered: given ? given.tick / TICKS : null,
        chose: offer === null ? null : offerWords(asked, offer),
        right: offer === 0,
      },
    ];
  });
}
