import { fieldSubjects } from '@/core/catalogue';
import type { MadeTheme, PageAsk, Shop, View } from '@/server/shop';
import type { z } from 'zod';
import type { ChangeAnswer, changeRequest, PageAnswer, reachRequest, viewRequest, ViewAnswer } from '@/contract/bench';
import { templateOf } from '@/core/alternates';
import { changeFor, NoChange, handDown } from '@/core/editing';
import { reachOf, type Reach, placeTable, inProse } from '@/core/inspect';
import {
  elementAround,
  type Expression,
  formatFor,
  understand,
  type Problem,
  type Template,
  type TemplateNode,
} from '@/core/language';
import type { Page } from '@/core/storefront';
import { localePrefix, pathOf, readLocale } from '@/core/address';
import { type Layer, type Theme, unmarked } from '@/core/theme';
import { typeOfProduct, type StateRow } from '@/store';
import { layerItem } from '@/server/drafts';
import { fragmentOf, pageOf, prefixOf, shownHash } from '@/server/storefront';
import { refuse } from '@/server/http';

/** What made a page of a draft: subject, template and why, the templates drawn, the files linked, what went wrong as it was made. */
export function reportPage(shop: Shop, draft: StateRow, ask: PageAsk, page: Page): PageAnswer {
  const { theme, alternates } = shop.themeWith(draft, ask.unsaved ?? []);
  const layerOf = (path: string) => layerItem(theme.file(path)?.layer ?? (theme.layers[0] as Layer));
  const query = new URLSearchParams(ask.query).toString();
  const { locales } = shop.catalogue().shop();
  const { locale } = readLocale(ask.path, locales);
  const path = page.subject ? localePrefix(locale, locales) + pathOf(page.subject) : ask.path;
  return {
    status: page.status,
    address: `${prefixOf(draft)}${path}${query ? `?${query}` : ''}`,
    subject: page.subject,
    template: page.choice.template,
    because: page.choice.because,
    choices: choicesFor(shop, { theme, alternates }, ask, page),
    drawn: page.drawn.map(({ name, by }) => ({ name, by, layer: layerOf(`${name}.html`) })),
    assets: page.assets.map((path) => ({ path, layer: layerOf(path) })),
    problems: page.problems,
    languages: locales.map((one) => ({ locale: one, prefix: localePrefix(one, locales), current: one === locale })),
    untranslated: page.untranslated,
  };
}

/**
 * Templates that may be tried on a page: `default`, the alternates that are meant for its subject, the one that it has, and
 * those of pieces that are drawn on it.
 */
function choicesFor(
  shop: Shop,
  { theme, alternates }: Pick<MadeTheme, 'theme' | 'alternates'>,
  { tried }: PageAsk,
  { subject, choice, drawn }: Page,
): PageAnswer['choices'] {
  const kind = choice.template.split('/')[0] as string;
  const type = subject?.kind === 'product' ? typeOfProduct(shop.sql, subject.slug) : null;
  const names = new Set(drawn.map(({ name }) => name));
  return [
    { name: 'default', label: 'default' },
    ...alternates.alternates.flatMap((one) => {
      const template = templateOf(one, one.name);
      if (!theme.file(`${template}.html`)) return [];
      if (one.piece !== undefined) {
        const drawsIt = names.has(one.piece) || names.has(template) || tried === template;
        return drawsIt ? [{ name: template, label: `${one.label} in ${one.piece}` }] : [];
      }
      const meant = !one.types.length || type === null || one.types.includes(type);
      return one.kind === kind && (meant || choice.template === template) ? [{ name: one.name, label: one.label }] : [];
    }),
  ];
}

/** What a frame of the Bench shows, by the number that it was given; null when it has none, or it was forgotten. */
export const viewOf = (shop: Shop, draft: StateRow, asked: { view: string | null }): View | null =>
  asked.view === null ? null : shop.views.get(asked.view, draft.slug ?? '');

/** The page that a frame shows, made with texts that are not saved, with all that its marks speak of. */
export function viewPage(
  shop: Shop,
  draft: StateRow,
  asked: z.output<typeof viewRequest>,
  view: View | null = viewOf(shop, draft, asked),
): ViewAnswer {
  const unsaved = asked.unsaved.filter(readable);
  // A page's address may have changed since it came, by a choice that a script made; its cart stays the frame's.
  const given =
    view?.kind === 'fragment' ? view.ask : { ...view?.ask, ...readAsk(asked.address, asked.try), origin: asked.origin };
  const ask: PageAsk = { ...given, traced: true, unsaved, ...(asked.on ? { on: asked.on } : {}) };
  const { theme } = shop.themeWith(draft, unsaved);
  const worked = new Set([...unsaved.map(({ path }) => path), ...(asked.open ? [asked.open] : [])]);
  const page = view?.kind === 'fragment' ? null : pageOf(shop, draft, ask);
  const rendered = page ?? fragmentOf(shop, draft, ask);
  if (!rendered?.trace) refuse(404, 'view', 'This part of the page is not there any more: load the page again.');
  // What is worked on and takes no part in this page leaves it as it is: a default where an alternate serves.
  const names = page ? [page.choice.template, ...page.drawn.map(({ name }) => name)] : null;
  const parts = names && new Set(names.flatMap((name) => theme.parts(name).map(({ path }) => path)));
  const broken =
    [...worked].flatMap((path) =>
      path.endsWith('.html') && (!parts || parts.has(path)) ? brokenAt(theme, path) : [],
    )[0] ?? null;
  const { locale } = readLocale(ask.path, shop.catalogue().shop().locales);
  const format = formatFor(locale);
  const shown = shownHash(rendered.html);
  const understood = (name: string) => {
    const template = theme.template(name);
    return template && understand(template, theme);
  };
  return {
    page: page && reportPage(shop, draft, ask, page),
    // Where nothing is shown yet there is no good page to keep.
    html: (broken && asked.shown !== null) || shown === asked.shown || !page ? null : rendered.html,
    shown,
    broken,
    shopLayer: theme.layers[theme.layers.length - 1]?.name ?? '',
    table: placeTable(rendered.trace, rendered.html, understood, (value) => inProse(value, format)),
  };
}

/** The values in reach of a place of a file, as they are on a page. */
export function reachAt(
  shop: Shop,
  draft: StateRow,
  asked: z.output<typeof reachRequest>,
  view: View | null = viewOf(shop, draft, asked),
): Reach {
  const unsaved = asked.unsaved.filter(readable);
  const { theme } = shop.themeWith(draft, unsaved);
  const name = asked.file.replace(/\.html$/, '');
  const template = theme.template(name);
  if (!template) refuse(404, 'file', `There is no template “${asked.file}” in this theme.`);
  const at = elementAround(template, asked.file, asked.layer, asked.offset);
  const given =
    view?.kind === 'fragment' ? view.ask : { ...view?.ask, ...readAsk(asked.address, asked.try), origin: asked.origin };
  const ask: PageAsk = { ...given, traced: true, unsaved, probe: { name, at } };
  const rendered = view?.kind === 'fragment' ? fragmentOf(shop, draft, ask) : pageOf(shop, draft, ask);
  if (!rendered?.trace) refuse(404, 'view', 'This part of the page is not there any more: load the page again.');
  const { locale } = readLocale(ask.path, shop.catalogue().shop().locales);
  const source = shop.catalogue();
  const units = fieldSubjects.flatMap((subject) =>
    source.fieldDefinitions(subject).map(({ key, unit }): [string, string] => [`${subject}.${key}`, unit]),
  );
  return reachOf({
    theme,
    template,
    at,
    trace: rendered.trace,
    frame: asked.frame,
    globals: rendered.globals,
    format: formatFor(locale),
    open: new Set(asked.open),
    search: asked.search,
    site: shop.facts(),
    printed: printedSteps(template, asked),
    subject: 'subject' in rendered ? (rendered as Page).subject : null,
    units: new Map(units),
  });
}

/** The steps of what a value prints at an offset: `product`, `name` of `{product.name | upper}`; null where none is printed, or it is worked out. */
function printedSteps(
  template: Template,
  { file, layer, offset }: { file: string; layer: string; offset: number },
): string[] | null {
  const stepsOf = (one: Expression): string[] | null => {
    if (one.kind === 'name') return [one.name];
    if (one.kind === 'filter') return stepsOf(one.of);
    const above = one.kind === 'field' ? stepsOf(one.of) : null;
    return above && one.kind === 'field' ? [...above, one.name] : null;
  };
  const find = (nodes: readonly TemplateNode[]): Expression | null => {
    for (const node of nodes) {
      const here = node.source.file === file && node.source.layer === layer && node.from <= offset && offset <= node.to;
      if (node.type === 'value' && here) return node.expression;
      if (node.type !== 'element') continue;
      const inside = find(node.children);
      if (inside) return inside;
      // An element that holds one value and no more is that value on the page.
      const said = node.children.filter((one) => one.type !== 'text' || node.source.slice(one.from, one.to).trim());
      const [only] = said;
      if (here && offset <= node.openTo && said.length === 1 && only?.type === 'value') return only.expression;
    }
    return null;
  };
  const found = find(template.children);
  return found && stepsOf(found);
}

/** The files of the shop's layer as they would be with something done at a place. Nothing is written. */
export function changeAt(shop: Shop, draft: StateRow, asked: z.output<typeof changeRequest>): ChangeAnswer {
  const { theme } = shop.themeWith(draft, asked.unsaved);
  try {
    const { changes, says } =
      asked.action.kind === 'hand-down'
        ? handDown(theme, asked.target, asked.action)
        : changeFor(theme, asked.target, asked.action, asked.into ?? null);
    return { says, changes: changes.map((one) => ({ ...one, from: shop.themes.ownHash(draft.id, one.path) })) };
  } catch (error) {
    if (error instanceof NoChange) return refuse(422, 'change', error.message);
    throw error;
  }
}

/** A text that a page can be made with: settings that are no JSON yet are left as they were. */
export function readable({ path, text }: { path: string; text: string }): boolean {
  if (!path.endsWith('.json')) return true;
  try {
    JSON.parse(unmarked(text));
    return true;
  } catch {
    return false;
  }
}

/** What is wrong with a template as it stands: its first error. */
function brokenAt(theme: Theme, path: string): Problem[] {
  return theme
    .check(path.slice(0, -5))
    .filter((one) => one.severity === 'error' && one.file === path)
    .slice(0, 1);
}

/** Splits an address of the storefront as the Bench gives it (`/product/a?variant=1`). */
export function readAsk(address: string, tried: string | null): PageAsk {
  let url: URL;
  try {
    url = new URL(address, 'http://shop.invalid');
  } catch {
    return refuse(400, 'address', `“${address}” is not an address.`);
  }
  return { path: url.pathname, query: Object.fromEntries(url.searchParams), tried };
}

/** A path of the storefront without its language. */
export const plainPath = (shop: Shop, path: string): string => readLocale(path, shop.catalogue().shop().locales).path;
