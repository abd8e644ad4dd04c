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
  /** The rail of the areas and the bar of an evaluation: painted steel in every light. */
  rail: string;
  onRail: string;
  railOver: string;
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
    rail: '#12403d',
    onRail: '#e6efe9',
    railOver: '#1b524e',
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
    rail: '#0a1312',
    onRail: '#dfe9e3',
    railOver: '#1a2d2b',
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
    rail: '#00211e',
    onRail: '#ffffff',
    railOver: '#0b3b36',
  },
};

export const FONT = '"Atkinson Hyperlegible Next", "Atkinson Hyperlegible", system-ui, sans-serif';

/** Puts a palette where the style sheet and the drawings find it. */
export function applyPalette(name: ThemeName): void {
  const root = document.documentElement;
  root.dataset['theme'] = name;
  for (const [key, value] of Object.entries(PALETTES[name]))
    root.style.setProperty(`--${key.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`, value);
  root.style.setProperty('--font', FONT);
  root.style.colorScheme = name === 'night' ? 'dark' : 'light';
}

/** Ant Design's tokens for a palette: the seeds of every component, then what single ones need. */
export function antTheme(name: ThemeName) {
  const p = PALETTES[name];
  return { token: antTokens(name), components: antComponents(p) };
}

/** Ant Design's seed tokens for a palette. */
export function antTokens(name: ThemeName) {
  const p = PALETTES[name];
  return {
    colorPrimary: p.petrol,
    colorPrimaryHover: p.petrol,
    colorPrimaryActive: p.ink,
    colorInfo: p.petrol,
    colorInfoBg: p.sheet,
    colorInfoBorder: p.petrol,
    colorLink: p.petrol,
    colorLinkHover: p.petrol,
    colorLinkActive: p.ink,
    colorSuccess: p.petrol,
    colorSuccessBg: p.sheet,
    colorSuccessBorder: p.petrol,
    colorWarning: p.amber,
    colorWarningBg: p.sheet,
    colorWarningBorder: p.amber,
    colorError: p.crimson,
    colorErrorHover: p.crimson,
    colorErrorActive: p.crimson,
    colorErrorBg: p.sheet,
    colorErrorBorder: p.crimson,
    colorErrorText: p.crimson,
    colorBgBase: p.raised,
    colorTextBase: p.ink,
    colorBgContainer: p.raised,
    colorBgElevated: p.raised,
    colorBgLayout: p.ground,
    colorBgContainerDisabled: p.sheet,
    colorText: p.ink,
    colorTextHeading: p.ink,
    colorTextSecondary: p.quiet,
    colorTextTertiary: p.quiet,
    colorTextQuaternary: p.quiet,
    colorTextPlaceholder: p.quiet,
    colorTextDisabled: p.quiet,
    colorTextDescription: p.quiet,
    colorTextLightSolid: p.onPetrol,
    colorIcon: p.quiet,
    colorIconHover: p.ink,
    colorBorder: p.quiet,
    colorBorderSecondary: p.line,
    colorSplit: p.line,
    colorFillAlter: p.sheet,
    colorFillSecondary: p.machine,
    colorFillTertiary: p.sheet,
    colorFillContent: p.machine,
    controlItemBgHover: p.sheet,
    controlItemBgActive: p.machine,
    controlItemBgActiveHover: p.machine,
    controlOutline: 'transparent',
    fontFamily: FONT,
    fontSize: 16,
    fontSizeSM: 14,
    fontWeightStrong: 700,
    lineWidth: 1,
    borderRadius: 3,
    borderRadiusSM: 2,
    borderRadiusLG: 3,
    borderRadiusXS: 2,
    controlHeight: 44,
    controlHeightLG: 56,
    controlHeightSM: 36,
    boxShadow: `0 0 0 1px ${p.ink}`,
    boxShadowSecondary: `0 0 0 2px ${p.ink}`,
    boxShadowTertiary: 'none',
    wireframe: false,
    motion: false,
  };
}

/** What single components need beyond the seeds. */
function antComponents(p: Palette) {
  return {
    Button: { fontWeight: 700 },
    Segmented: { colorBgLayout: p.sheet, colorBgElevated: p.petrol },
    Tooltip: { colorBgDefault: p.ink, colorTextLightSolid: p.ground },
  };
}
