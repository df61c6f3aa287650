import type { FieldDefinition } from '../../catalogue/rows';
import { Theme, type Layer, type Surroundings } from '../../theme/theme';
import {
  record,
  renderPage,
  type Problem,
  type Rendered,
  type RenderOptions,
  type SiteFacts,
  type Value,
} from '../index';

/** For tests: a theme of one layer or several, lowest first, from texts by path. */
export function themeOf(
  layers: Record<string, string> | Record<string, string>[],
  surroundings: Surroundings | null = null,
): Theme {
  const stack = Array.isArray(layers) ? layers : [layers];
  return new Theme(
    stack.map((files, at): Layer => ({
      kind: at === 0 ? 'base' : 'shop',
      name: at === 0 ? 'base' : at === stack.length - 1 ? 'shop' : `add-on ${at}`,
      version: '1',
      files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
    })),
    'en-GB',
    surroundings,
  );
}

/** Custom fields of the shop that tests check for. */
const definitions: FieldDefinition[] = [
  { key: 'lead_time', name: 'Lead time', type: 'number', unit: 'days', help: '', choices: [], several: false },
];

/** A theme that is checked by the catalogue's schema; `site` as far as a test needs it. */
export function strict(
  layers: Record<string, string> | Record<string, string>[],
  site: SiteFacts | null = null,
): Theme {
  return themeOf(layers, { definitions: (subject) => (subject === 'product' ? definitions : []), site });
}

/** The problems of a theme as `file:line code`, notes left out unless wanted. */
export function codesOf(theme: Theme, notes = false): string[] {
  return theme
    .checkAll()
    .filter((one) => notes || one.severity !== 'note')
    .map(({ file, line, code }) => `${file}:${line} ${code}`)
    .sort();
}

/** A page of a theme. */
export function pageOf(
  theme: Theme,
  data: Record<string, Value> = {},
  options: Partial<RenderOptions> = {},
  page = 'product/default',
): Rendered {
  return renderPage(theme, page, record(data), {
    locale: 'en-GB',
    services: {
      phrase: (key) => theme.phrase(key),
      served: (piece) => theme.template(piece)?.takes.some((take) => take.served) ?? false,
    },
    globals: {},
    ...options,
  });
}

/** What one template prints. */
export const printed = (text: string, data: Record<string, Value> = {}, options: Partial<RenderOptions> = {}): string =>
  pageOf(themeOf({ 'product/default.html': text }), data, options).html;

/** The first problem of a template by the schema. */
export const firstOf = (text: string, file = 'product/default.html'): Problem | undefined =>
  strict({ [file]: text }).check(file.replace('.html', ''))[0];
