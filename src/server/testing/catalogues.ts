import type { CatalogueDraft } from '@/contract/catalogue-file';

type Product = NonNullable<CatalogueDraft['products']>[number];

interface Kind {
  /** What is out of the ordinary about the shop. */
  name: string;
  shop?: Partial<CatalogueDraft['shop']>;
  products?: number;
  /** Words that names are made of. */
  words?: string[];
  /** What its goods have; all of it unless it says otherwise. */
  has?: Partial<
    Record<'tags' | 'brands' | 'categories' | 'pictures' | 'options' | 'texts' | 'pages' | 'menus', boolean>
  >;
  categories?: { slug: string; parent: string | null }[];
  product?: (product: Product, number: number) => Partial<Product>;
}

const flat = (count: number) => Array.from({ length: count }, (_, at) => ({ slug: `kind-${at + 1}`, parent: null }));
const deep = (levels: number) =>
  Array.from({ length: levels }, (_, at) => ({ slug: `level-${at + 1}`, parent: at ? `level-${at}` : null }));

/** Shops that a base theme must serve, none of them the demo. */
export const shopKinds: Kind[] = [
  { name: 'an ordinary shop' },
  { name: 'no tags', has: { tags: false } },
  { name: 'no brands', has: { brands: false } },
  { name: 'one language that the theme has no words in', shop: { locale: 'de', locales: ['de'] } },
  { name: 'a right-to-left language', shop: { locale: 'ar', locales: ['ar'] }, words: ['شاي', 'أخضر', 'فاخر', 'قديم'] },
  { name: 'two languages, one right-to-left', shop: { locale: 'en', locales: ['en', 'he'] } },
  { name: 'a currency without minor units', shop: { currency: 'JPY' } },
  { name: 'a currency with three decimals', shop: { currency: 'KWD' } },
  { name: 'no pictures', has: { pictures: false } },
  { name: 'ten thousand products', products: 10_000, has: { pictures: false, options: false } },
  {
    name: 'names in Chinese characters',
    shop: { locale: 'zh', locales: ['zh'] },
    words: ['绿茶', '红茶', '陶壶', '竹'],
  },
  {
    name: 'nothing at all',
    products: 0,
    categories: [],
    has: { tags: false, brands: false, pages: false, menus: false },
  },
  { name: 'one product', products: 1, has: { categories: false, tags: false, brands: false } },
  { name: 'many topmost categories', categories: flat(30) },
  { name: 'no categories', has: { categories: false } },
  { name: 'categories six deep', categories: deep(6) },
  { name: 'no menus and no pages', has: { menus: false, pages: false } },
  { name: 'no texts', has: { texts: false } },
  {
    name: 'nothing in stock, nothing priced',
    product: (product, number) =>
      number % 2
        ? { variants: [], options: [], media: [] }
        : { variants: product.variants?.map((one) => ({ ...one, stock: 0 })) },
  },
  {
    name: 'names that look like markup, and very long ones',
    words: ['<b>bold</b>', 'R&D "quoted"', "it's {braced}", 'Long'.repeat(40), 'two  spaces', '🧵 thread'],
  },
];

/** The catalogue of such a shop: the same each time. */
export function catalogueOf(kind: Kind): CatalogueDraft {
  const { has = {}, words = ['Clay', 'Linen', 'Quiet', 'Round', 'Tall', 'Small'] } = kind;
  const with_ = (part: keyof NonNullable<Kind['has']>): boolean => has[part] ?? true;
  const word = (at: number) => words[at % words.length] as string;
  const categories = with_('categories')
    ? (kind.categories ?? [...flat(3), { slug: 'kind-1-1', parent: 'kind-1' }])
    : [];
  const tags = with_('tags') ? ['new-in', 'for-the-table', 'by-hand'] : [];
  const brands = with_('brands') ? ['first-maker', 'second-maker'] : [];
  const text = (value: string) => (with_('texts') ? value : '');
  const sizes = ['small', 'large'];
  const products = Array.from({ length: kind.products ?? 14 }, (_, at): Product => {
    const slug = `item-${at + 1}`;
    const options = with_('options') && at % 3 === 1;
    const product: Product = {
      slug,
      type: at % 2 ? 'cup' : '',
      name: `${word(at)} ${word(at + 1)} ${at + 1}`,
      summary: at % 4 ? text(`${word(at)}, by hand`) : '',
      description: at % 5 ? text(`<p>${at} words about it.</p><h2>Care</h2><ul><li>By hand</li></ul>`) : '',
      brand: brands.length ? (brands[at % brands.length] ?? null) : null,
      added: `2026-0${1 + (at % 9)}-11`,
      tags: tags.filter((_, place) => (at + place) % 2),
      categories: categories.length ? [(categories[at % categories.length] as { slug: string }).slug] : [],
      attributes: at % 2 ? [{ name: 'Height', value: text('12 cm') || '12' }] : [],
      options: options ? [{ slug: 'size', name: 'Size', values: sizes.map((one) => ({ slug: one, name: one })) }] : [],
      variants: options
        ? sizes.map((size, place) => ({
            sku: `${slug}-${size}`,
            name: size,
            price: 1200 + at * 10 + place * 100,
            wasPrice: at % 4 ? null : 2000 + at * 10,
            stock: (at + place) % 3,
            values: { size },
          }))
        : [{ sku: slug, price: 900 + at, stock: at % 4 }],
      media:
        with_('pictures') && at % 4 !== 3
          ? [
              { path: 'item.png', alt: '', width: 64, height: 48 },
              ...(at % 2 ? [{ path: 'item.png', alt: 'Its back' }] : []),
            ]
          : [],
      related: at > 2 && at < 40 ? [`item-${at - 1}`] : [],
    };
    return { ...product, ...kind.product?.(product, at) };
  });
  const page = (slug: string, at: number) => ({
    slug,
    title: `${word(at)} ${slug}`,
    summary: at ? text('In short') : '',
    body: text('<p>More about it.</p>'),
    added: '2026-02-03',
  });
  return {
    shop: { name: 'Tidy House', currency: 'EUR', locale: 'en', locales: ['en'], ...kind.shop },
    brands: brands.map((slug, at) => ({ slug, name: `${word(at)} maker` })),
    categories: categories.map((one, at) => ({
      ...one,
      name: `${word(at)} ${one.slug}`,
      summary: at % 2 ? text('All of them') : '',
    })),
    tags: tags.map((slug, at) => ({ slug, name: `${word(at)} ${slug}` })),
    products,
    content: with_('pages') ? ['about-us', 'sending'].map(page) : [],
    articles: with_('pages') ? ['first-news', 'second-news'].map(page) : [],
    menus: with_('menus')
      ? [
          {
            slug: 'main',
            name: 'Main',
            items: [
              { label: 'Everything', target: '/listing/all' },
              ...categories.slice(0, 2).map(({ slug }) => ({ label: slug, target: `/category/${slug}` })),
            ],
          },
        ]
      : [],
  };
}
