import { describe, expect, it } from 'vitest';
import { antTokens, PALETTES } from './tokens';

/**
 * Relative luminance and contrast ratio: WCAG 2.2, definitions of "relative luminance" and "contrast
 * ratio".
 */
function luminance(hex: string): number {
  const channel = (i: number) => {
    const c = Number.parseInt(hex.slice(1 + 2 * i, 3 + 2 * i), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * channel(0) + 0.7152 * channel(1) + 0.0722 * channel(2);
}
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

it('knows black on white as 21 to 1 (WCAG 2.2)', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 9);
  expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
});

describe.each(Object.entries(PALETTES))('the %s theme', (name, p) => {
  it('writes text at 4.5 to 1 or more on every ground', () => {
    for (const ground of [p.ground, p.sheet, p.raised])
      for (const [what, colour] of Object.entries({
        ink: p.ink,
        quiet: p.quiet,
        petrol: p.petrol,
        crimson: p.crimson,
      }))
        expect([what, ground, contrast(colour, ground) >= 4.5]).toEqual([what, ground, true]);
    expect(contrast(p.onPetrol, p.petrol)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(p.onAmber, p.amber)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(p.onCrimson, p.crimson)).toBeGreaterThanOrEqual(4.5);
  });
  it('draws what carries meaning at 3 to 1 or more', () => {
    for (const ground of [p.ground, p.sheet]) {
      expect(contrast(p.walked, ground)).toBeGreaterThanOrEqual(3);
      expect(contrast(p.quiet, ground)).toBeGreaterThanOrEqual(3);
    }
    expect(contrast(p.machineDeep, p.machine)).toBeGreaterThan(1.3);
  });
  it('leaves nothing of the component library in its default blue', () => {
    const tokens = antTokens(name as keyof typeof PALETTES);
    for (const value of Object.values(tokens))
      expect(String(value).toLowerCase()).not.toMatch(/#1677ff|#1890ff|#4096ff/);
    expect(tokens['colorPrimary']).toBe(p.petrol);
  });
});

it('is brightest in the sun: text and targets at 15 to 1 or more', () => {
  const sun = PALETTES.sun;
  for (const colour of [sun.ink, sun.quiet, sun.petrol])
    expect(contrast(colour, sun.ground)).toBeGreaterThanOrEqual(14);
});
