import { maySee, scopeOf, withinScope, type Caller } from '../accounts/access';
import { routes, type ImportPreview, type Person, type ROSTER_ORDERS } from '@rounds/contract';
import { daysBetween } from '@rounds/core/calendar';
import {
  certificationEventBody,
  certificationEventWords,
  forecast,
  GRAVEST_FIRST,
  longDate,
  rulesOn,
  takenOverProblem,
  type CertificationEvent,
  type CertificationEventBody,
  type Standing,
} from '@rounds/core/certification';
import { stringify } from 'csv-stringify/sync';
import { and, asc, count, desc, eq, exists, ilike, inArray, or, sql, type SQL } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { summaryRows } from '../assess/summaries';
import { z } from 'zod';
import {
  eventsByPerson,
  projectStandings,
  readRules,
  standingOf,
  standingsOf,
  standingsToday,
} from '../certification/standings';
import { certificationStream } from '../certification/stream';
import { append } from '../data/append';
import { changesBetween, lock, lockShared, note, type House } from '../data/context';
import type { Database } from '../data/database';
import {
  account,
  certificate,
  certificationEventRow,
  machineClass,
  person,
  standingRow,
} from '../data/schema';
import { bind } from '../http/binder';
import { readCursor, writeCursor } from '../http/cursor';
import { ProblemError } from '../http/problem';
import type { AskedColumns, ImportedPerson } from './csvImport';

type PersonRow = typeof person.$inferSelect;

function shown({ createdAt: _, ...row }: PersonRow): Person {
  return row;
}

/** A place in the roster's order. */
const rosterPlace = z.tuple([z.string(), z.string(), z.uuid()]);

function placeOf(row: PersonRow): string {
  return writeCursor([row.familyName, row.givenName, row.id]);
}

function afterPlace(cursor: string | undefined): SQL | undefined {
  if (cursor === undefined) return undefined;
  const [family, given, id] = readCursor(cursor, rosterPlace);
  return sql`(${person.familyName}, ${person.givenName}, ${person.id}) > (${family}, ${given}, ${id}::uuid)`;
}

const BY_NAME = [person.familyName, person.givenName, person.id] as const;
/** The gravest standing of a person first: 0 for suspended. */
const gravest = sql`(select min(array_position(${sql.raw(
  `array['${GRAVEST_FIRST.join("','")}']`,
)}, s.status)) from standing s where s.person_id = ${person.id})`;
const soonest = sql`(select min(s.until_date) from standing s where s.person_id = ${person.id}
  and s.status in ('valid', 'due', 'in-grace'))`;

/** The order of the roster that was asked for; people of one place stand by name. */
function rosterOrder(sort: (typeof ROSTER_ORDERS)[number], order: 'ascending' | 'descending'): SQL[] {
  const by = {
    name: [person.familyName, person.givenName],
    payroll: [person.payroll],
    team: [person.team],
    site: [person.site],
    standing: [gravest],
    until: [soonest],
  }[sort];
  const direction = order === 'descending' ? sql`desc` : sql`asc`;
  // Who has nothing on record comes last either way.
  return [...by.map((each) => sql`${each} ${direction} nulls last`), ...BY_NAME.map((each) => sql`${each}`)];
}

async function personOr404(house: House, caller: Caller, id: string): Promise<PersonRow> {
  const [row] = await house.db.select().from(person).where(eq(person.id, id));
  if (!row || !maySee(caller, row))
    throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
  return row;
}

async function distinct(
  house: House,
  column: typeof person.site | typeof person.team,
  where: SQL | undefined,
): Promise<string[]> {
  return (
    await house.db.selectDistinct({ value: column }).from(person).where(where).orderBy(asc(column))
  ).map((each) => each.value);
}

/** What accepted rows would change in the roster. */
interface RosterPlan {
  added: ImportedPerson[];
  changed: { before: PersonRow; to: ImportedPerson }[];
  unchanged: number;
}

async function compareWithRoster(
  db: Database,
  rows: readonly { person: ImportedPerson }[],
): Promise<RosterPlan> {
  const existing = new Map((await db.select().from(person)).map((row) => [row.payroll, row]));
  const plan: RosterPlan = { added: [], changed: [], unchanged: 0 };
  for (const { person: row } of rows) {
    const before = existing.get(row.payroll);
    if (!before) {
      plan.added.push(row);
      continue;
    }
    const to = {
      ...row,
      email: row.email ?? before.email,
      born: row.born ?? before.born,
      started: row.started ?? before.started,
    };
    if ((Object.keys(to) as (keyof ImportedPerson)[]).some((key) => to[key] !== before[key]))
      plan.changed.push({ before, to });
    else plan.unchanged += 1;
  }
  return plan;
}

/** Writes what a plan changes, in portions, with before and after in the audit. */
async function carryOut(db: Database, caller: Caller, plan: RosterPlan, today: string): Promise<void> {
  const added = plan.added.map((each) => ({ id: uuidv7(), ...each }));
  for (let i = 0; i < added.length; i += 500) {
    await db.insert(person).values(added.slice(i, i + 500));
    await note(db, caller, 'people-imported', 'roster', {
      added: added.slice(i, i + 500).map((each) => each.payroll),
    });
  }
  for (let i = 0; i < plan.changed.length; i += 500) {
    const portion = plan.changed.slice(i, i + 500);
    const field = (column: string) => sql.raw(`excluded."${column}"`);
    await db
      .insert(person)
      .values(portion.map(({ before, to }) => ({ ...before, ...to })))
      .onConflictDoUpdate({
        target: person.id,
        set: {
          givenName: field('given_name'),
          familyName: field('family_name'),
          site: field('site'),
          team: field('team'),
          email: field('email'),
          born: field('born'),
          started: field('started'),
        },
      });
    const changes = portion.map(({ before, to }) => ({ id: before.id, ...changesBetween(before, to) }));
    await note(db, caller, 'people-imported', 'roster', { changed: changes });
  }
  await projectStandings(
    db,
    today,
    plan.changed.map(({ before }) => before.id),
  );
}

async function payrollTaken(db: Database, payroll: string): Promise<ProblemError> {
  const [other] = await db.select().from(person).where(eq(person.payroll, payroll));
  return new ProblemError(
    'payroll-taken',
    `Payroll number ${payroll} belongs to ` +
      `${other ? `${other.givenName} ${other.familyName}` : 'somebody else'}.`,
  );
}

/** Text that a spreadsheet would run as a formula gets a leading apostrophe. */
function safeCell(value: string | null): string {
  const text = value ?? '';
  return /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** Routes of people, roster import and export, and the standing matrix. */
export function peopleRoutes(router: Router, house: House): void {
  const sitesAndTeams = async (own: SQL | undefined) => ({
    sites: await distinct(house, person.site, own),
    teams: await distinct(house, person.team, own),
  });

  const readRoster = (
    body: { csv: string; mapping?: AskedColumns; job?: string | undefined },
    caller: Caller,
    gone: AbortSignal,
  ) =>
    house.pool.run(
      'readRoster',
      { csv: body.csv, asked: body.mapping },
      { gone, job: body.job ? { id: body.job, accountId: caller.id } : undefined },
    );

  const previewOf = (read: Awaited<ReturnType<typeof readRoster>>, plan: RosterPlan): ImportPreview => ({
    columns: read.columns,
    mapping: read.mapping,
    rows: read.rows,
    accepted: read.accepted.length,
    added: plan.added.length,
    changed: plan.changed.length,
    unchanged: plan.unchanged,
    rejectedRows: read.rejectedRows,
    rejected: read.rejected,
    sample: read.accepted
      .slice(0, 5)
      .map(({ person: each }) =>
        Object.fromEntries(Object.entries(each).map(([key, value]) => [key, value ?? ''])),
      ),
  });

  bind(router, house, routes.people, async ({ query, caller }) => {
    const own = withinScope(scopeOf(caller));
    const today = await standingsToday(house);
    const pattern = query.search ? `%${query.search.replace(/[%_\\]/g, '\\$&')}%` : null;
    const standsSo =
      query.status || query.classId
        ? exists(
            house.db
              .select({ one: sql`1` })
              .from(standingRow)
              .where(
                and(
                  eq(standingRow.personId, person.id),
                  query.status ? eq(standingRow.status, query.status) : undefined,
                  query.classId ? eq(standingRow.classId, query.classId) : undefined,
                ),
              ),
          )
        : undefined;
    const filters = and(
      own,
      eq(person.active, true),
      query.site ? eq(person.site, query.site) : undefined,
      query.team ? eq(person.team, query.team) : undefined,
      standsSo,
      pattern
        ? or(
            ilike(person.familyName, pattern),
            ilike(person.givenName, pattern),
            ilike(person.payroll, pattern),
            ilike(sql`${person.givenName} || ' ' || ${person.familyName}`, pattern),
          )
        : undefined,
    );
    const rows = await house.db
      .select()
      .from(person)
      .where(and(filters, afterPlace(query.cursor)))
      .orderBy(...(query.cursor ? BY_NAME : rosterOrder(query.sort, query.order)))
      .limit(query.limit + 1)
      .offset(query.cursor ? 0 : (query.page - 1) * query.limit);
    const page = rows.slice(0, query.limit);
    const byPlace = query.sort === 'name' && query.order === 'ascending';
    const standings = await standingsOf(house.db, page, today);
    return {
      rows: page.map((row) => ({ person: shown(row), standings: standings.get(row.id) ?? [] })),
      next: byPlace && rows.length > query.limit ? placeOf(page.at(-1)!) : null,
      total: (await house.db.select({ n: count() }).from(person).where(filters))[0]?.n ?? 0,
      ...(await sitesAndTeams(own)),
    };
  });

  bind(router, house, routes.addPerson, async ({ body, caller }) =>
    house.db.transaction(async (db) => {
      const [row] = await db
        .insert(person)
        .values({ id: uuidv7(), ...body })
        .onConflictDoNothing()
        .returning();
      if (!row) throw await payrollTaken(db, body.payroll);
      await note(db, caller, 'person-added', row.id, shown(row));
      return shown(row);
    }),
  );

  bind(router, house, routes.changePerson, async ({ params, body, caller }) => {
    const today = await standingsToday(house);
    return house.db.transaction(async (db) => {
      await lockShared(db, 'standings');
      await lock(db, `certification ${params.id}`);
      const [before] = await db.select().from(person).where(eq(person.id, params.id)).for('update');
      if (!before || !maySee(caller, before))
        throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
      if (body.payroll && body.payroll !== before.payroll) {
        const [other] = await db
          .select({ id: person.id })
          .from(person)
          .where(eq(person.payroll, body.payroll));
        if (other) throw await payrollTaken(db, body.payroll);
      }
      const sent = Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined));
      const [row] = await db
        .update(person)
        .set({ ...sent, id: before.id })
        .where(eq(person.id, before.id))
        .returning();
      await projectStandings(db, today, [before.id]);
      await note(db, caller, 'person-changed', before.id, changesBetween(shown(before), shown(row!)));
      return shown(row!);
    });
  });

  bind(router, house, routes.person, async ({ params, caller }) => {
    const row = await personOr404(house, caller, params.id);
    const today = await standingsToday(house);
    const standings = (await standingsOf(house.db, [row], today)).get(row.id) ?? [];
    const rules = await readRules(house.db);
    const byClass =
      (await eventsByPerson(house.db, [row.id])).get(row.id) ?? new Map<string, CertificationEvent[]>();
    const horizon = `${Number(today.slice(0, 4)) + 4}${today.slice(4)}`.replace('-02-29', '-02-28');
    const history = await house.db
      .select({ event: certificationEventRow, by: account.name, token: certificate.token })
      .from(certificationEventRow)
      .leftJoin(account, eq(account.id, certificationEventRow.accountId))
      .leftJoin(certificate, eq(certificate.eventId, certificationEventRow.id))
      .where(eq(certificationEventRow.personId, row.id))
      .orderBy(desc(certificationEventRow.on), desc(certificationEventRow.seq));
    return {
      person: shown(row),
      standings,
      forecast: [...byClass]
        .flatMap(([classId, events]) =>
          forecast(events, rules.of(row.site, classId), today, horizon, row.born).map((each) => ({
            classId,
            ...each,
          })),
        )
        .sort((a, b) => (a.on < b.on ? -1 : Number(a.on > b.on))),
      history: history.map(({ event, by, token }) => {
        const body = certificationEventBody.parse(event.body);
        return {
          id: event.id,
          classId: event.classId,
          on: event.on,
          kind: body.kind,
          words: certificationEventWords(body),
          by: by ?? 'unknown',
          evaluation: event.evaluationId,
          token,
        };
      }),
      evaluations: await summaryRows(house, caller, { personId: row.id }),
    };
  });

  bind(router, house, routes.previewImport, async ({ body, caller, gone }) => {
    const read = await readRoster(body, caller, gone);
    return previewOf(read, await compareWithRoster(house.db, read.accepted));
  });

  bind(router, house, routes.importPeople, async ({ body, caller, gone }) => {
    const read = await readRoster(body, caller, gone);
    const today = await standingsToday(house);
    return house.db.transaction(async (db) => {
      await lock(db, 'standings');
      const plan = await compareWithRoster(db, read.accepted);
      await carryOut(db, caller, plan, today);
      await note(db, caller, 'people-imported', 'roster', {
        added: plan.added.length,
        changed: plan.changed.length,
        rejected: read.rejectedRows,
      });
      return previewOf(read, plan);
    });
  });

  bind(router, house, routes.exportPeople, async ({ caller }) => {
    const today = await standingsToday(house);
    const rows = await house.db
      .select()
      .from(person)
      .where(and(withinScope(scopeOf(caller)), eq(person.active, true)))
      .orderBy(person.familyName, person.givenName, person.id);
    const standings = await standingsOf(house.db, rows, today);
    const classes = await house.db.select().from(machineClass).orderBy(machineClass.title);
    const cell = (held: Standing | undefined) => {
      if (!held) return '';
      const until = held.until ? ` until ${held.until}` : '';
      return `${held.status}${until}${held.overridden ? ' (computed outcome overridden)' : ''}`;
    };
    const used = classes.filter((each) =>
      [...standings.values()].some((list) => list.some((s) => s.classId === each.id)),
    );
    const table = [
      [
        'payroll number',
        'given name',
        'family name',
        'site',
        'team',
        'e-mail',
        'date of birth',
        'start date',
        ...used.map((each) => each.title),
      ],
      ...rows.map((row) => [
        ...[
          row.payroll,
          row.givenName,
          row.familyName,
          row.site,
          row.team,
          row.email,
          row.born,
          row.started,
        ].map(safeCell),
        ...used.map((each) => cell(standings.get(row.id)?.find((s) => s.classId === each.id)?.standing)),
      ]),
    ];
    await note(house.db, caller, 'people-exported', 'roster', { people: rows.length });
    return {
      file: `\uFEFF${stringify(table, { record_delimiter: 'windows' })}`,
      name: `roster-${today}.csv`,
    };
  });

  bind(router, house, routes.matrix, async ({ query, caller }) => {
    const own = withinScope(scopeOf(caller));
    const today = await standingsToday(house);
    const filters = and(
      own,
      eq(person.active, true),
      query.site ? eq(person.site, query.site) : undefined,
      query.team ? eq(person.team, query.team) : undefined,
    );
    const rows = await house.db
      .select()
      .from(person)
      .where(and(filters, afterPlace(query.cursor)))
      .orderBy(person.familyName, person.givenName, person.id)
      .limit(query.limit + 1);
    const page = rows.slice(0, query.limit);
    const classes = await house.db
      .select({ id: machineClass.id, title: machineClass.title, family: machineClass.family })
      .from(machineClass)
      .orderBy(machineClass.family, machineClass.title);
    const index = new Map(classes.map((each, i) => [each.id, i]));
    const held = await house.db
      .select({
        personId: standingRow.personId,
        classId: standingRow.classId,
        status: standingRow.status,
        mayOperate: standingRow.mayOperate,
        until: standingRow.until,
        lengthDays: sql<number | null>`(${standingRow.body} ->> 'lengthDays')::int`,
      })
      .from(standingRow)
      .where(
        inArray(
          standingRow.personId,
          page.map((each) => each.id),
        ),
      )
      .orderBy(standingRow.classId);
    const cells = new Map<string, [number, string, number | null, string, number | null][]>(
      page.map((each) => [each.id, []]),
    );
    for (const each of held)
      cells
        .get(each.personId)!
        .push([
          index.get(each.classId)!,
          each.status,
          each.until === null ? null : daysBetween(today, each.until),
          each.mayOperate,
          each.lengthDays,
        ]);
    return {
      today,
      classes,
      people: page.map((row) => ({
        id: row.id,
        name: `${row.familyName}, ${row.givenName}`,
        team: row.team,
        site: row.site,
        cells: cells.get(row.id)!,
      })),
      next: rows.length > query.limit ? placeOf(page.at(-1)!) : null,
      total: (await house.db.select({ n: count() }).from(person).where(filters))[0]?.n ?? 0,
      ...(await sitesAndTeams(own)),
    };
  });

  bind(router, house, routes.addCertificationEvent, async ({ params, body, caller }) => {
    const row = await personOr404(house, caller, params.id);
    if (caller.personId === row.id)
      throw new ProblemError(
        'own-record',
        'This would be about yourself. Another trainer or supervisor records it.',
      );
    const today = await standingsToday(house);
    if (body.on > today)
      throw new ProblemError(
        'date-in-future',
        `${longDate(body.on)} lies in the future; only what has happened is recorded.`,
      );
    const [known] = await house.db.select().from(machineClass).where(eq(machineClass.id, body.classId));
    if (!known) throw new ProblemError('not-found', `There is no machine class "${body.classId}".`);
    const supervisorMay: readonly CertificationEventBody['kind'][] = ['trigger', 'hours-logged'];
    if (caller.role === 'supervisor' && !supervisorMay.includes(body.body.kind))
      throw new ProblemError(
        'forbidden',
        'A supervisor raises triggers and logs hours; the rest is recorded by a trainer.',
      );
    const signedOnly: readonly CertificationEventBody['kind'][] = ['evaluation-passed', 'evaluation-failed'];
    if (signedOnly.includes(body.body.kind))
      throw new ProblemError(
        'forbidden',
        'An evaluation is recorded by signing it in Assess. An earlier certificate is taken ' +
          'over as "certificate recorded".',
      );
    if (body.body.kind === 'certificate-recorded') {
      const problem = takenOverProblem(
        body.on,
        body.body,
        rulesOn((await readRules(house.db)).of(row.site, body.classId), body.on),
      );
      if (problem)
        throw new ProblemError('invalid', `Nothing was recorded: ${problem}.`, [
          { path: 'body.until', message: problem },
        ]);
    }
    const fact = { id: body.id ?? uuidv7(), on: body.on, body: body.body, evaluationId: null };
    return house.db.transaction(async (db) => {
      await append(
        db,
        certificationStream(today),
        { personId: row.id, classId: body.classId },
        [fact],
        caller,
      );
      return (await standingOf(db, row.id, body.classId, today))!;
    });
  });
}
