import type { FacetValueRow, Chosen, Counts, World } from '@/core/catalogue';
import { record, type Money, type RecordValue, minorDigits } from '@/core/language';

/** Names in a listing's query that mean something else: an option called so is written `option-sort`. */
const taken = new Set(['page', 'sort', 'view', 'q', 'tag', 'brand', 'price', 'stock', 'try', 'variant', 'lang']);

const queryName = (option: string): string => (taken.has(option) ? `option-${option}` : option);

type Query = Record<string, string>;

const listed = (text: string | undefined): string[] => (text ?? '').split(',').filter(Boolean);

/**
 * What is chosen of a listing, as its address says: `?colour=navy,black&tag=gift&price=5-10&stock=in`. Prices in whole
 * currency. What names nothing of the catalogue is passed over.
 */
export function readChosen(world: World, query: Query): Chosen {
  const chosen = { options: {} as Record<string, string[]>, tags: [], brands: [], prices: [], inStock: false };
  if (!Object.keys(query).some((name) => name !== 'page' && name !== 'sort' && name !== 'view' && name !== 'q'))
    return chosen;
  const known = new Map<string, Set<string>>();
  for (const { option, value } of world.source.facetValues()) {
    const values = known.get(option);
    if (values) values.add(value);
    else known.set(option, new Set([value]));
  }
  for (const [option, values] of known) {
    const wanted = listed(query[queryName(option)]).filter((value) => values.has(value));
    if (wanted.length) chosen.options[option] = [...new Set(wanted)];
  }
  const ids = (text: string | undefined, rows: readonly { id: number; slug: string }[]) =>
    listed(text).flatMap((slug) => rows.find((row) => row.slug === slug)?.id ?? []);
  const unit = 10 ** minorDigits(world.currency);
  return {
    ...chosen,
    tags: query.tag ? ids(query.tag, world.source.allTags()) : [],
    brands: query.brand ? ids(query.brand, world.source.brands()) : [],
    prices: listed(query.price).flatMap((text): [number, number | null][] => {
      const [, from, to] = /^(\d{1,9}(?:\.\d{1,3})?)-(\d{1,9}(?:\.\d{1,3})?)?$/.exec(text) ?? [];
      if (from === undefined) return [];
      return [[Math.round(Number(from) * unit), to === undefined ? null : Math.round(Number(to) * unit)]];
    }),
    inStock: query.stock === 'in',
  };
}

export const isChosen = ({ options, tags, brands, prices, inStock }: Chosen): boolean =>
  inStock || tags.length > 0 || brands.length > 0 || prices.length > 0 || Object.keys(options).length > 0;

/** The names in a query that choose something. */
export const choosing = (world: World): string[] => [
  'tag',
  'brand',
  'price',
  'stock',
  ...new Set(world.source.facetValues().map(({ option }) => queryName(option))),
];

interface Value {
  slug: string;
  name: string | null;
  colour?: string | null;
  from?: Money | null;
  to?: Money | null;
  count: number;
}

/**
 * The filters of a listing: options, brands, tags, ranges of price, stock. One that would narrow nothing is left out, unless
 * something of it is chosen. `address` gives the listing's address with a change of its query (null takes a name out).
 */
export function makeFilters(
  world: World,
  counts: Counts,
  count: number,
  query: Query,
  without: ReadonlySet<string>,
  address: (change: Record<string, string | null>) => string,
): RecordValue[] {
  const { compare } = new Intl.Collator(world.source.language, { numeric: true });
  const byName = (a: Value, b: Value) => compare(a.name ?? '', b.name ?? '');
  const filters: RecordValue[] = [];
  const add = (name: string, kind: string, label: string | null, values: Value[]): void => {
    if (without.has(kind)) return;
    const chosen = listed(query[name]);
    const shown = values.filter((value) => value.count > 0 || chosen.includes(value.slug));
    const narrows = shown.some((value) => value.count < count || chosen.includes(value.slug));
    if (!narrows || (shown.length < 2 && kind !== 'stock' && !chosen.length)) return;
    const change = (slugs: string[]) => address({ [name]: slugs.join(',') || null, page: null });
    filters.push(
      record({
        name,
        kind,
        label,
        selected: shown.some((value) => chosen.includes(value.slug)),
        url: change([]),
        values: shown.map(({ slug, name: called, colour, from, to, count: found }) => {
          const selected = chosen.includes(slug);
          return record({
            name: called,
            slug,
            colour: colour || null,
            from: from ?? null,
            to: to ?? null,
            count: found,
            selected,
            url: change(selected ? chosen.filter((one) => one !== slug) : [...chosen, slug]),
          });
        }),
      }),
    );
  };

  const byOption = new Map<string, FacetValueRow[]>();
  for (const row of world.source.facetValues()) {
    const rows = byOption.get(row.option);
    if (rows) rows.push(row);
    else byOption.set(row.option, [row]);
  }
  // Swatches first, then what concerns most of the listing; an option of a few goods among many is not a way to look through them.
  const concerns = (option: string) => [...(counts.options.get(option)?.values() ?? [])].reduce((sum, n) => sum + n, 0);
  const swatches = (rows: FacetValueRow[]) => Number(rows.some((row) => row.colour !== ''));
  const options = [...byOption].sort(
    ([a, ones], [b, others]) => swatches(others) - swatches(ones) || concerns(b) - concerns(a),
  );
  for (const [option, rows] of options) {
    const found = counts.options.get(option);
    if (!found) continue;
    if (concerns(option) * 10 < count && !query[queryName(option)]) continue;
    const values = rows.map(({ value, name, colour }) => ({ slug: value, name, colour, count: found.get(value) ?? 0 }));
    add(queryName(option), 'option', rows[0]?.optionName ?? option, values.sort(byName));
  }
  const named = (rows: readonly { id: number; slug: string; name: string }[], found: Map<number, number>) =>
    rows.map(({ id, slug, name }) => ({ slug, name, count: found.get(id) ?? 0 })).sort(byName);
  add('brand', 'brand', null, named(world.source.brands(), counts.brands));
  add('tag', 'tag', null, named(world.source.allTags(), counts.tags));
  const unit = 10 ** minorDigits(world.currency);
  add(
    'price',
    'price',
    null,
    counts.prices.map(({ from, to, count: found }) => ({
      slug: `${from / unit}-${to === null ? '' : to / unit}`,
      name: null,
      from: from ? world.money(from) : null,
      to: world.money(to),
      count: found,
    })),
  );
  add('stock', 'stock', null, [{ slug: 'in', name: null, count: counts.inStock }]);
  return filters;
}
