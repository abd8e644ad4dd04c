import { routes, type ImportPreview, type Person } from '@rounds/contract';
import { forecast, longDate, standing, type CertificationEvent, type CertificationEventBody, type Standing } from '@rounds/core';
import { stringify } from 'csv-stringify/sync';
import { and, asc, count, desc, eq, ilike, or, sql, type SQL } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { summaryRows } from '../assess/summaries';
import { eventsByPerson, maySee, standingsOf } from '../certification/standings';
import { bind } from '../house/binder';
import { note, rulesOn, siteToday, type Caller, type House } from '../house/context';
import { ProblemError } from '../house/problem';
import { account, certificate, certificationEventRow, machineClass, person } from '../house/schema';
import { checkRows, matchColumns, readCsv, type ImportedPerson } from './csvImport';

type PersonRow = typeof person.$inferSelect;

function shown({ createdAt: _, ...row }: PersonRow): Person {
  return row;
}

/** The rows a caller may list: supervisors only their team. */
function visible(caller: Caller): SQL | undefined {
  return caller.role === 'supervisor' ? eq(person.team, caller.team ?? '') : undefined;
}

const EVENT_WORDS: Record<CertificationEventBody['kind'], (body: never) => string> = {
  'training-started': () => 'Training started',
  'theory-passed': () => 'Theory passed',
  'drill-met': () => 'Drill standard met',
  'evaluation-passed': (body: { score?: number; overridden?: boolean }) =>
    `Evaluation passed${body.score === undefined ? '' : `, ${body.score} %`}${body.overridden ? ' (trainer overrode the computed outcome)' : ''}`,
  'evaluation-failed': (body: { score?: number }) => `Evaluation not passed${body.score === undefined ? '' : `, ${body.score} %`}`,
  'certificate-recorded': (body: { words?: string }) => `Earlier certificate taken over${body.words ? `: ${body.words}` : ''}`,
  familiarised: (body: { unit: string }) => `Familiarised with ${body.unit}`,
  endorsed: (body: { words: string }) => `Endorsed: ${body.words}`,
  'hours-logged': (body: { hours: number }) => `${body.hours} hours logged`,
  medical: () => 'Medical passed',
  trigger: (body: { trigger: string; words?: string }) => `Trigger raised: ${body.trigger.replace('-', ' ')}${body.words ? ` (${body.words})` : ''}`,
  'refresher-done': () => 'Refresher done',
  suspended: (body: { words: string }) => `Suspended: ${body.words}`,
  reinstated: (body: { words: string }) => `Reinstated: ${body.words}`,
  withdrawn: (body: { words: string }) => `Withdrawn: ${body.words}`,
};

/** A certification event in words. */
function eventWords(body: CertificationEventBody): string {
  return (EVENT_WORDS[body.kind] as (body: CertificationEventBody) => string)(body);
}

async function personOr404(house: House, caller: Caller, id: string): Promise<PersonRow> {
  const [row] = await house.db.select().from(person).where(eq(person.id, id));
  if (!row || !maySee(caller, row)) throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
  return row;
}

async function distinct(house: House, column: typeof person.site | typeof person.team, where: SQL | undefined): Promise<string[]> {
  return (await house.db.selectDistinct({ value: column }).from(person).where(where).orderBy(asc(column))).map((each) => each.value);
}

/** Compares accepted rows with the roster. */
async function compareWithRoster(
  house: House,
  rows: readonly { person: ImportedPerson }[],
): Promise<{ added: ImportedPerson[]; changed: { id: string; to: ImportedPerson }[]; unchanged: number }> {
  const existing = new Map((await house.db.select().from(person)).map((row) => [row.payroll, row]));
  const added: ImportedPerson[] = [];
  const changed: { id: string; to: ImportedPerson }[] = [];
  let unchanged = 0;
  for (const { person: row } of rows) {
    const before = existing.get(row.payroll);
    if (!before) added.push(row);
    else {
      const kept = { ...row, email: row.email ?? before.email, born: row.born ?? before.born, started: row.started ?? before.started };
      if ((Object.keys(kept) as (keyof ImportedPerson)[]).some((key) => kept[key] !== before[key])) changed.push({ id: before.id, to: kept });
      else unchanged += 1;
    }
  }
  return { added, changed, unchanged };
}

async function previewOf(
  house: House,
  csv: string,
  asked: Parameters<typeof matchColumns>[1],
): Promise<{ preview: ImportPreview; plan: Awaited<ReturnType<typeof compareWithRoster>> }> {
  const { columns, rows } = readCsv(csv);
  const mapping = matchColumns(columns, asked);
  const { accepted, rejected } = checkRows(columns, rows, mapping);
  const plan = await compareWithRoster(house, accepted);
  return {
    plan,
    preview: {
      columns,
      mapping,
      rows: rows.length,
      accepted: accepted.length,
      added: plan.added.length,
      changed: plan.changed.length,
      unchanged: plan.unchanged,
      rejected,
      sample: accepted.slice(0, 5).map(({ person: each }) => Object.fromEntries(Object.entries(each).map(([key, value]) => [key, value ?? '']))),
    },
  };
}

/** Text that a spreadsheet would run as a formula gets a leading apostrophe. */
function safeCell(value: string | null): string {
  const text = value ?? '';
  return /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** Routes of people, roster import and export, and the standing matrix. */
export function peopleRoutes(router: Router, house: House): void {
  bind(router, house, routes.people, async ({ query, caller }) => {
    const own = visible(caller);
    const pattern = query.search ? `%${query.search.replace(/[%_\\]/g, '\\$&')}%` : null;
    const filters = and(
      own,
      eq(person.active, true),
      query.site ? eq(person.site, query.site) : undefined,
      query.team ? eq(person.team, query.team) : undefined,
      pattern
        ? or(
            ilike(person.familyName, pattern),
            ilike(person.givenName, pattern),
            ilike(person.payroll, pattern),
            ilike(sql`${person.givenName} || ' ' || ${person.familyName}`, pattern),
          )
        : undefined,
    );
    let after: SQL | undefined;
    if (query.cursor) {
      const [family, given, id] = JSON.parse(Buffer.from(query.cursor, 'base64url').toString()) as [string, string, string];
      after = sql`(${person.familyName}, ${person.givenName}, ${person.id}) > (${family}, ${given}, ${id}::uuid)`;
    }
    const rows = await house.db
      .select()
      .from(person)
      .where(and(filters, after))
      .orderBy(person.familyName, person.givenName, person.id)
      .limit(query.limit + 1);
    const page = rows.slice(0, query.limit);
    const today = await siteToday(house);
    const { rules } = await rulesOn(house.db, today);
    const standings = await standingsOf(house.db, page, rules, today);
    const last = page.at(-1);
    return {
      rows: page.map((row) => ({ person: shown(row), standings: standings.get(row.id) ?? [] })),
      next: rows.length > query.limit && last ? Buffer.from(JSON.stringify([last.familyName, last.givenName, last.id])).toString('base64url') : null,
      total: (await house.db.select({ n: count() }).from(person).where(filters))[0]?.n ?? 0,
      sites: await distinct(house, person.site, own),
      teams: await distinct(house, person.team, own),
    };
  });

  bind(router, house, routes.addPerson, async ({ body, caller }) => {
    const [existing] = await house.db.select().from(person).where(eq(person.payroll, body.payroll));
    if (existing) throw new ProblemError('payroll-taken', `Payroll number ${body.payroll} belongs to ${existing.givenName} ${existing.familyName}.`);
    const [row] = await house.db
      .insert(person)
      .values({ id: uuidv7(), ...body })
      .returning();
    await note(house.db, caller, 'person-added', row!.id);
    return shown(row!);
  });

  bind(router, house, routes.changePerson, async ({ params, body, caller }) => {
    const before = await personOr404(house, caller, params.id);
    if (body.payroll && body.payroll !== before.payroll) {
      const [other] = await house.db.select().from(person).where(eq(person.payroll, body.payroll));
      if (other) throw new ProblemError('payroll-taken', `Payroll number ${body.payroll} belongs to ${other.givenName} ${other.familyName}.`);
    }
    const changes = Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined));
    const [row] = await house.db
      .update(person)
      .set({ ...changes, id: before.id })
      .where(eq(person.id, before.id))
      .returning();
    await note(house.db, caller, 'person-changed', before.id, changes);
    return shown(row!);
  });

  bind(router, house, routes.person, async ({ params, caller }) => {
    const row = await personOr404(house, caller, params.id);
    const today = await siteToday(house);
    const { rules } = await rulesOn(house.db, today);
    const standings = (await standingsOf(house.db, [row], rules, today)).get(row.id) ?? [];
    const byClass = (await eventsByPerson(house.db, [row.id])).get(row.id) ?? new Map<string, CertificationEvent[]>();
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
        .flatMap(([classId, events]) => forecast(events, rules, today, horizon, row.born).map((each) => ({ classId, ...each })))
        .sort((a, b) => (a.on < b.on ? -1 : 1)),
      history: history.map(({ event, by, token }) => {
        const body = event.body as CertificationEventBody;
        return {
          id: event.id,
          classId: event.classId,
          on: event.on,
          kind: body.kind,
          words: eventWords(body),
          by: by ?? 'unknown',
          evaluation: event.evaluationId,
          token,
        };
      }),
      evaluations: await summaryRows(house, { personId: row.id }),
    };
  });

  bind(router, house, routes.previewImport, async ({ body }) => (await previewOf(house, body.csv, body.mapping)).preview);

  bind(router, house, routes.importPeople, async ({ body, caller }) => {
    const { preview, plan } = await previewOf(house, body.csv, body.mapping);
    await house.db.transaction(async (tx) => {
      for (let i = 0; i < plan.added.length; i += 500) await tx.insert(person).values(plan.added.slice(i, i + 500).map((each) => ({ id: uuidv7(), ...each })));
      for (const { id, to } of plan.changed) await tx.update(person).set(to).where(eq(person.id, id));
      await note(tx, caller, 'people-imported', 'roster', { added: plan.added.length, changed: plan.changed.length, rejected: preview.rejected.length });
    });
    return preview;
  });

  bind(router, house, routes.exportPeople, async ({ caller }) => {
    const rows = await house.db
      .select()
      .from(person)
      .where(and(visible(caller), eq(person.active, true)))
      .orderBy(person.familyName, person.givenName, person.id);
    const today = await siteToday(house);
    const { rules } = await rulesOn(house.db, today);
    const standings = await standingsOf(house.db, rows, rules, today);
    const classes = await house.db.select().from(machineClass).orderBy(machineClass.title);
    const cell = (held: Standing | undefined) => (held ? `${held.status}${held.until ? ` until ${held.until}` : ''}` : '');
    const used = classes.filter((each) => [...standings.values()].some((list) => list.some((s) => s.classId === each.id)));
    const table = [
      ['payroll number', 'given name', 'family name', 'site', 'team', 'e-mail', 'date of birth', 'start date', ...used.map((each) => each.title)],
      ...rows.map((row) => [
        ...[row.payroll, row.givenName, row.familyName, row.site, row.team, row.email, row.born, row.started].map(safeCell),
        ...used.map((each) => cell(standings.get(row.id)?.find((s) => s.classId === each.id)?.standing)),
      ]),
    ];
    return { file: `\uFEFF${stringify(table, { record_delimiter: 'windows' })}`, name: `roster-${today}.csv` };
  });

  bind(router, house, routes.matrix, async ({ query, caller }) => {
    const own = visible(caller);
    const people = await house.db
      .select()
      .from(person)
      .where(and(own, eq(person.active, true), query.site ? eq(person.site, query.site) : undefined, query.team ? eq(person.team, query.team) : undefined))
      .orderBy(person.familyName, person.givenName, person.id);
    const classes = await house.db
      .select({ id: machineClass.id, title: machineClass.title, family: machineClass.family })
      .from(machineClass)
      .orderBy(machineClass.family, machineClass.title);
    const index = new Map(classes.map((each, i) => [each.id, i]));
    const today = await siteToday(house);
    const { rules } = await rulesOn(house.db, today);
    const standings = await standingsOf(house.db, people, rules, today);
    return {
      today,
      classes,
      people: people.map((row) => ({
        id: row.id,
        name: `${row.familyName}, ${row.givenName}`,
        team: row.team,
        site: row.site,
        cells: (standings.get(row.id) ?? []).flatMap(({ classId, standing: held }): [number, string, number | null, string][] => {
          const at = index.get(classId);
          return at === undefined ? [] : [[at, held.status, held.daysLeft, held.mayOperate]];
        }),
      })),
      sites: await distinct(house, person.site, own),
      teams: await distinct(house, person.team, own),
    };
  });

  bind(router, house, routes.addCertificationEvent, async ({ params, body, caller }) => {
    const row = await personOr404(house, caller, params.id);
    const today = await siteToday(house);
    if (body.on > today) throw new ProblemError('date-in-future', `${longDate(body.on)} lies in the future; only what has happened is recorded.`);
    const [known] = await house.db.select().from(machineClass).where(eq(machineClass.id, body.classId));
    if (!known) throw new ProblemError('not-found', `There is no machine class "${body.classId}".`);
    const supervisorMay: readonly CertificationEventBody['kind'][] = ['trigger', 'hours-logged'];
    if (caller.role === 'supervisor' && !supervisorMay.includes(body.body.kind))
      throw new ProblemError('forbidden', 'A supervisor raises triggers and logs hours; the rest is recorded by a trainer.');
    const signedOnly: readonly CertificationEventBody['kind'][] = ['evaluation-passed', 'evaluation-failed'];
    if (signedOnly.includes(body.body.kind))
      throw new ProblemError('forbidden', 'An evaluation is recorded by signing it in Assess. An earlier certificate is taken over as "certificate recorded".');
    await house.db.insert(certificationEventRow).values({ id: uuidv7(), personId: row.id, classId: body.classId, on: body.on, body: body.body, accountId: caller.id });
    await note(house.db, caller, 'certification-event', row.id, { classId: body.classId, kind: body.body.kind });
    const { rules } = await rulesOn(house.db, today);
    const events = (await eventsByPerson(house.db, [row.id])).get(row.id)?.get(body.classId) ?? [];
    return standing(events, rules, today, row.born);
  });
}
