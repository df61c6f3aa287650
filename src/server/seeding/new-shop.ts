import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { NewShop } from '@/contract/start';
import type { CatalogueDraft } from '@/contract/catalogue-file';
import { refuse } from '@/server/http';
import { inProgram } from '@/server/jobs';
import type { Shop } from '@/server/shop';
import { seed } from './seed';

const folders: Record<NewShop['theme'], string> = { quay: 'quay', empty: 'plain' };

/** Folder of the newest version of a base theme that Last comes with. */
function newestTheme(theme: NewShop['theme']): string {
  const name = folders[theme];
  const versions = readdirSync(inProgram('themes')).filter((one) => new RegExp(`^${name}-[\\d.]+$`).test(one));
  const byVersion = new Intl.Collator('en', { numeric: true });
  return join(inProgram('themes'), versions.sort(byVersion.compare).at(-1) ?? name);
}

/** The name in addresses of a new shop's first draft. */
const draft = { slug: 'first', name: 'First draft' };

/**
 * Makes a shop in an empty data folder: its catalogue (of no goods, unless given), the base theme, a layer of its own, a first draft, and
 * a release that is live. Gives the draft's name in addresses; refused where there is a shop already.
 */
export function startShop(
  shop: Shop,
  { name, currency, languages, theme }: NewShop,
  now: string,
  catalogue: Omit<CatalogueDraft, 'shop'> = {},
): string {
  const [locale = 'en'] = languages;
  const filled = seed(shop, {
    catalogue: { ...catalogue, shop: { name, currency, locale, locales: languages } },
    pictures: [],
    base: newestTheme(theme),
    addOns: [],
    own: null,
    draft,
    now,
  });
  if (!filled) refuse(409, 'shop', 'There is a shop here already: nothing was changed.');
  return draft.slug;
}

/** Fills an empty data folder with the demo; refused where there is a shop already. */
export async function startDemo(shop: Shop, now: string): Promise<string> {
  const { demo } = await import('./demo');
  const options = await demo();
  if (!seed(shop, { ...options, now })) refuse(409, 'shop', 'There is a shop here already: nothing was changed.');
  return 'spring';
}
