import { z } from 'zod';
import { fieldSubjects } from '@/core/catalogue';
import { languageTag } from './language-tag';

const slug = z.string().regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'small letters, digits and single hyphens');
const day = z.iso.date();
const minor = z.int().nonnegative();
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'a colour written #rrggbb');

/** Texts in the shop's further languages, by language and field: `{"fr": {"name": "Corde"}}`. What is left out is shown in the first. */
const texts = <T extends string>(...fields: T[]) =>
  z
    .record(
      z.string(),
      z.strictObject(
        Object.fromEntries(fields.map((field) => [field, z.string().optional()])) as Record<
          T,
          z.ZodOptional<z.ZodString>
        >,
      ),
    )
    .default({});
/** Texts of custom fields in further languages, by language and key. */
const fieldTexts = z.record(z.string(), z.record(z.string(), z.string())).default({});

const media = z.strictObject({
  kind: z.enum(['image', 'video', 'embed']).default('image'),
  path: z.string().min(1),
  alt: z.string().default(''),
  width: z.int().positive().nullable().default(null),
  height: z.int().positive().nullable().default(null),
  poster: z.string().default(''),
  /** Option values that it shows, each as option and value by slug. */
  shows: z.array(z.tuple([slug, slug])).default([]),
  texts: texts('alt'),
});

/** Whether customers see it; what is not live is seen in drafts only. */
const live = z.boolean().default(true);

const product = z.strictObject({
  slug,
  live,
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
    .array(
      z.strictObject({
        name: z.string(),
        value: z.string(),
        visible: z.boolean().default(true),
        texts: texts('name', 'value'),
      }),
    )
    .default([]),
  fields: z.record(z.string(), z.string()).default({}),
  fieldTexts,
  options: z
    .array(
      z.strictObject({
        slug,
        name: z.string(),
        texts: texts('name'),
        values: z.array(
          z.strictObject({
            slug,
            name: z.string(),
            colour: colour.or(z.literal('')).default(''),
            texts: texts('name'),
          }),
        ),
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
        texts: texts('name'),
      }),
    )
    .default([]),
  media: z.array(media).default([]),
  texts: texts('name', 'summary', 'description'),
  members: z.array(slug).default([]),
  related: z.array(slug).default([]),
});

export interface MenuItemFile {
  label: string;
  target: string;
  texts?: Record<string, { label?: string | undefined }> | undefined;
  children?: MenuItemFile[] | undefined;
}
const menuItem: z.ZodType<MenuItemFile> = z.lazy(() =>
  z.strictObject({
    label: z.string(),
    target: z.string(),
    texts: z.record(z.string(), z.strictObject({ label: z.string().optional() })).optional(),
    children: z.array(menuItem).optional(),
  }),
);

const page = z.strictObject({
  slug,
  live,
  title: z.string(),
  summary: z.string().default(''),
  body: z.string().default(''),
  added: day,
  fields: z.record(z.string(), z.string()).default({}),
  fieldTexts,
  media: z.array(media).default([]),
  texts: texts('title', 'summary', 'body'),
});

/**
 * A shop's whole catalogue as one JSON file. Everything is named by its slug; prices in minor units; rich text is cleaned
 * when it comes in; texts in the shop's first language, with those of its further languages beside them.
 */
export const catalogueFile = z.strictObject({
  shop: z.strictObject({
    name: z.string(),
    currency: z.string().regex(/^[A-Z]{3}$/, 'A currency has three capital letters, as “EUR” or “GBP”'),
    locale: languageTag,
    locales: z.array(languageTag).min(1),
    email: z.string().default(''),
  }),
  brands: z
    .array(z.strictObject({ slug, name: z.string(), summary: z.string().default(''), texts: texts('summary') }))
    .default([]),
  categories: z
    .array(
      z.strictObject({
        slug,
        parent: slug.nullable().default(null),
        live,
        /** Its place among those below the same one, from 0; left out, it stays where it is, and a new one comes last. */
        position: z.int().nonnegative().optional(),
        name: z.string(),
        summary: z.string().default(''),
        description: z.string().default(''),
        fields: z.record(z.string(), z.string()).default({}),
        fieldTexts,
        media: z.array(media).default([]),
        texts: texts('name', 'summary', 'description'),
      }),
    )
    .default([]),
  tags: z.array(z.strictObject({ slug, name: z.string(), texts: texts('name') })).default([]),
  fields: z
    .array(
      z.strictObject({
        subject: z.enum(fieldSubjects),
        key: z.string().regex(/^[a-z_][a-z0-9_]*$/),
        name: z.string(),
        type: z.enum(['text', 'html', 'number', 'flag', 'day', 'link', 'picture']),
        unit: z.string().default(''),
        /** For who fills it in. */
        help: z.string().default(''),
        /** The texts that a value may be; none: any. */
        choices: z.array(z.string().trim().min(1)).default([]),
        /** Whether it holds several values, which stand one a line. */
        several: z.boolean().default(false),
      }),
    )
    .default([]),
  products: z.array(product).default([]),
  content: z.array(page).default([]),
  articles: z.array(page).default([]),
  menus: z.array(z.strictObject({ slug, name: z.string(), items: z.array(menuItem) })).default([]),
  /** Addresses of this site that lead to others now, their language aside: `/product/old` to `/product/new`, or to a whole address. */
  redirects: z
    .array(
      z.strictObject({
        path: z.string().regex(/^\/(?!\/)[^\s?#]*$/, 'a path of this site, as /product/old'),
        target: z
          .string()
          .regex(/^(?:\/(?!\/)|https?:\/\/)\S*$/, 'a path of this site, or an address that begins with https://'),
      }),
    )
    .default([]),
});

export type CatalogueFile = z.output<typeof catalogueFile>;
/** One product of a file, for those that are made one by one. */
export const productFile = product;
/** Some fields of a product that is there. */
export const changedProduct = product.partial();
/** As it is written: what has a default may be left out. */
export type CatalogueDraft = z.input<typeof catalogueFile>;
