import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { type PackDraft, type PackImportPlan, type PackRevision, routes } from '@rounds/contract';
import {
  contentHash,
  type EffectivePack,
  type LibraryRow,
  type Pack,
  packTable,
  packToYaml,
  readPack,
} from '@rounds/core/catalogue';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BREAKAGES, packSource } from '../../../core/src/testing';
import { addPeople, type Caller, forklift, PASSWORD, startDesk } from './desk';

let desk: Awaited<ReturnType<typeof startDesk>>;
let trainer: Caller;
let admin: Caller;
const CLASS = 'counterbalance-forklift';
const params = { id: CLASS };
const source = packSource(CLASS);

let people: { operatorId: string; unitId: string };

beforeAll(async () => {
  desk = await startDesk();
  await desk.nobody.call(routes.createAdministrator, {
    body: { organisation: 'Test', timeZone: 'Europe/London', name: 'Ada', login: 'ada', password: PASSWORD },
  });
  admin = await desk.as('ada');
  people = await addPeople(desk.house, admin);
  trainer = await desk.as('trainer');
});
afterAll(() => desk.stop());

async function published(): Promise<Pack> {
  return ((await trainer.call(routes.machineClass, { params })).body as { pack: Pack }).pack;
}
async function revisions(): Promise<PackRevision[]> {
  return ((await trainer.call(routes.classRevisions, { params })).body as { revisions: PackRevision[] })
    .revisions;
}
/** An evaluation of the house's operator on the house's truck, as it stands on the day. */
const prepare = (id: string) =>
  trainer.call(routes.createEvaluation, {
    body: {
      id,
      personId: people.operatorId,
      classId: CLASS,
      unitId: people.unitId,
      variant: 'diesel',
      features: {},
      conditions: '',
      device: 'test-device',
    },
  });
const importing = (name: string, pack: string, kind: 'pack' | 'checkpoints' | 'faults' = 'pack') => ({
  name,
  kind,
  classId: kind === 'pack' ? null : CLASS,
  source: pack,
});

/** Revision of the class as it ships. */
const shipped = forklift().revision;

describe('import', () => {
  it.each(BREAKAGES.map((each) => [each.what, each] as const))(
    'refuses %s wholly, with file, line and reason',
    async (_what, { change, rule }) => {
      const before = contentHash(await published());
      const file = importing('broken.yaml', change(source));
      const plan = (await trainer.call(routes.previewPack, { body: file })).body as PackImportPlan;
      expect(plan.outcome).toBe('refused');
      const error = plan.errors.find((each) => each.rule === rule)!;
      expect(error.line).toBeGreaterThan(0);
      const done = await trainer.call(routes.importPack, { body: { ...file, hash: plan.hash, note: '' } });
      expect(done.status).toBe(422);
      expect(done.problem.code).toBe('pack-broken');
      expect(done.problem.detail).toContain('Nothing was changed');
      expect(done.problem.errors!.map((each) => each.path)).toContain(`broken.yaml:${error.line}`);
      expect(contentHash(await published())).toBe(before);
      expect(await revisions()).toHaveLength(1);
    },
  );

  it('shows what would change, then makes it the next revision; a stale look is refused', async () => {
    const other = structuredClone(forklift());
    other.checkpoints[0]!.sound = 'changed by an import';
    const file = importing('mine.json', JSON.stringify(other));
    const plan = (await trainer.call(routes.previewPack, { body: file })).body as PackImportPlan;
    expect(plan).toMatchObject({ outcome: 'new-revision', title: other.title });
    expect(plan.changes.map((each) => [each.kind, each.id])).toEqual([['changed', other.checkpoints[0]!.id]]);
    const stale = await trainer.call(routes.importPack, {
      body: { ...file, hash: 'a'.repeat(64), note: '' },
    });
    expect([stale.status, stale.problem.code]).toEqual([409, 'import-moved']);
    expect((await published()).revision).toBe(shipped);
    const done = await trainer.call(routes.importPack, {
      body: { ...file, hash: plan.hash, note: 'from another site' },
    });
    expect(done.status).toBe(200);
    expect(await published()).toMatchObject({ revision: shipped + 1 });
    expect(contentHash(await published())).toBe(plan.hash);
    expect((await revisions())[0]).toMatchObject({
      revision: shipped + 1,
      note: 'from another site',
      by: 'trainer',
      current: true,
    });
    expect(((await trainer.call(routes.previewPack, { body: file })).body as PackImportPlan).outcome).toBe(
      'same',
    );
  });

  it('takes out and brings back a class with the same content', async () => {
    const before = await published();
    for (const route of [routes.classYaml, routes.classJson]) {
      const file = await (await trainer.raw('GET', `/api${route.path.replace(':id', CLASS)}`)).text();
      expect(
        (await trainer.call(routes.withdrawClass, { params, body: { reason: 'not this one' } })).status,
      ).toBe(403);
      expect((await admin.call(routes.withdrawClass, { params, body: { reason: 'replaced' } })).status).toBe(
        200,
      );
      expect((await trainer.call(routes.machineClass, { params })).body).toMatchObject({ pack: null });
      const plan = (await admin.call(routes.previewPack, { body: importing('back', file) }))
        .body as PackImportPlan;
      expect(plan.outcome).toBe('new-class');
      expect(
        (
          await admin.call(routes.importPack, {
            body: { ...importing('back', file), hash: plan.hash, note: '' },
          })
        ).status,
      ).toBe(200);
      expect(contentHash(await published())).toBe(contentHash(before));
    }
  });

  it('takes checks and faults as CSV both ways, names bad lines, never runs as a formula', async () => {
    for (const kind of ['checkpoints', 'faults'] as const) {
      const csv = await (await trainer.raw('GET', `/api/classes/${CLASS}/${kind}.csv`)).text();
      expect(csv.split('\n').every((row) => !/^[=+@]/.test(row))).toBe(true);
      expect(
        (
          (await trainer.call(routes.previewPack, { body: importing('same.csv', csv, kind) }))
            .body as PackImportPlan
        ).outcome,
      ).toBe('same');
      const semicolons = packTable(await published(), kind)
        .map((row) => row.map((cell) => `"${cell.replace(/"/g, '""')}"`).join(';'))
        .join('\r\n');
      expect(
        (
          (await trainer.call(routes.previewPack, { body: importing('semi.csv', semicolons, kind) }))
            .body as PackImportPlan
        ).outcome,
      ).toBe('same');
    }
    const csv = await (await trainer.raw('GET', `/api/classes/${CLASS}/checkpoints.csv`)).text();
    const edited = csv.replace('changed by an import', '=changed in a spreadsheet');
    const plan = (
      await trainer.call(routes.previewPack, { body: importing('edit.csv', edited, 'checkpoints') })
    ).body as PackImportPlan;
    expect(plan.changes).toHaveLength(1);
    const broken = (
      await trainer.call(routes.previewPack, {
        body: importing(
          'bad.csv',
          csv.replace(/^(CF-02),st-\w+|^(CF-02),site/m, '$1$2,nowhere'),
          'checkpoints',
        ),
      })
    ).body as PackImportPlan;
    expect(broken.outcome).toBe('refused');
    expect(broken.errors[0]).toMatchObject({ rule: 'unresolved-station', line: 3 });
    const quote = (
      await trainer.call(routes.previewPack, {
        body: importing('quote.csv', `id,part\nCF-01,"open`, 'checkpoints'),
      })
    ).body as PackImportPlan;
    expect(quote.errors[0]!.rule).toBe('csv');
  });
});

describe('drafts', () => {
  const save = (version: number, body: string, by = trainer) =>
    by.call(routes.saveDraft, { params, body: { source: body, version } });

  it('are checked, kept with their errors, published; old evaluations stay as they were', async () => {
    const evaluation = randomUUID();
    await prepare(evaluation);
    const before = (
      (await trainer.call(routes.evaluation, { params: { id: evaluation } })).body as { pack: EffectivePack }
    ).pack;

    expect((await trainer.call(routes.classDraft, { params })).body).toEqual({ draft: null });
    const yaml = packToYaml(await published());
    const broken = await save(0, yaml.replace('station: st-01', 'station: st-99'));
    expect((broken.body as PackDraft).errors[0]).toMatchObject({ rule: 'unresolved-station' });
    const refused = await trainer.call(routes.publishDraft, {
      params,
      body: { version: 1, note: 'too early' },
    });
    expect([refused.status, refused.problem.code]).toEqual([422, 'pack-broken']);

    const late = await save(0, yaml);
    expect([late.status, late.problem.code]).toEqual([409, 'draft-moved']);
    const good = await save(1, yaml.replace(/sound: changed by an import/, 'sound: as the draft says'));
    expect(good.body).toMatchObject({ version: 2, errors: [] });
    const stale = await save(1, 'lost?', admin);
    expect(stale.problem.detail).toContain('trainer saved this draft');

    const done = await trainer.call(routes.publishDraft, {
      params,
      body: { version: 2, note: 'clearer words' },
    });
    expect(done.body).toMatchObject({ revision: shipped + 2 });
    expect((await published()).checkpoints[0]!.sound).toBe('as the draft says');
    expect((await trainer.call(routes.classDraft, { params })).body).toEqual({ draft: null });
    expect((await revisions()).map((each) => [each.revision, each.current])).toEqual([
      [shipped + 2, true],
      [shipped + 1, false],
      [shipped, false],
    ]);
    const after = (
      (await trainer.call(routes.evaluation, { params: { id: evaluation } })).body as { pack: EffectivePack }
    ).pack;
    expect(after).toEqual(before);
    expect(after.checkpoints[0]!.sound).toBe('changed by an import');

    const old = (
      await trainer.call(routes.classRevision, { params: { id: CLASS, hash: (await revisions())[2]!.hash } })
    ).body as { pack: Pack };
    expect(old.pack.checkpoints[0]!.sound).toBe(forklift().checkpoints[0]!.sound);
    await save(0, packToYaml(old.pack));
    expect(
      (await trainer.call(routes.publishDraft, { params, body: { version: 1, note: 'back to the first' } }))
        .body,
    ).toMatchObject({ revision: shipped + 3 });
    expect((await published()).checkpoints[0]!.sound).toBe(forklift().checkpoints[0]!.sound);
  });

  it('that change nothing, name another class, or are gone are not published', async () => {
    await save(0, packToYaml(await published()));
    expect(
      (await trainer.call(routes.publishDraft, { params, body: { version: 1, note: 'no change' } })).problem
        .code,
    ).toBe('nothing-changed');
    await save(1, packSource('push-mower'));
    expect(
      (await trainer.call(routes.publishDraft, { params, body: { version: 2, note: 'wrong class' } })).problem
        .detail,
    ).toContain('push-mower');
    expect((await trainer.call(routes.dropDraft, { params })).status).toBe(200);
    expect((await trainer.call(routes.dropDraft, { params })).status).toBe(404);
    expect(
      (await trainer.call(routes.publishDraft, { params, body: { version: 2, note: 'gone' } })).problem.code,
    ).toBe('draft-moved');
  });

  it('are for trainers and administrators only', async () => {
    for (const login of ['supervisor', 'operator', 'workshop']) {
      const caller = await desk.as(login);
      expect((await save(0, 'x', caller)).status).toBe(403);
      expect(
        (await caller.call(routes.importPack, { body: { ...importing('x', 'x'), hash: '', note: '' } }))
          .status,
      ).toBe(403);
    }
  });
});

describe('schools', () => {
  it('are chosen for a site, dated and signed, and worked into what is assessed there', async () => {
    const pack = await published();
    const school = pack.schools.find((each) => each.question.startsWith('Ramp rule'))!;
    const choose = (optionId: string, site = 'Quay', schoolId = school.id) =>
      trainer.call(routes.chooseSchool, {
        params,
        body: { site, schoolId, optionId, reason: 'steep yard, agreed with the foreman' },
      });
    desk.setClock(new Date('2026-05-04T09:30:00Z'));
    const chosen = await choose('over-10');
    desk.setClock(null);
    expect(chosen.body).toMatchObject({
      choices: { [school.id]: 'over-10' },
      choiceLog: [{ site: 'Quay', by: 'trainer', at: '2026-05-04T09:30:00.000Z' }],
    });
    expect(
      (
        (await trainer.call(routes.machineClass, { params, query: { site: 'Elsewhere' } })).body as {
          choices: object;
        }
      ).choices,
    ).toEqual({});
    expect((await choose('sideways')).problem.code).toBe('unknown-row');
    expect((await choose('over-10', 'Nowhere')).problem.code).toBe('not-found');
    expect(
      (
        await (
          await desk.as('supervisor')
        ).call(routes.chooseSchool, {
          params,
          body: { site: 'Quay', schoolId: school.id, optionId: 'always', reason: 'because' },
        })
      ).status,
    ).toBe(403);

    const id = randomUUID();
    const opened = await prepare(id);
    const { pack: assessed } = opened.body as { pack: EffectivePack };
    expect(assessed.choices[school.id]).toBe('over-10');
    expect(assessed.numbers.find((each) => each.id === 'CF-N20')!.value).toBe(10);
  });
});

describe('search, schema and papers', () => {
  it('sends every row of every class in use', async () => {
    const { rows, titles } = (await trainer.call(routes.library, {})).body as {
      rows: LibraryRow[];
      titles: Record<string, string>;
    };
    expect(titles[CLASS]).toBe(forklift().title);
    expect(rows.length).toBeGreaterThan(400);
    expect(rows.some((each) => each.id === 'CF-12')).toBe(true);
  });
  it('publishes the schema to anybody and the plan as SVG', async () => {
    const schema = (await (await desk.nobody.raw('GET', '/api/schema/pack.json')).json()) as {
      $schema: string;
    };
    expect(schema.$schema).toContain('2020-12');
    const svg = await (await trainer.raw('GET', `/api/classes/${CLASS}/plan.svg`)).text();
    expect(svg).toMatch(/^<svg[^>]*viewBox=[\s\S]*<\/svg>$/);
    expect(svg).toContain('>Fork arms<');
    expect(svg.match(/<circle/g)!.length).toBe(forklift().plan.stations.length);
  });
  it.each(['round-card', 'check-sheet', 'start-stop', 'finding-cards'])(
    'prints the %s as PDF with its fonts inside',
    async (paper) => {
      const features = encodeURIComponent('{"attachment":"clamp"}');
      const query = `variant=lpg&features=${features}&site=Quay`;
      const response = await trainer.raw('GET', `/api/classes/${CLASS}/${paper}.pdf?${query}`);
      expect(response.status).toBe(200);
      const pdf = Buffer.from(await response.arrayBuffer()).toString('latin1');
      expect(pdf.startsWith('%PDF-')).toBe(true);
      expect(pdf).toContain('AtkinsonHyperlegibleNext');
      expect(pdf).toMatch(/\/FontFile2/);
      expect(pdf).not.toMatch(/\/BaseFont \/Helvetica/);
      expect((await trainer.raw('GET', `/api/classes/${CLASS}/${paper}.pdf?variant=steam`)).status).toBe(422);
      expect((await trainer.raw('GET', `/api/classes/${CLASS}/${paper}.pdf?features=%7B`)).status).toBe(422);
    },
  );
  it('leaves no station of the round card alone at the foot of a page', async () => {
    const names = forklift().plan.stations.map((each) => each.name);
    const response = await trainer.raw('GET', `/api/classes/${CLASS}/round-card.pdf`);
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], {
      input: Buffer.from(await response.arrayBuffer()),
      encoding: 'utf8',
    });
    const pages = text.split('\f').filter((each) => each.trim() !== '');
    expect(pages.length).toBeGreaterThan(2);
    for (const page of pages) {
      const lines = page
        .split('\n')
        .map((each) => each.trim())
        .filter(Boolean);
      const last = lines.at(-2)!; // the last of all is the footer
      expect(
        names.filter((name) =>
          new RegExp(`^\\d+[a-z]?\\s+${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$`).test(last),
        ),
      ).toEqual([]);
    }
    expect(text).toMatch(/^\f?1 +Fork arms$/m);
  });
  it('reads its own YAML back', () => {
    expect(readPack(packToYaml(forklift())).errors).toEqual([]);
  });
});
