import { certificationEventInput } from '@rounds/contract/certification';
import { describe, expect, it } from 'vitest';
import { eventBody, type EventFields, KIND_NAMES, kindsOf, WORDS_ASKED } from './eventForm';
import { gravestOf, soonestEnd } from './standingsOf';

/** What the server would say of a fact with this body. */
const takes = (body: unknown) =>
  certificationEventInput.safeParse({ classId: 'mobile-crane', on: '2026-03-02', body });

const held = (
  status: Parameters<typeof gravestOf>[0][number]['standing']['status'],
  until: string | null = null,
) => ({
  classId: 'x',
  standing: { status, until },
});

describe('the standings of a person', () => {
  it('show what needs somebody first, and nothing where all is well', () => {
    expect(gravestOf([held('valid'), held('due'), held('lapsed')])).toBe('lapsed');
    expect(gravestOf([held('in-grace'), held('suspended'), held('lapsed')])).toBe('suspended');
    expect(gravestOf([held('due'), held('in-grace')])).toBe('in-grace');
    expect(gravestOf([held('valid'), held('in-training'), held('withdrawn')])).toBeNull();
    expect(gravestOf([])).toBeNull();
  });

  it('end soonest where a certificate still runs', () => {
    expect(
      soonestEnd([
        held('valid', '2027-03-01'),
        held('due', '2026-05-01'),
        held('lapsed', '2024-01-01'),
        held('suspended', '2026-01-01'),
      ]),
    ).toBe('2026-05-01');
    expect(soonestEnd([held('in-grace', '2026-02-01'), held('valid', null)])).toBe('2026-02-01');
    expect(soonestEnd([held('withdrawn', '2026-02-01')])).toBeNull();
  });
});

describe('a dated fact', () => {
  const fields: EventFields = {
    kind: 'trigger',
    words: ' rack leg ',
    trigger: 'near-miss',
    hours: 6,
    until: '2027-01-01',
  };

  it('of every kind that may be recorded by hand is one the server takes', () => {
    for (const kind of kindsOf('trainer')) {
      const body = eventBody({ ...fields, kind });
      expect([kind, takes(body).success, body.kind]).toEqual([kind, true, kind]);
      expect(KIND_NAMES[kind]).toBeTruthy();
    }
  });

  it('carries only what its kind has, without white space round it', () => {
    expect(eventBody(fields)).toEqual({ kind: 'trigger', trigger: 'near-miss', words: 'rack leg' });
    expect(eventBody({ ...fields, words: '  ' })).toEqual({ kind: 'trigger', trigger: 'near-miss' });
    expect(eventBody({ ...fields, kind: 'hours-logged' })).toEqual({ kind: 'hours-logged', hours: 6 });
    expect(eventBody({ ...fields, kind: 'medical' })).toEqual({ kind: 'medical' });
    expect(eventBody({ ...fields, kind: 'certificate-recorded', words: '', until: '' })).toEqual({
      kind: 'certificate-recorded',
    });
  });

  it('that needs words is refused by the schema without them', () => {
    for (const kind of kindsOf('trainer').filter((each) => WORDS_ASKED[each]?.needed))
      expect([kind, takes(eventBody({ ...fields, kind, words: ' ' })).success]).toEqual([kind, false]);
    expect(takes(eventBody({ ...fields, kind: 'hours-logged', hours: undefined })).success).toBe(false);
  });

  it('of a supervisor is a trigger or hours, nothing else', () => {
    expect(kindsOf('supervisor')).toEqual(['trigger', 'hours-logged']);
  });
});
