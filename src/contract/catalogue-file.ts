import { z } from 'zod';

const slug = z.string().regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'small letters, digits and single hyphens');
const day = z.iso.date();
const minor = z.int().nonnegative();
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'a colour written #rrggbb');

const media = z.strictObject({
  kind: z.enum(['image', 'video', 'embed']).default('image'),
  path: z.string().min(1),
  alt: z.string().default(''),
  width: z.int().positive().nullable().default(null),
  height: z.int().positive().nullable().default(null),
  poster: z.string().default(''),
  /** Option values that it shows, each as option and value by slug. */
  shows: z.array(z.tuple([slug, slug])).default([]),
});

const product = z.strictObject({
  slug,
  type: z.string().default(''),
  name: z.string().min(1),
  summary: z.string().default(''),
  description: z.string().default(''),
  brand: slug.nullable().default(null),
  sku: z.string().default(''),
  gtin: z.string().default(''),
  added: day,
  tags: z.array(slug).default([]),
  categories: z.array(slug).default([]),
  attributes: z
    .array(z.strictObject({ name: z.string(), value: z.string(), visible: z.boolean().default(true) }))
    .default([]),
  fields: z.record(z.string(), z.string()).default({}),
  options: z
    .array(
      z.strictObject({
        slug,
        name: z.string(),
        values: z.array(z.strictObject({ slug, name: z.string(), colour: colour.or(z.literal('')).default('') })),
      }),
    )
    .default([]),
  variants: z
    .array(
      z.strictObject({
        sku: z.string().min(1),
        name: z.string().default(''),
        price: minor,
        wasPrice: minor.nullable().default(null),
        stock: z.int().default(0),
        /** Its value of each option, by slugs. */
        values: z.record(slug, slug).default({}),
      }),
    )
    .default([]),
  media: z.array(media).default([]),
  members: z.array(slug).default([]),
  related: z.array(slug).default([]),
});

export interface MenuItemFile {
  label: string;
  target: string;
  children?: MenuItemFile[] | undefined;
}
const menuItem: z.ZodType<MenuItemFile> = z.lazy(() =>
  z.strictObject({ label: z.string(), target: z.string(), children: z.array(menuItem).optional() }),
);

const page = z.strictObject({
  slug,
  title: z.string(),
  summary: z.string().default(''),
  body: z.string().default(''),
  added: day,
});

/**
 * A shop's whole catalogue as one JSON file. Everything is named by its slug; prices in minor units; rich text is cleaned
 * when it comes in; texts in the shop's first language.
 */
export const catalogueFile = z.strictObject({
  shop: z.strictObject({
    name: z.string(),
    currency: z.string().length(3),
    locale: z.string(),
    locales: z.array(z.string()).min(1),
    email: z.string().default(''),
  }),
  brands: z.array(z.strictObject({ slug, name: z.string(), summary: z.string().default('') })).default([]),
  categories: z
    .array(
      z.strictObject({
        slug,
        parent: slug.nullable().default(null),
        name: z.string(),
        summary: z.string().default(''),
        description: z.string().default(''),
        fields: z.record(z.string(), z.string()).default({}),
        media: z.array(media).default([]),
      }),
    )
    .default([]),
  tags: z.array(z.strictObject({ slug, name: z.string() })).default([]),
  fields: z
    .array(
      z.strictObject({
        subject: z.enum(['product', 'category']),
        key: z.string().regex(/^[a-z_][a-z0-9_]*$/),
        name: z.string(),
        type: z.enum(['text', 'html', 'number', 'flag', 'day', 'link', 'picture']),
        unit: z.string().default(''),
      }),
    )
    .default([]),
  products: z.array(product).default([]),
  content: z.array(page).default([]),
  articles: z.array(page).default([]),
  menus: z.array(z.strictObject({ slug, name: z.string(), items: z.array(menuItem) })).default([]),
});

export type CatalogueFile = z.output<typeof catalogueFile>;
/** As it is written: what has a default may be left out. */
export type CatalogueDraft = z.input<typeof catalogueFile>;
