/**
 * The one place where Rounds' colours, sizes and type are set: Ant Design's theme, the style sheet and the
 * drawings all read from here.
 */

export type ThemeName = 'paper' | 'night' | 'sun';

interface Palette {
  ground: string;
  sheet: string;
  raised: string;
  ink: string;
  quiet: string;
  line: string;
  petrol: string;
  onPetrol: string;
  /** Needs you now. */
  amber: string;
  onAmber: string;
  /** Stop, and nothing else. */
  crimson: string;
  onCrimson: string;
  walked: string;
  machine: string;
  machineDeep: string;
}

export const PALETTES: Readonly<Record<ThemeName, Palette>> = {
  paper: {
    ground: '#f3eee4',
    sheet: '#fbf8f2',
    raised: '#ffffff',
    ink: '#12302e',
    quiet: '#4b5f5b',
    line: '#cfc8b8',
    petrol: '#12504b',
    onPetrol: '#ffffff',
    amber: '#f0a11f',
    onAmber: '#241600',
    crimson: '#a3142d',
    onCrimson: '#ffffff',
    walked: '#12504b',
    machine: '#e3dac6',
    machineDeep: '#857a61',
  },
  night: {
    ground: '#0d1817',
    sheet: '#132221',
    raised: '#1a2d2b',
    ink: '#e8efe9',
    quiet: '#a9bbb5',
    line: '#37504c',
    petrol: '#8fd0c4',
    onPetrol: '#06211e',
    amber: '#ffb53d',
    onAmber: '#241600',
    crimson: '#ff8093',
    onCrimson: '#2b0008',
    walked: '#8fd0c4',
    machine: '#25403c',
    machineDeep: '#7fa39b',
  },
  sun: {
    ground: '#ffffff',
    sheet: '#ffffff',
    raised: '#ffffff',
    ink: '#000000',
    quiet: '#1f2b29',
    line: '#000000',
    petrol: '#002e2a',
    onPetrol: '#ffffff',
    amber: '#ffb000',
    onAmber: '#000000',
    crimson: '#8b0018',
    onCrimson: '#ffffff',
    walked: '#002e2a',
    machine: '#e6e6e6',
    machineDeep: '#5c5c5c',
  },
};

const FONT = '"Atkinson Hyperlegible Next", "Atkinson Hyperlegible", system-ui, sans-serif';

/** Puts a palette where the style sheet and the drawings find it. */
export function applyPalette(name: ThemeName): void {
  const root = document.documentElement;
  root.dataset['theme'] = name;
  for (const [key, value] of Object.entries(PALETTES[name]))
    root.style.setProperty(`--${key.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`, value);
  root.style.setProperty('--font', FONT);
  root.style.colorScheme = name === 'night' ? 'dark' : 'light';
}

/** Ant Design's seed tokens for a palette. */
export function antTokens(name: ThemeName): Record<string, string | number | boolean> {
  const p = PALETTES[name];
  return {
    colorPrimary: p.petrol,
    colorInfo: p.petrol,
    colorLink: p.petrol,
    colorLinkHover: p.petrol,
    colorSuccess: p.petrol,
    colorWarning: p.amber,
    colorError: p.crimson,
    colorBgBase: p.raised,
    colorTextBase: p.ink,
    colorBgContainer: p.raised,
    colorBgElevated: p.raised,
    colorBgLayout: p.ground,
    colorText: p.ink,
    colorTextSecondary: p.quiet,
    colorTextTertiary: p.quiet,
    colorTextQuaternary: p.quiet,
    colorTextPlaceholder: p.quiet,
    colorTextLightSolid: p.onPetrol,
    colorBorder: p.quiet,
    colorBorderSecondary: p.line,
    controlOutline: 'transparent',
    fontFamily: FONT,
    fontSize: 16,
    borderRadius: 3,
    controlHeight: 44,
    controlHeightLG: 56,
    controlHeightSM: 36,
    wireframe: false,
    motion: false,
  };
}
