import { z } from 'zod';
import { record, type RecordValue } from '@/core/language';

export interface LookSetting {
  name: string;
  type: string;
  label: string;
  value: string | number | boolean | null;
}

/** The settings of a `look.json`. Throws a sentence about what is wrong with it. */
export function readLook(text: string): LookSetting[] {
  const read = JSON.parse(text) as { settings?: unknown; listings?: unknown };
  if (read.settings === undefined && read.listings !== undefined) return [];
  if (!Array.isArray(read.settings)) throw new TypeError('look.json holds a list “settings”');
  return read.settings.map((one: unknown, at) => {
    const { name, type, label, value } = (one ?? {}) as Record<string, unknown>;
    if (typeof name !== 'string' || !/^[a-z_][a-z0-9_]*$/.test(name))
      throw new TypeError(`Setting ${at + 1} of look.json needs a name`);
    const plain = typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? value : null;
    return {
      name,
      type: typeof type === 'string' ? type : 'text',
      label: typeof label === 'string' ? label : name,
      value: plain,
    };
  });
}

/**
 * How listings of a kind are shown. `filtered` is any listing of which something is chosen, `category_filtered` a category of which something is:
 * what that does not say, `filtered` says. `related` is not a page of its own.
 */
export const listingKinds = [
  'category',
  'filtered',
  'category_filtered',
  'tag',
  'brand',
  'search',
  'all',
  'offer',
  'related',
  'articles',
] as const;
export type ListingLook = (typeof listingKinds)[number];

const setting = z.strictObject({
  page_size: z.int().min(1).max(200),
  columns: z.int().min(1).max(12),
  sort: z.enum(['chosen', 'match', 'name', 'price', 'price-down', 'newest']).nullable(),
  view: z.enum(['grid', 'list']),
  /** Slug of the option that makes a tile of each of its values; null: one tile a product. */
  split_by: z.string().nullable(),
  /** A further value gets a tile only with so many pictures. */
  pictures: z.int().min(0),
  /** Slugs of the values that get a tile; empty: all. */
  values: z.array(z.string()),
  /** The values of single products, by the product's slug, in place of `values` and `pictures`; an empty list: one tile. */
  values_of: z.record(z.string(), z.array(z.string())),
});
export type ListingSettings = z.output<typeof setting>;

const plain: ListingSettings = {
  page_size: 12,
  columns: 4,
  sort: null,
  view: 'grid',
  split_by: null,
  pictures: 0,
  values: [],
  values_of: {},
};

/** How a setting is declared; a layer above may say only its value. */
export const settingShape = {
  type: z.enum(['colour', 'number', 'boolean', 'choice', 'font', 'text']),
  label: z.string(),
  group: z.string(),
  value: z.union([z.string(), z.number(), z.boolean(), z.null()]),
  choices: z.array(z.union([z.string(), z.strictObject({ value: z.string(), label: z.string() })])),
  min: z.number(),
  max: z.number(),
  step: z.number().positive(),
  unit: z.string(),
};

const listings = z.partialRecord(z.enum(['default', ...listingKinds]), setting.partial());

/** All that a `look.json` may hold. */
export const lookFile = z.strictObject({
  settings: z
    .array(
      z
        .strictObject(settingShape)
        .partial()
        .extend({ name: z.string().regex(/^[a-z_][a-z0-9_]*$/, 'is made of small letters, digits and _') }),
    )
    .optional(),
  listings: listings.optional(),
});

/** The part `listings` of a `look.json`: settings by kind of listing, those of `default` for what a kind does not say. */
function readListings(text: string): z.output<typeof listings> {
  const read = JSON.parse(text) as { listings?: unknown };
  return read.listings === undefined ? {} : listings.parse(read.listings);
}

/** What is wrong with the listings of a `look.json`: a sentence, or null. */
export function wrongListings(text: string): string | null {
  try {
    readListings(text);
    return null;
  } catch (error) {
    if (!(error instanceof z.ZodError)) return null;
    const issue = error.issues[0] as z.core.$ZodIssue;
    return `listings${issue.path.map((step) => `.${String(step)}`).join('')}: ${issue.message}`;
  }
}

/**
 * The look as templates reach it: each setting's value by its name, and `listings` with the settings of every kind of
 * listing. Later texts (upper layers) replace and add settings, one by one.
 */
export function lookOf(texts: (string | null)[]): RecordValue {
  const look = record({});
  const written: z.output<typeof listings>[] = [];
  for (const text of texts) {
    try {
      for (const { name, value } of readLook(text ?? '')) look[name] = value;
      written.push(readListings(text ?? ''));
    } catch {
      // A look that cannot be read leaves the ones below standing.
    }
  }
  look.listings = record(
    Object.fromEntries(
      listingKinds.map((kind) => {
        const said = saidFor(kind).flatMap((one) => written.map((by) => by[one]));
        const settings: ListingSettings = Object.assign({}, plain, ...said);
        return [kind, record({ ...settings, values_of: record(settings.values_of) })];
      }),
    ),
  );
  return look;
}

/** The kinds whose settings hold for a kind, each over those before it. */
export const saidFor = (kind: ListingLook): ('default' | ListingLook)[] => [
  'default',
  ...(kind === 'category_filtered' ? (['filtered'] as const) : []),
  kind,
];

/** The settings of one kind of listing. */
export const listingSettings = (look: RecordValue, kind: ListingLook): ListingSettings =>
  (look.listings as unknown as Record<ListingLook, ListingSettings>)[kind];
