import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { machineOf, tryFailures, tryRules } from './index';
import { shippedClasses, shippedPack, tryOut } from '../testing';

/** Rows that did not come out, with what came of them. */
const failed = (kind: 'forbidden' | 'failures', classId: string) => {
  const pack = shippedPack(classId);
  return tryOut(kind, pack, { variants: [pack.variants[0]!.id] }).flatMap(({ id, results }) =>
    results.filter((each) => !each.shown).map(({ says }) => `${id}: ${says}`),
  );
};

// On the first variant of each class; `npm run desk -- trials` tries them on every one.
describe('what is forbidden', () => {
  it.each(shippedClasses())(
    'is done and told, or asked, on %s',
    (id) => expect(failed('forbidden', id)).toEqual([]),
    120_000,
  );
});

describe('what fails', () => {
  it.each(shippedClasses())(
    'shows itself, can be handled, and can be made worse, on %s',
    (id) => expect(failed('failures', id)).toEqual([]),
    120_000,
  );
});

describe('a trial', () => {
  it('says so where what is done does not come to what is forbidden, or a failure is not shown and handled', () => {
    const pack = compose(shippedPack('string-trimmer'), { variant: 'two-stroke' });
    const machine = machineOf(pack)!;
    const idle = { does: ['wait 1 s'], seen: ['wait 1 s'], right: ['wait 1 s'] };
    expect(tryRules(pack, machine, { 'st-FB02': idle }, (id) => id === 'st-FB02')).toMatchObject([
      { id: 'st-FB02', shown: false },
    ]);
    expect(tryFailures(pack, machine, { 'st-I06': idle }, (id) => id === 'st-I06')).toMatchObject([
      { id: 'st-I06', shown: false },
    ]);
  });
});
