import type { Insight, RouteInput, insightRoutes as routes, ShareRow } from '@rounds/contract';
import { addMonths, longDate } from '@rounds/core/calendar';
import { METHOD_WORDS, type Method, type Pack, type System, SYSTEM_WORDS } from '@rounds/core/catalogue';
import { type Counted, shares, shareWords, trendWords, wholeShare } from '@rounds/core/insight';
import { namedMethod } from '@rounds/core/round';
import { and, asc, eq, gte, lt } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { evaluatorsToday } from '../calibration/calibrations';
import { publishedPack } from '../classes/packs';
import { type House, siteToday } from '../data/context';
import { account, machineClass, person } from '../data/schema';
import { practiceReview } from '../data/teachingSchema';
import { gradesGiven } from './grades';
import { type Asked, askedDays, type ObservationRow, observations } from './observations';

type Query = RouteInput<typeof routes.insight>['query'];

/** Something that may have been missed, with everything it is counted under. */
interface Thing {
  classId: string;
  classTitle: string;
  who: string;
  on: string;
  system: System;
  method: Method;
  /** The check, or the fault at it. */
  item: string;
  name: string;
  failed: boolean;
}

/** What failed, in a sentence. */
const DID = {
  checks: 'missed or made only when prompted',
  faults: 'not found unprompted',
  practice: 'answered wrong',
} as const;

const named = (title: string, asked: Asked, name: string) => (asked.classId ? name : `${title}: ${name}`);

function ofEvaluations(rows: readonly ObservationRow[], measure: 'checks' | 'faults', asked: Asked): Thing[] {
  return rows.flatMap(({ row, classTitle }) => {
    const about = { classId: row.classId, classTitle, who: row.personId, on: row.on };
    return measure === 'checks'
      ? row.body.checks.map(({ checkpoint, part, system, method, result }) => ({
          ...about,
          system,
          method,
          item: `${row.classId} ${checkpoint}`,
          name: named(classTitle, asked, part),
          failed: result !== 'done',
        }))
      : row.body.faults.map(({ fault, title, system, method, found }) => ({
          ...about,
          system,
          method,
          item: `${row.classId} ${fault}`,
          name: named(classTitle, asked, title),
          failed: found !== 'found',
        }));
  });
}

/** The check of an item of practice, and its words; null for steps, numbers, and what the class has no more. */
function checkOf(pack: Pack, item: string): { system: System; method: Method; name: string } | null {
  if (item.startsWith('step:') || item.startsWith('number:')) return null;
  const [id, fault] = item.replace('reading:', '').split('/') as [string, string];
  const check = pack.checkpoints.find((each) => each.id === id);
  if (!check) return null;
  const row = pack.faults.find((each) => each.id === fault);
  const cue = row?.cues.find((each) => check.methods.includes(each.method));
  return {
    system: check.system,
    method: item.startsWith('reading:') ? 'measure' : (cue?.method ?? namedMethod(pack, check)),
    name: row ? `${check.part}: ${row.title}` : check.part,
  };
}

async function ofPractice(house: House, caller: Caller, asked: Asked): Promise<Thing[]> {
  const days = await askedDays(house, asked);
  const rows = await house.db
    .select({ row: practiceReview, classTitle: machineClass.title })
    .from(practiceReview)
    .innerJoin(person, eq(person.id, practiceReview.personId))
    .innerJoin(machineClass, eq(machineClass.id, practiceReview.classId))
    .where(
      and(
        withinScope(scopeOf(caller)),
        gte(practiceReview.at, days.after),
        lt(practiceReview.at, days.before),
        asked.classId ? eq(practiceReview.classId, asked.classId) : undefined,
      ),
    )
    .orderBy(asc(practiceReview.at));
  const packs = new Map<string, Pack | null>();
  const things: Thing[] = [];
  for (const { row, classTitle } of rows) {
    if (!days.holds(row.at)) continue;
    if (!packs.has(row.classId))
      packs.set(row.classId, (await publishedPack(house.db, row.classId))?.pack ?? null);
    const pack = packs.get(row.classId);
    const found = pack && checkOf(pack, row.item);
    if (!found) continue;
    const { name, ...rest } = found;
    things.push({
      ...rest,
      classId: row.classId,
      classTitle,
      who: row.personId,
      on: days.dayOf(row.at),
      item: `${row.classId} ${row.item}`,
      name: named(classTitle, asked, name),
      failed: row.outcome === 'wrong',
    });
  }
  return things;
}

const counted = (things: readonly Thing[], by: (thing: Thing) => [key: string, name: string]): Counted[] =>
  things.map((each) => {
    const [key, name] = by(each);
    return { key, name, who: each.who, failed: each.failed };
  });

/** A month as it is spoken of: "March 2026". */
const monthName = (month: string) => longDate(`${month}-01`).replace(/^\d+ /, '');

/** Most rows of a table of many. */
const MOST_ROWS = 60;

/** How trainers record: the share of checks they wrote down as prompted or missed, beside their last calibration. */
async function evaluators(
  house: House,
  rows: readonly ObservationRow[],
): Promise<NonNullable<Insight['evaluators']>> {
  const accounts = new Map(
    (await house.db.select({ id: account.id, name: account.name }).from(account)).map((each) => [
      each.id,
      each.name,
    ]),
  );
  const did = 'written down as prompted or missed';
  const found = shares(
    rows.flatMap(({ row }) =>
      row.body.checks.map((each) => ({
        key: row.accountId,
        name: accounts.get(row.accountId) ?? 'unknown',
        who: row.personId,
        failed: each.result !== 'done',
      })),
    ),
    did,
  );
  const calibrated = new Map((await evaluatorsToday(house)).map((each) => [each.id, each]));
  return found.map((each) => ({
    ...each,
    evaluations: rows.filter(({ row }) => row.accountId === each.key).length,
    severity: calibrated.get(each.key)?.severity?.says ?? null,
  }));
}

/** What the evaluations and the practice of some months show, of the people a caller may see. */
export async function insight(
  house: House,
  { measure, classId, months }: Query,
  caller: Caller,
): Promise<Insight> {
  const to = await siteToday(house);
  // Whole months, the one that runs among them.
  const asked: Asked = { classId, from: addMonths(`${to.slice(0, 7)}-01`, 1 - months), to };
  const rows = await observations(house, caller, asked);
  const things =
    measure === 'practice' ? await ofPractice(house, caller, asked) : ofEvaluations(rows, measure, asked);
  const did = DID[measure];
  const by = (key: (thing: Thing) => [string, string]): ShareRow[] =>
    shares(counted(things, key), did).slice(0, MOST_ROWS);
  const trend = by(({ on }) => [on.slice(0, 7), monthName(on.slice(0, 7))]).sort((a, b) =>
    a.key.localeCompare(b.key),
  );
  const whole = wholeShare(
    counted(things, () => ['', '']),
    did,
  );
  const grades = await gradesGiven(house, caller, asked, rows);
  const tooLow = 'graded too low';
  const all = scopeOf(caller) === 'everybody';
  return {
    from: asked.from,
    to,
    evaluations: rows.length,
    people: new Set(things.map((each) => each.who)).size,
    whole,
    missed: {
      classes: by((each) => [each.classId, each.classTitle]),
      systems: by((each) => [each.system, SYSTEM_WORDS[each.system]]),
      methods: by((each) => [each.method, METHOD_WORDS[each.method]]),
      checks: by((each) => [each.item, each.name]),
    },
    trend,
    grading: { whole: wholeShare(grades, tooLow), people: shares(grades, tooLow).slice(0, MOST_ROWS) },
    evaluators: all ? await evaluators(house, rows) : null,
    says: whole
      ? [
          `In all ${shareWords(whole, did)}`,
          trendWords(trend),
          'Intervals are those of chance (95 %). What one person does hangs together, so the truth may lie further out.',
        ]
      : ['Nothing of this kind is on record for these months.'],
  };
}
