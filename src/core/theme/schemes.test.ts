import { describe, expect, it } from 'vitest';
import { pageOf, themeOf } from '../language/testing/theme-of';

/** A link to a value, by a theme that names schemes in its about.json. */
const link = (schemes: string[], v: string): string => {
  const files = { 'product/default.html': '<a href="{v}">x</a>', 'about.json': JSON.stringify({ schemes }) };
  const theme = themeOf([files, { 'about.json': '{"schemes": ["GEO"]}' }]);
  const { html } = pageOf(theme, { v }, { schemes: theme.schemes });
  return /href="([^"]*)"/.exec(html)?.[1] ?? '';
};

describe('schemes that about.json allows links to have', () => {
  const table: [schemes: string[], address: string, printed: string][] = [
    [[], 'whatever:1', 'about:blank#blocked'],
    [['whatever'], 'whatever:1', 'whatever:1'],
    [['Whatever'], 'WHATEVER:1', 'WHATEVER:1'],
    [[], 'geo:1,2', 'geo:1,2'],
    [['javascript', 'data', 'vbscript', 'blob', 'file'], 'javascript:alert(1)', 'about:blank#blocked'],
    [['javascript', 'data', 'vbscript', 'blob', 'file'], 'data:text/html,x', 'about:blank#blocked'],
  ];
  for (const [schemes, address, printed] of table)
    it(`${address} with ${JSON.stringify(schemes)} and geo of another layer`, () =>
      expect(link(schemes, address)).toBe(printed));
});
