import {
  attributesOf,
  eachElement,
  nearestOf,
  problem,
  rewrite,
  Source,
  sourceOf,
  type Attribute,
  type Near,
  type Problem,
  type Template,
} from '@/core/language';
import { isDeviceFont } from './device-fonts';
import { readSheet, unknownValue, type Use } from './sheet';

/** A theme, as far as its styles are looked at. */
interface StyledTheme {
  paths(): string[];
  /** The same path in every layer that has it, lowest first. */
  everywhere(path: string): { text: string | null }[];
  assetPaths(): Iterable<string>;
  /** Families of its font files. */
  fontFamilies(): Iterable<string>;
}

/** The names that a theme's styles may use. */
export class StyleNames {
  readonly properties = new Set<string>();
  readonly fonts = new Set<string>();
  readonly assets = new Set<string>(['icons.svg']);

  constructor(theme: StyledTheme) {
    for (const one of theme.assetPaths()) this.assets.add(one);
    for (const one of theme.fontFamilies()) this.fonts.add(one);
    for (const path of theme.paths()) {
      if (!/\.(?:css|html|m?js|svg)$/.test(path)) continue;
      // A template is what its layers make of it; of other files the topmost serves.
      const texts = theme.everywhere(path).map(({ text }) => text ?? '');
      for (const text of path.endsWith('.html') ? texts : texts.slice(-1)) this.#learn(path, text);
    }
  }

  #learn(path: string, text: string): void {
    if (path.endsWith('.css')) {
      const sheet = readSheet(text);
      for (const one of sheet.properties) this.properties.add(one);
      for (const one of sheet.fonts) this.fonts.add(one);
    } else if (text.includes('--')) {
      // A template's style or a script may set any that it names.
      for (const [, name = ''] of text.matchAll(/(?<!var\(\s*)(--[A-Za-z_][\w-]*)/g)) this.properties.add(name);
      for (const [, name = ''] of text.matchAll(/@font-face[^}]*?font-family:\s*["']?([^"';}]+)/g))
        this.fonts.add(name.trim());
    }
  }
}

/** Problems of a style sheet of a theme. */
export function checkSheet(source: Source, names: StyleNames): Problem[] {
  return problemsOf(source, source.text, 0, names, source.file);
}

/** Problems of one declaration, as it would stand in a sheet of the theme. */
export const checkDeclaration = (property: string, value: string, names: StyleNames): Problem[] =>
  checkSheet(new Source('', `a{${property}: ${value}}`), names);

/** Problems of what a template holds of styles: in its `style` elements, and in the `style` attributes of others. */
export function checkTemplateStyles(template: Template, names: () => StyleNames): Problem[] {
  const found: Problem[] = [];
  eachElement(template.children, (element) => {
    if (element.name === 'style' && !element.childless) {
      const text = element.source.slice(element.openTo, element.closeFrom);
      found.push(...problemsOf(element.source, text, element.openTo, names(), null));
      return;
    }
    if (element.own) return;
    for (const attribute of attributesOf(element)) {
      if (attribute.name !== 'style' || !attribute.value) continue;
      const source = sourceOf(element, attribute);
      const text = styleOf(source, attribute);
      if (text !== null) found.push(...problemsOf(source, text, attribute.value.from, names(), null));
    }
  });
  return found;
}

/** A style attribute's declarations, sign for sign, with what only a page knows marked; null: entities stand in them. */
function styleOf(source: Source, { value, parts }: Attribute): string | null {
  if (!value) return null;
  let text = source.slice(value.from, value.to);
  if (text.includes('&')) return null;
  for (const part of parts ?? []) {
    if (typeof part === 'string') continue;
    const from = source.text.lastIndexOf('{', part.from) - value.from;
    const to = source.text.indexOf('}', part.to) + 1 - value.from;
    text = text.slice(0, from) + unknownValue.repeat(to - from) + text.slice(to);
  }
  return text;
}

function problemsOf(source: Source, text: string, offset: number, names: StyleNames, path: string | null): Problem[] {
  const { faults, uses } = readSheet(text);
  const at = ({ from, to }: { from: number; to: number }) => ({ from: offset + from, to: offset + to });
  // A value in the place of a declaration is a mistake of the template, and told as one.
  const plain = faults.filter(({ from, to }) => !text.slice(from, to).includes(unknownValue));
  const found = plain.map(({ code, near, says, fix, ...span }) => {
    const edits = fix?.edits.map((edit) => ({ ...edit, ...at(edit) }));
    const likely = near?.certain ? rewrite(`Change to “${near.name}”`, at(span), near.name) : null;
    return {
      ...problem(code, source, at(span), { text: says, near: near?.name ?? '' }),
      ...(edits && fix ? { fix: { ...fix, edits } } : likely && { fix: likely }),
    };
  });
  for (const use of uses) {
    const wrong = wrongUse(use, names, path);
    if (!wrong) continue;
    const code = use.of === 'property' ? 'css-name' : use.of === 'font' ? 'css-font' : 'asset';
    const { near, written } = wrong;
    found.push({
      ...problem(code, source, at(use), { name: wrong.name, near: near?.name ?? '' }),
      ...(near?.certain && written && { fix: rewrite(`Change to “${written}”`, at(use), written) }),
    });
  }
  return found;
}

/** Why a name leads nowhere: what it names, what is near, and how that is written there; null: it does lead somewhere. */
function wrongUse(
  { of, name }: Use,
  names: StyleNames,
  path: string | null,
): { name: string; near: Near | null; written: string } | null {
  if (of === 'address') return wrongAddress(name, names.assets, path);
  const known = of === 'property' ? names.properties : names.fonts;
  if (known.has(name) || (of === 'font' && isDeviceFont(name))) return null;
  const near = nearestOf(name, known);
  return { name, near, written: near?.name ?? '' };
}

/** An address in a sheet, or (`path` null) on a page: what lies below assets/ must be there, the rest is another's. */
function wrongAddress(
  written: string,
  assets: ReadonlySet<string>,
  path: string | null,
): { name: string; near: Near | null; written: string } | null {
  if (/^(?:[a-z][a-z0-9+.-]*:|\/\/|#)/i.test(written)) return null;
  const [plain = ''] = written.split(/[?#]/);
  if (!plain || (path === null && !plain.startsWith('/assets/'))) return null;
  let full: string;
  try {
    full = decodeURIComponent(new URL(plain, `http://theme/${path ?? ''}`).pathname).slice(1);
  } catch {
    return null;
  }
  if (!full.startsWith('assets/')) {
    // From the root of the site other things may be meant: only what leaves the folder of assets by dots is a mistake.
    return plain.startsWith('/') ? null : { name: full, near: null, written: '' };
  }
  const name = full.slice('assets/'.length);
  if (assets.has(name)) return null;
  const near = nearestOf(name, assets);
  const folder = (one: string) => one.slice(0, one.lastIndexOf('/') + 1);
  const same = near && folder(near.name) === folder(name);
  return { name, near, written: same ? folder(plain) + near.name.slice(folder(near.name).length) : '' };
}
