import { type EffectivePack, type Quantity, valueWords } from '../catalogue';
import { numberItem, type PracticeReview } from '../practice';
import { drawWeighted, seededRandom, shuffled } from '../statistics';

/** A number of a class asked for, with the answers to choose from. Whoever holds it knows the right one. */
export interface NumberQuestion {
  number: string;
  options: string[];
  right: number;
}

/** Answers to choose from. */
const OPTIONS = 4;
/** What a wrong answer is of the right one, the likeliest mistakes first: double, half, and so on. */
const FACTORS = [2, 0.5, 3, 1.5, 4, 0.25, 10, 5];
const NEIGHBOURS = [1, -1, 2, 3, -2, 4];
/** Counts up to here are asked beside their neighbours. */
const SMALL = 8;

/** A figure made from another is as round as that one is, and never the same. */
function scaled(value: number, factor: number): number {
  const made = value * factor;
  return Number.isInteger(value) && Math.abs(made) >= 1 ? Math.round(made) : Number(made.toPrecision(2));
}

/** Values a number might be taken for, in words, never the right ones. */
function wrongAnswers(number: Quantity, random: () => number): string[] {
  const bare = plainNumber(number);
  const { value, range } = bare;
  // Small counts, and nothing at all, are asked beside their neighbours.
  const near = value !== undefined && Number.isInteger(value) && Math.abs(value) <= SMALL;
  const made: Quantity[] = near
    ? NEIGHBOURS.map((step) => ({ ...bare, value: value + step })).filter(
        (each) => value < 0 || each.value >= 0,
      )
    : [...shuffled(FACTORS.slice(0, 5), random), ...FACTORS.slice(5)].map((factor) =>
        range
          ? { ...bare, range: [scaled(range[0], factor), scaled(range[1], factor)] }
          : { ...bare, value: scaled(value!, factor) },
      );
  const right = plain(number);
  return [...new Set(made.map(plain))].filter((each) => each !== right);
}

/** A number without the words that would tell it from others. */
function plainNumber({ says: _says, ...number }: Quantity): Quantity {
  return number;
}

const plain = (number: Quantity): string => valueWords(plainNumber(number));

/** Numbers that can be asked for: a figure, not a sentence. */
export function askableNumbers(pack: Pick<EffectivePack, 'numbers'>): Quantity[] {
  return pack.numbers.filter((each) => each.range !== undefined || each.value !== undefined);
}

/**
 * Questions about the numbers of a class, by weight and seed, each number at most once. Pure. Throws RangeError for a
 * class without numbers.
 */
export function dealNumbers(
  pack: EffectivePack,
  {
    seed,
    size,
    weights,
    without,
  }: {
    seed: number;
    size: number;
    weights?: ReadonlyMap<string, number>;
    without?: ReadonlySet<string>;
  },
): NumberQuestion[] {
  const random = seededRandom(seed);
  const left = askableNumbers(pack)
    .filter((each) => !without?.has(numberItem(each.id)))
    .map((each) => ({ number: each, weight: weights?.get(numberItem(each.id)) ?? 1 }));
  if (left.length === 0) throw new RangeError(`${pack.title} has no numbers to ask for`);
  const asked: NumberQuestion[] = [];
  while (asked.length < size && left.length > 0) {
    const one = drawWeighted(left, random);
    left.splice(left.indexOf(one), 1);
    const right = plain(one.number);
    const options = shuffled([right, ...wrongAnswers(one.number, random).slice(0, OPTIONS - 1)], random);
    asked.push({ number: one.number.id, options, right: options.indexOf(right) });
  }
  return asked;
}

/** What the answers say about the memory of the numbers. */
export function numberReviews(
  questions: readonly NumberQuestion[],
  answers: readonly (number | null)[],
  at: string,
): PracticeReview[] {
  return questions.flatMap(({ number, right }, i): PracticeReview[] => {
    const answer = answers[i];
    return answer === null || answer === undefined
      ? []
      : [{ item: numberItem(number), at, outcome: answer === right ? 'right' : 'wrong' }];
  });
}
