import { describe, expect, it } from 'vitest';
import { personInput, routes, type RouteSpec } from './index';
import { openApiDocument } from './openapi';

const all = Object.entries<RouteSpec>(routes);

describe('the routes', () => {
  it('have each their own method and address', () => {
    const seen = all.map(([, spec]) => `${spec.method} ${spec.path}`);
    expect(new Set(seen).size).toBe(seen.length);
  });
  it('declare every parameter of their address, and only those', () => {
    for (const [name, spec] of all) {
      const inPath = [...spec.path.matchAll(/:(\w+)/g)].map((each) => each[1]!);
      expect([name, Object.keys(spec.params?.shape ?? {})]).toEqual([name, inPath]);
    }
  });
  it('carry a body only where a body is meant', () => {
    for (const [name, spec] of all)
      if (spec.method === 'GET' || spec.method === 'DELETE')
        expect([name, spec.body]).toEqual([name, undefined]);
  });
  it('open to the public are exactly these', () => {
    expect(all.flatMap(([name, spec]) => (spec.roles === 'public' ? [name] : [])).sort()).toEqual([
      'createAdministrator',
      'installation',
      // A phone joins a class exercise by the code on the screen.
      'joinExercise',
      // A screen joins a lesson by the code that is read out.
      'joinLesson',
      'packSchema',
      'signIn',
      'signOut',
      'verify',
    ]);
  });
  it('that write are closed to operators and the workshop, but for their own password, work and practice', () => {
    for (const [name, spec] of all)
      if (
        spec.method !== 'GET' &&
        spec.roles !== 'public' &&
        ![
          'changePassword',
          'cancelJob',
          'bringDrill',
          'startDrill',
          'doDrillAct',
          'startBench',
          'answerBench',
          'endBench',
          'answerExercise',
          'startDesk',
          'keepDesk',
          'endDesk',
          'startCommands',
          'endCommands',
        ].includes(name)
      ) {
        expect([name, spec.roles.includes('operator')]).toEqual([name, false]);
        expect([name, spec.roles.includes('workshop')]).toEqual([name, false]);
      }
  });
  it('verification tells nothing about the person', () => {
    expect(Object.keys(routes.verify.answer.shape).sort()).toEqual(['known', 'on', 'valid']);
  });
  it('become an OpenAPI document in which every reference resolves', () => {
    const document = JSON.stringify(openApiDocument());
    const parsed = JSON.parse(document) as { components?: { schemas?: Record<string, unknown> } };
    for (const [, name] of document.matchAll(/"#\/components\/schemas\/([^"]+)"/g))
      expect(parsed.components?.schemas).toHaveProperty(name!);
  });
});

describe('a person typed in', () => {
  const base = { payroll: '1', givenName: 'Anna', familyName: 'Berg', site: 'Quay', team: 'Blue' };
  it('may have an accent, an apostrophe, another script or a tag in the name; it is only text', () => {
    const names = ['Åström', "O'Neil", 'Kapanadze-Iverson', '山田', '<script>alert(1)</script>'];
    for (const familyName of names) expect(personInput.safeParse({ ...base, familyName }).success).toBe(true);
  });
  it('is refused with control characters, over-long text, a date that does not exist or no name', () => {
    for (const change of [
      { familyName: 'A\u0007B' },
      { familyName: 'x'.repeat(81) },
      { familyName: '   ' },
      { born: '2001-02-29' },
      { email: 'nobody' },
      { payroll: '' },
    ])
      expect(personInput.safeParse({ ...base, ...change }).success).toBe(false);
  });
  it('loses blanks round the edges', () => {
    expect(personInput.parse({ ...base, givenName: '  Anna ' }).givenName).toBe('Anna');
  });
});
