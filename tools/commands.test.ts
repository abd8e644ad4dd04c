import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

/** The commands as typed: what they print last and how they end. */
const root = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'rounds-commands-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const run = (tool: string, ...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', join(root, 'tools', tool), ...args],
    { cwd: root, encoding: 'utf8' },
  );
  return { status, lines: stdout.trimEnd().split('\n'), stdout, stderr };
};
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

describe('reference', () => {
  it('runs every case of a file and ends with the count', () => {
    const { status, lines } = run(
      'reference.ts',
      'core/reference/detection.json',
      'core/reference/dates.json',
    );
    expect(status).toBe(0);
    expect(lines.at(-1)).toBe('79 passed, 0 failed');
  });
  it('reports a wrong value as failed with both, and a kind not built as skipped by name', () => {
    const cases = [
      { name: 'wrong', kind: 'leap_year', inputs: { year: 1900 }, expected: { leap: true }, tolerance: 0 },
      { name: 'unknown', kind: 'tides', inputs: {}, expected: {}, tolerance: 0 },
    ];
    const { status, stdout, lines } = run('reference.ts', file('mixed.json', JSON.stringify({ cases })));
    expect(status).toBe(1);
    expect(stdout).toMatch(/FAILED {2}leap_year: wrong\s+leap: expected true, got false/);
    expect(stdout).toMatch(/SKIPPED tides: 1 cases/);
    expect(lines.at(-1)).toBe('0 passed, 1 failed, 1 skipped');
  });
  it('fails on a file it cannot read, and without a file says how it is used', () => {
    expect(run('reference.ts', file('broken.json', '{')).lines.at(-1)).toBe('0 passed, 1 failed');
    expect(run('reference.ts', join(folder, 'missing.json')).status).toBe(1);
    expect(run('reference.ts').stderr).toMatch(/usage/);
  });
});

describe('pack', () => {
  const sound = readFileSync(join(root, 'packs/counterbalance-forklift.yaml'), 'utf8');
  it('says what a sound pack holds', () => {
    const { status, stdout } = run('pack.ts', 'check', 'packs/counterbalance-forklift.yaml');
    expect(status).toBe(0);
    expect(stdout).toMatch(
      /sound \(72 checkpoints, 98 faults, 21 procedures, 1\d\d steps, 37 numbers, 27 criteria\)/,
    );
  });
  it('names file, line and rule of each error', () => {
    const bad = file(
      'bad.yaml',
      sound
        .replace('  - id: CF-11\n', '  - id: CF-10\n')
        .replace('needs: [ tyres=pneumatic ]', 'needs: [ tires=pneumatic ]'),
    );
    const { status, lines } = run('pack.ts', 'check', bad);
    expect(status).toBe(1);
    expect(lines.some((each) => /bad\.yaml:\d+: unique-id: id "CF-10"/.test(each))).toBe(true);
    expect(lines.some((each) => /bad\.yaml:\d+: unknown-feature: .*"tires"/.test(each))).toBe(true);
  });
  it('goes on to the next file after a bad or missing one', () => {
    const { status, stdout } = run(
      'pack.ts',
      'check',
      join(folder, 'nowhere.yaml'),
      file('empty.yaml', ''),
      'packs/counterbalance-forklift.yaml',
    );
    expect(status).toBe(1);
    expect(stdout).toMatch(/cannot be read[\s\S]*empty\.yaml:1: schema[\s\S]*sound/);
  });
  it('formats once and for all, keeping comments and content', () => {
    const messy = file(
      'messy.yaml',
      `# kept\n${sound.replace(/methods: \[ look, read \]/g, 'methods:\n      - look\n      - read').replace(/revision: 2/, 'revision:   2')}`,
    );
    expect(run('pack.ts', 'format', messy).stdout).toContain('formatted');
    expect(readFileSync(messy, 'utf8')).toBe(`# kept\n${sound}`);
    expect(run('pack.ts', 'format', messy).stdout).toContain('already in style');
    expect(run('pack.ts', 'diff', 'packs/counterbalance-forklift.yaml', messy).stdout).toContain(
      'no difference',
    );
  });
  it('tells two packs apart row by row', () => {
    const { status, stdout } = run(
      'pack.ts',
      'diff',
      'packs/counterbalance-forklift.yaml',
      file(
        'other.yaml',
        sound.replace('at: 5 }, { grade: stop, at: 10 }', 'at: 6 }, { grade: stop, at: 10 }'),
      ),
    );
    expect(status).toBe(0);
    expect(stdout).toMatch(/~ Check CF-11: [\s\S]*gauges: [\s\S]*1 rows differ/);
    expect(run('pack.ts', 'diff', 'packs/push-mower.yaml', file('broken.yaml', 'id: [')).status).toBe(1);
  });
  it('counts every class and lists what wants something', () => {
    const { status, lines } = run('pack.ts', 'coverage');
    expect(status).toBe(0);
    expect(lines.filter((each) => /^[a-z-]+(\s+\d+){14}$/.test(each.trim()))).toHaveLength(24);
    expect(lines).toContain('without origin: 0');
    const bare = file('bare.yaml', sound.replace(/ {8}why: .*\n/, ''));
    expect(run('pack.ts', 'coverage', bare).stdout).toMatch(
      /steps without reason: 1 \(counterbalance-forklift\/CF-/,
    );
  });
  it('says how it is used', () => {
    for (const args of [[], ['diff', 'packs/push-mower.yaml'], ['check'], ['dance']])
      expect(run('pack.ts', ...args).status).toBe(2);
  });
  it('prints the schema as JSON', () => {
    expect((JSON.parse(run('pack.ts', 'schema').stdout) as { $schema: string }).$schema).toMatch(/2020-12/);
  });
});

describe('desk', () => {
  it('says of a class how every variant comes out, and the same of its pack as a file', () => {
    const shipped = run('desk.ts', 'table', 'push-mower');
    expect(shipped).toMatchObject({ status: 0, stderr: '' });
    expect(shipped.lines.at(-1)).toMatch(/^(\d+) of \1 right$/);
    expect(run('desk.ts', 'table', join(root, 'packs', 'push-mower.yaml')).stdout).toBe(shipped.stdout);
  });
  it('runs a script or a log of somebody’s own, judged, with what could not be done', () => {
    const script = file('ground.yaml', '[go cab, key = on, wait 2 s, sit on the roof]');
    const { status, stdout, lines } = run('desk.ts', 'run', 'wheel-loader', 'diesel', script, 'start');
    expect(status).toBe(1);
    expect(stdout).toMatch(/! wl-x03/);
    expect(stdout).toContain('could not be done: sit on the roof');
    expect(lines.at(-1)).toMatch(/^\S+ of 100, \d+ critical, 1 forbidden, 2\.\d s$/);
    const log = [
      { tick: 10, act: { kind: 'go', place: 'cab' } },
      { tick: 20, act: { kind: 'set', control: 'key', to: 'on' } },
    ];
    const logged = run('desk.ts', 'run', 'wheel-loader', 'diesel', file('ground.json', JSON.stringify(log)));
    expect(logged).toMatchObject({ status: 0 });
    expect(logged.lines.at(-1)).toMatch(/1 forbidden, 3\.0 s$/);
  });
  it('refuses an unknown class, variant or program, and what is no script', () => {
    expect(run('desk.ts', 'table', 'submarine')).toMatchObject({
      status: 1,
      stderr: expect.stringMatching(/^No class "submarine"\. There are: articulated-hauler, /),
    });
    expect(run('desk.ts', 'log', 'wheel-loader', 'steam').stderr).toMatch(
      /^No variant "steam" of Wheel loader\./,
    );
    const script = file('any.yaml', '[wait 1 s]');
    expect(run('desk.ts', 'run', 'wheel-loader', 'diesel', script, 'fly').stderr).toMatch(
      /^No program "fly"/,
    );
    const broken = file('acts.json', JSON.stringify([{ tick: 0, act: { kind: 'go' } }]));
    expect(run('desk.ts', 'run', 'wheel-loader', 'diesel', broken).stderr).toMatch(
      /wanted is a list of lines/,
    );
  });
});
