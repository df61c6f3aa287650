import type { PageAnswer } from '@/contract/api';
import { localePrefix, pathOf, readLocale } from '@/core/storefront/route';
import type { Problem } from '@/core/language';
import type { Layer } from '@/core/theme/theme';
import type { StateRow } from '@/store/themes';
import { layerItem } from './files';
import { pageOf, type PageAsk } from './page';
import { refuse } from './refusal';
import type { Shop } from './shop';

/** What made a page of a draft: subject, template and why, the templates drawn, the files linked, the problems met. */
export function reportPage(shop: Shop, draft: StateRow, ask: PageAsk): PageAnswer {
  const { theme, alternates } = shop.theme(draft);
  const page = pageOf(shop, draft, ask);
  const layerOf = (path: string) => layerItem(theme.file(path)?.layer ?? (theme.layers[0] as Layer));
  const kind = page.choice.template.split('/')[0] as string;
  const files = [...page.drawn.map(({ name }) => name), page.choice.template];
  const checked = [...new Set(files)].flatMap((name) => theme.check(name));
  const key = (one: Problem) => `${one.layer} ${one.file} ${one.line} ${one.code} ${one.message}`;
  const known = new Set(checked.map(key));
  const query = new URLSearchParams(ask.query).toString();
  const { locales } = shop.catalogue().shop();
  const { locale } = readLocale(ask.path, locales);
  const path = page.subject ? localePrefix(locale, locales) + pathOf(page.subject) : ask.path;
  return {
    status: page.status,
    address: `/draft/${draft.slug ?? ''}${path}${query ? `?${query}` : ''}`,
    subject: page.subject,
    template: page.choice.template,
    because: page.choice.because,
    choices: [
      { name: 'default', label: 'default' },
      ...alternates.alternates
        .filter((one) => one.kind === kind && theme.file(`${kind}/${one.name}.html`))
        .map(({ name, label }) => ({ name, label })),
    ],
    drawn: page.drawn.map(({ name, by }) => ({ name, by, layer: layerOf(`${name}.html`) })),
    assets: page.assets.map((path) => ({ path, layer: layerOf(path) })),
    problems: [...checked, ...page.problems.filter((one) => !known.has(key(one)))],
    languages: locales.map((one) => ({ locale: one, prefix: localePrefix(one, locales), current: one === locale })),
    untranslated: page.untranslated,
  };
}

/** Splits an address of the storefront as the Bench gives it (`/product/a?variant=1`). */
export function readAsk(address: string, tried: string | null): PageAsk {
  let url: URL;
  try {
    url = new URL(address, 'http://shop.invalid');
  } catch {
    return refuse(400, 'address', `“${address}” is no address.`);
  }
  return { path: url.pathname, query: Object.fromEntries(url.searchParams), tried };
}
