import { Html, Money, record as made, type RecordValue } from '../src/core/language';

/** Goods for the benchmarks: made by rule, the same for every engine. Nothing in them needs one engine to escape what another does not. */

const words = 'tarred hemp braid cleat shackle lamp varnish canvas pennant almanac fender thimble'.split(' ');
const word = (n: number) => words[n % words.length] as string;
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Texts as they come from a file or a database, in one piece: a text joined in memory is slower to read for whoever reads it. */
const flat = (text: string): string => JSON.parse(JSON.stringify(text)) as string;

/** A record whose texts are in one piece. */
function record(fields: Record<string, unknown>): RecordValue {
  const entries = Object.entries(fields).map(([name, value]) => [
    name,
    typeof value === 'string' ? flat(value) : value,
  ]);
  return made(Object.fromEntries(entries) as Record<string, unknown>);
}

export function tag(n: number): RecordValue {
  return record({ name: `${word(n)} & co`, slug: `${word(n)}-${n % 7}`, url: `/listing/tag/${word(n)}-${n % 7}` });
}

export function product(n: number): RecordValue {
  const slug = `${word(n)}-${word(n + 5)}-${n}`;
  return record({
    name: capital(`${word(n)} "${word(n + 5)}" <${n}>`),
    slug,
    url: `/product/${slug}`,
    summary: `A ${word(n + 3)} that doesn't ${n % 2 ? 'chafe' : 'rust'}, by the metre & by the coil.`,
    description: new Html(`<p>Made of <b>${word(n)}</b> for number ${n}.</p><ul><li>one</li><li>two</li></ul>`),
    image: record({ url: `/media/${slug}.svg`, alt: `Picture of ${word(n)}`, width: 480, height: 480 }),
    media: Array.from({ length: 4 }, (_, i) =>
      record({ url: `/media/${slug}-${i}.svg`, alt: `View ${i} of ${word(n)}`, width: 480, height: 480 }),
    ),
    price: new Money(450 + n * 35, 'GBP'),
    was_price: n % 5 ? null : new Money(900 + n * 35, 'GBP'),
    on_sale: n % 5 === 0,
    sold_out: n % 9 === 0,
    stock: (n * 7) % 23,
    brand: record({ name: `${capital(word(n + 2))} & sons`, url: `/listing/brand/${word(n + 2)}` }),
    tags: Array.from({ length: 1 + (n % 4) }, (_, i) => tag(n + i)),
    attributes: Array.from({ length: 5 }, (_, i) =>
      record({ name: capital(word(n + i)), value: `${n + i} mm`, visible: i !== 3 }),
    ),
    options: [
      record({
        name: 'Colour',
        slug: 'colour',
        values: Array.from({ length: 6 }, (_, i) =>
          record({
            name: capital(word(i)),
            colour: `#${(0x224466 + i * 0x111111).toString(16)}`,
            url: `/product/${slug}?variant=${i}`,
            selected: i === 1,
            sold_out: i === 4,
          }),
        ),
      }),
    ],
  });
}

export const listing = record({
  title: 'Rope & cord',
  count: 480,
  products: Array.from({ length: 48 }, (_, n) => product(n)),
  pager: [
    record({ kind: 'previous', label: '3', url: '/listing/all?page=3', current: false }),
    record({ kind: 'page', label: '1', url: '/listing/all', current: false }),
    record({ kind: 'gap', label: null, url: null, current: false }),
    ...[3, 4, 5].map((n) =>
      record({ kind: 'page', label: String(n), url: n === 4 ? null : `/listing/all?page=${n}`, current: n === 4 }),
    ),
    record({ kind: 'gap', label: null, url: null, current: false }),
    record({ kind: 'page', label: '10', url: '/listing/all?page=10', current: false }),
    record({ kind: 'next', label: '5', url: '/listing/all?page=5', current: false }),
  ],
});

export const one = product(7);
(one as { related?: unknown }).related = [3, 8, 13, 21].map(product);
(one as { path?: unknown }).path = [
  record({ name: 'All & sundry', url: '/category/all' }),
  record({ name: 'Rope', url: '/category/rope' }),
];
export const shop = record({ name: 'Withy Quay', url: '/', email: 'quay@example.com' });
export const menu = ['rope', 'deck', 'books', 'lamps'].map((slug) =>
  record({ label: capital(slug), url: `/category/${slug}`, current: slug === 'rope' }),
);
