import { describe, expect, it } from 'vitest';
import { type Grade, GRADES } from '../catalogue';
import { krippendorffAlpha, seededRandom } from '../statistics';
import { mostSaid, type RoomFinding, roomReport, spreadOf } from './index';

const KEYS: Grade[] = ['sound', 'watch', 'mend', 'stop', 'stop', 'mend', 'watch', 'sound'];
/** A room of people, each of whom says what `say` gives for the key of a finding. */
const room = (people: number, say: (key: Grade, who: number, n: number) => Grade): RoomFinding[] =>
  KEYS.map((key, n) => ({
    key,
    answers: Array.from({ length: people }, (_, who) => ({ who: `p${who}`, grade: say(key, who, n) })),
    cards: null,
  }));

describe('what a room shows', () => {
  it('is all right of a room that knows the key, and splits on nothing', () => {
    const report = roomReport(room(6, (key) => key));
    expect(report.whole).toMatchObject({ n: 48, exact: 48, criticalMisses: [] });
    expect(report.alpha).toBe(1);
    expect(report.split).toEqual([]);
    expect(report.perPerson.map((each) => each.comparison.exact)).toEqual(Array(6).fill(8));
  });

  it('is chance where everybody says anything, and is told so', () => {
    const random = seededRandom(5);
    const report = roomReport(room(12, () => GRADES[Math.floor(random() * 4)]!));
    expect(Math.abs(report.alpha!)).toBeLessThan(0.15);
    expect(report.whole.linearInterval!.low).toBeLessThan(0.1);
    expect(report.split.length).toBeGreaterThan(4);
    expect(report.says.join(' ')).toMatch(/chance alone could do it|Krippendorff's alpha\) -?0\.[01]/);
  });

  it('tells a room that agrees with itself against the key to look at the key', () => {
    const report = roomReport(room(5, (key) => (key === 'stop' ? 'mend' : key)));
    expect(report.alpha).toBe(1);
    expect(report.whole.criticalMisses).toEqual([]);
    expect(report.whole.tooLow.count).toBe(10);
    expect(report.says.at(-1)).toContain('2 of 8 findings, 2 of them too low');
  });

  it('names the findings that split the room, the most divided first', () => {
    const report = roomReport(
      room(6, (key, who, n) => (n === 2 ? GRADES[who % 4]! : n === 3 && who % 2 ? 'mend' : key)),
    );
    expect(report.split.map((each) => each.n)).toEqual([2, 3]);
    expect(report.split[1]!.spread).toEqual([0, 0, 3, 3]);
  });

  it('counts cards with the phones, and nobody by name for them', () => {
    const findings = room(2, (key) => key).map((each) => ({ ...each, cards: [0, 0, 0, 3] }));
    expect(spreadOf(findings[0]!)).toEqual([2, 0, 0, 3]);
    expect(mostSaid(findings[0]!)).toBe('stop');
    const report = roomReport(findings);
    expect(report.whole.n).toBe(8 * 5);
    expect(report.perPerson).toHaveLength(2);
  });

  it('agrees with the coefficient of the statistics, with an interval that holds it', () => {
    const random = seededRandom(9);
    const findings = room(8, (key) => (random() < 0.7 ? key : GRADES[Math.floor(random() * 4)]!));
    const { alpha, alphaInterval } = roomReport(findings);
    const units = findings.map((each) => each.answers.map(({ grade }) => GRADES.indexOf(grade)));
    expect(alpha).toBeCloseTo(krippendorffAlpha(units, 'ordinal').alpha!, 12);
    expect(alphaInterval!.low).toBeLessThan(alpha!);
    expect(alphaInterval!.high).toBeGreaterThan(alpha!);
  });

  it('says what it cannot say', () => {
    expect(roomReport([]).says).toEqual(['Nothing was graded.']);
    expect(roomReport(room(3, (key) => key).slice(0, 2)).says.join(' ')).toContain('2 findings are too few');
    expect(roomReport(room(3, () => 'stop')).says.join(' ')).toContain('Everybody said the same');
    expect(mostSaid({ answers: [], cards: null })).toBeNull();
  });
});
