import { packJsonSchema } from '@rounds/core/catalogue';
import { describe, expect, it } from 'vitest';
import { schemaAt, type SchemaNode, valuesOf, yamlPlace } from './yamlContext';

const schema = packJsonSchema() as SchemaNode;
const TEXT = `id: test
plan:
  note: a note
  stations:
    - id: st-1
      name: Front
      looks: wheels
    - id: st-2
      name: Rear
checkpoints:
  - id: C-1
    station: st-1
    methods: [ look, touch ]
    origin: { kind: practice }
    gauges:
      - quantity: wear
        unit: "%"
        kind: wear
procedures:
  - id: P1
    title: Start
    kind: startup
    steps:
      - id: S-1
        do: Look
        critical: true
      - id: S-2
        do: Turn
`.split('\n');
/**
 * The place of the cursor at the end of the line with this text, or of `typed` on a line of its own after
 * it.
 */
const at = (line: string, typed?: string) => {
  const index = TEXT.findIndex((each) => each === line);
  if (index < 0) throw new Error(`no line "${line}"`);
  if (typed === undefined) return yamlPlace(TEXT, index, line);
  const lines = [...TEXT.slice(0, index + 1), typed, ...TEXT.slice(index + 1)];
  return yamlPlace(lines, index + 1, typed);
};

describe('where the cursor stands', () => {
  it.each([
    ['at the top', '  note: a note', 'fam', []],
    ['inside a record', '  note: a note', '  out', ['plan']],
    ['inside a row of a list', '      looks: wheels', '      sp', ['plan', 'stations', 0]],
    ['inside a checkpoint', '    station: st-1', '    so', ['checkpoints', 0]],
    ['inside a gauge', '        kind: wear', '        ris', ['checkpoints', 0, 'gauges', 0]],
    ['inside a step', '        do: Turn', '        cri', ['procedures', 0, 'steps', 0]],
    ['inside a procedure', '    kind: startup', '    no', ['procedures', 0]],
  ] as const)('%s', (_what, line, typed, path) => {
    expect(at(line, typed).path).toEqual(path);
  });
  it('tells a value from a key', () => {
    expect(at('    kind: startup')).toMatchObject({ path: ['procedures', 0], valueOf: 'kind' });
    expect(at('    methods: [ look, touch ]')).toMatchObject({
      path: ['checkpoints', 0],
      valueOf: 'methods',
    });
    expect(at('  - id: P1')).toMatchObject({ path: ['procedures', 0], valueOf: 'id' });
  });
  it('knows which keys stand there already', () => {
    expect(at('    station: st-1', '    so').used.sort()).toEqual([
      'gauges',
      'id',
      'methods',
      'origin',
      'station',
    ]);
    expect(at('        do: Turn', '        cri').used.sort()).toEqual(['do', 'id']);
  });
});

describe('what the schema says of a place', () => {
  it('names keys and values', () => {
    expect(Object.keys(schemaAt(schema, ['checkpoints', 0])!.properties!)).toContain('honestSeconds');
    expect(valuesOf(schemaAt(schema, ['checkpoints', 0, 'methods']))).toContain('look');
    expect(valuesOf(schemaAt(schema, ['faults', 0, 'grade']))).toEqual(['sound', 'watch', 'mend', 'stop']);
    expect(valuesOf(schemaAt(schema, ['procedures', 0, 'steps', 0, 'critical']))).toEqual(['true', 'false']);
    expect(valuesOf(schemaAt(schema, ['checkpoints', 0, 'origin', 'kind']))).toContain('practice');
  });
  it('is null where nothing may stand', () => {
    expect(schemaAt(schema, ['nowhere'])).toBeNull();
    expect(schemaAt(schema, ['title', 'deeper'])).toBeNull();
  });
});
