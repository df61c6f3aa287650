import type { ThemeConfig } from 'antd';
import { theme } from 'antd';

/** The roles of the workbench's colours, light and dark: paper and ink, one accent. */
export const palettes = {
  light: {
    paper: '#f5f0e6',
    card: '#fffdf8',
    ink: '#29231e',
    soft: '#6a6054',
    line: '#e0d6c5',
    leather: '#84461c',
    leatherTint: '#f4e6d8',
    slate: '#35566f',
    slateTint: '#e4ecf1',
    crimson: '#b0122b',
    onAccent: '#ffffff',
  },
  dark: {
    paper: '#1c1815',
    card: '#25201c',
    ink: '#efe7da',
    soft: '#b3a796',
    line: '#3d352d',
    leather: '#d99a63',
    leatherTint: '#3b2b1e',
    slate: '#9dbcd2',
    slateTint: '#26313a',
    crimson: '#ff8f95',
    onAccent: '#1c1815',
  },
} as const;

export type Mode = keyof typeof palettes;

export const sans = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
export const mono = "'Commit Mono', ui-monospace, monospace";

export function antTheme(mode: Mode): ThemeConfig {
  const p = palettes[mode];
  return {
    // Styles come as a file (antd/dist/antd.css, in app/layout.tsx): none are written while the page starts.
    zeroRuntime: true,
    algorithm: mode === 'dark' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: sans,
      fontFamilyCode: mono,
      fontSize: 13,
      fontSizeSM: 12,
      controlHeightSM: 24,
      paddingContentHorizontal: 12,
      borderRadius: 7,
      colorPrimary: p.leather,
      colorInfo: p.slate,
      colorError: p.crimson,
      colorLink: p.leather,
      colorBgBase: p.card,
      colorTextBase: p.ink,
      colorBgLayout: p.paper,
      colorBgContainer: p.card,
      colorBgElevated: p.card,
      colorBorder: p.line,
      colorBorderSecondary: p.line,
      colorText: p.ink,
      colorTextSecondary: p.soft,
      colorTextTertiary: p.soft,
      colorTextDescription: p.soft,
      colorTextPlaceholder: p.soft,
      colorTextLightSolid: p.onAccent,
      colorBgSpotlight: p.ink,
      controlHeight: 30,
      wireframe: false,
    },
    components: {
      Button: { primaryShadow: 'none', defaultShadow: 'none', dangerShadow: 'none', fontWeight: 500 },
      Segmented: { itemSelectedBg: p.leatherTint, itemSelectedColor: p.leather, trackBg: p.card },
      Modal: { titleFontSize: 16 },
      Select: { optionSelectedBg: p.leatherTint },
    },
  };
}
