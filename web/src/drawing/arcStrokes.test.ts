import { STANDING_STATUSES } from '@rounds/core/certification';
import { describe, expect, it } from 'vitest';
import { arcImage } from './arcImage';
import { arcStrokes, arcTone } from './arcStrokes';

describe('the sign of a standing', () => {
  it('is an arc on a pale ring while something is left', () => {
    for (const status of ['valid', 'due'] as const) {
      const [ring, arc] = arcStrokes(status, 0.5);
      expect(ring!.pale).toBe(true);
      expect(arc!.pale).toBeUndefined();
    }
  });
  it('is never less than a visible end, never more than a full ring, and full where no end is known', () => {
    const arc = (share: number | null) => arcStrokes('valid', share)[1]!.d;
    expect(arc(-1)).toBe(arc(0));
    expect(arc(0)).toBe(arc(0.01));
    expect(arc(0.01)).not.toBe(arc(0.2));
    expect(arc(7)).toBe(arc(1));
    expect(arc(null)).toBe(arc(1));
  });
  it('is a broken ring when nothing is left, with a bar when it was taken', () => {
    const strokes = (status: 'lapsed' | 'in-grace' | 'suspended' | 'withdrawn') => arcStrokes(status, null);
    expect(strokes('lapsed')).toEqual(strokes('in-grace'));
    expect(strokes('suspended')).toEqual(strokes('withdrawn'));
    expect(strokes('suspended').slice(0, 2)).toEqual(strokes('lapsed'));
    expect(strokes('suspended')).toHaveLength(3);
    expect(strokes('lapsed').some((each) => each.pale)).toBe(false);
  });
  it('is crimson only where somebody may not operate', () => {
    expect(STANDING_STATUSES.filter((each) => arcTone(each) === 'crimson')).toEqual([
      'lapsed',
      'suspended',
      'withdrawn',
    ]);
  });
  it('is no picture where the browser draws no pixels', () => {
    expect(arcImage('valid', 0.5, { own: '#000', pale: '#fff' })).toBe('none');
  });
});
