import { type PageAsk, inThread, type Shop } from '@/server/shop';
import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { type CartState, type CartMessage, makeCart, World } from '@/core/catalogue';
import { isRecord, type Money, type Question, type RecordValue } from '@/core/language';
import { askedAgain, readAnswers } from '@/core/storefront';
import { localePrefix, readLocale } from '@/core/address';
import {
  Carts,
  OrderEvents,
  OrderHolds,
  type StoredLine,
  type StoredCatalogue,
  isUnwritable,
  type StateRow,
} from '@/store';
import { Allowance, cookieIn, cookieText, limitedText } from '@/server/http';
import { storefrontJobs, type SentPage } from './jobs';
import { prefixOf, seenBy } from './page';
import { fault } from '@/server/log';

const maxQuantity = 9999;
/** Different things in a cart. */
const maxLines = 100;
/** A cart that nobody changed for so long is forgotten, as its cookie is; in days. */
export const cartDays = 60;
/** What a redirect to the cart may say that the request came to. */
const messages = new Set<CartMessage>(['added', 'changed', 'removed', 'less', 'none-left', 'quantity', 'full']);
/** New carts for one address of the network. */
const newCarts = new Allowance(300, 3_600_000);

/** The token of the visitor's cart, from its cookie; null when there is none. */
export const cartToken = (request: Request): string | null => tokenIn(request.headers.get('cookie'));

/** The same from the text of a `Cookie` header. */
export function tokenIn(cookies: string | null | undefined): string | null {
  const value = cookieIn('cart', false, cookies);
  return value !== null && /^[\w-]{22}$/.test(value) ? value : null;
}

/** What the visitor has, for any page: how many things. For the cart itself, what changed and what the last request came to. */
export async function cartOf(
  shop: Shop,
  state: StateRow,
  ask: PageAsk,
  token: string | null,
  catalogue = shop.catalogue(),
): Promise<CartState> {
  if (token === null) return { lines: [] };
  const carts = new Carts(shop.carts);
  const lines = carts.lines(token);
  const { locale, path } = readLocale(ask.path, catalogue.shop().locales);
  if (!/^\/cart\/?$/.test(path)) return { lines };
  const said = ask.query.did as CartMessage | undefined;
  const number = /^\d{4,9}$/.test(ask.query.ordered ?? '') ? Number(ask.query.ordered) : null;
  const order = number === null ? null : carts.ordered(token, number);
  const asked = await Promise.all(lines.map((line) => askedNow(shop, state, locale, line)));
  return {
    lines: lines.map((line, at) => ({ ...line, asked: asked[at] ?? [] })),
    message: said && messages.has(said) ? said : null,
    order: order && {
      number: String(order.number),
      total: order.body.total,
      count: order.body.lines.reduce((sum, line) => sum + line.quantity, 0),
    },
  };
}

const keyOf = (shop: Shop, state: StateRow): string => `${state.id} ${state.revision} ${shop.catalogue().revision}`;

/** The product's page is made again when theme or catalogue changed since its questions were last looked at. */
async function askedNow(
  shop: Shop,
  state: StateRow,
  locale: string,
  line: StoredLine,
): Promise<NonNullable<CartState['lines'][0]['asked']>> {
  const key = keyOf(shop, state);
  if (line.checked === key) return [];
  const page = await pageNow(shop, state, {
    path: `${localePrefix(locale, shop.catalogue().shop().locales)}/product/${line.product}`,
    query: { variant: line.sku },
  });
  if (page.status !== 200) return [];
  const source = seenBy(state, shop.catalogue(locale));
  const row = source.productBySlug(line.product);
  const questions = [...page.questions, ...(row ? memberQuestions(source, row.id) : [])];
  const asked = askedAgain(questions, line.answers);
  if (!asked.length) new Carts(shop.carts).checked(line.id, key);
  return asked;
}

const pageNow = (shop: Shop, state: StateRow, ask: PageAsk): Promise<SentPage> =>
  inThread(shop, state.kind === 'release' ? 'live' : 'preview', storefrontJobs.page, state, ask);

interface CartAnswer {
  status: number;
  /** Where the browser goes on; else the page to show. */
  location?: string;
  html?: string;
  headers: Record<string, string>;
}

/** Takes a form that was sent to the cart: something put in, changed, taken out, or all of it ordered. */
export async function postCart(
  shop: Shop,
  state: StateRow,
  request: Request,
  ask: PageAsk,
  /** `framed`: the form came from a page in the Bench's frame; `address`: of the network, that it came from. */
  { framed, address }: { framed: boolean; address: string },
): Promise<CartAnswer> {
  const form = new URLSearchParams(await limitedText(request, 100_000));
  const { locales } = shop.catalogue().shop();
  const { locale } = readLocale(ask.path, locales);
  const base = prefixOf(state) + localePrefix(locale, locales);
  const given = cartToken(request);
  const known = given !== null && new Carts(shop.carts).isIssued(given);
  const token = known ? given : randomBytes(16).toString('base64url');
  const secure = (ask.origin ?? '').startsWith('https:');
  const kind = framed ? 'framed-cart' : 'cart';
  const headers: Record<string, string> = { 'Set-Cookie': cookieText(kind, token, cartDays * 86_400, secure) };
  if (!known && form.get('do') === 'add' && !newCarts.take(address)) {
    const html = await toldCart({ shop, state, ask, token }, 'not-kept');
    return { status: 429, html, headers: { 'Retry-After': '3600' } };
  }
  const visit: Visit = { shop, state, ask, form, locale, base, token };
  const done = (did: string): CartAnswer => ({ status: 303, location: `${base}/cart?${did}`, headers });
  const shown = (status: number, html: string): CartAnswer => ({ status, html, headers });
  try {
    switch (form.get('do')) {
      case 'add':
        return await add(visit, done, shown);
      case 'change':
        return done(`did=${change(visit)}`);
      case 'remove':
        new Carts(shop.carts).remove(token, Number(form.get('line')));
        return done('did=removed');
      case 'order':
        return await order(visit, done, shown);
      default:
        return {
          status: 400,
          html: 'The form does not say what to do with the cart: a button named “do” says add, change, remove or order.',
          headers: {},
        };
    }
  } catch (error) {
    if (!isUnwritable(error)) throw error;
    fault(`The cart could not be written: ${(error as Error).message}`);
    return { status: 507, html: await toldCart(visit, 'not-kept'), headers: { 'Retry-After': '60' } };
  }
}

/** The cart's page with what a request came to. */
async function toldCart(
  { shop, state, ask, token }: Pick<Visit, 'shop' | 'state' | 'ask' | 'token'>,
  message: CartMessage,
): Promise<string> {
  const plain = { ...ask, query: {} };
  const cart = { ...(await cartOf(shop, state, plain, token)), message };
  return (await pageNow(shop, state, { ...plain, cart })).html;
}

interface Visit {
  shop: Shop;
  state: StateRow;
  ask: PageAsk;
  form: URLSearchParams;
  locale: string;
  /** What stands before paths of the site: state and language. */
  base: string;
  token: string;
}

/** How many are wanted: one where nothing is said; null for what is not a whole number from 0 to `maxQuantity`. */
const quantityOf = (text: string | null): number | null => {
  if (text === null) return 1;
  const quantity = /^\s*\d{1,9}\s*$/.test(text) ? Number(text) : Infinity;
  return quantity <= maxQuantity ? quantity : null;
};

async function add(
  { shop, state, ask, form, locale, token }: Visit,
  done: (did: string) => CartAnswer,
  shown: (status: number, html: string) => CartAnswer,
): Promise<CartAnswer> {
  const source = seenBy(state, shop.catalogue(locale));
  const slug = form.get('product') ?? '';
  const row = source.productBySlug(slug);
  const sku = form.get('variant');
  const prefix = localePrefix(locale, source.shop().locales);
  const query: Record<string, string> = sku ? { variant: sku } : {};
  const pageAsk: PageAsk = { ...ask, path: `${prefix}/product/${slug}`, query, tried: form.get('try') };
  if (!row) return shown(404, (await pageNow(shop, state, pageAsk)).html);
  const variants = source.variants([row.id]);
  const variant = sku ? variants.find((one) => one.sku === sku) : variants[0];
  const page = await pageNow(shop, state, pageAsk);
  if (!variant || variant.stock <= 0) return done('did=none-left');
  const wanted = quantityOf(form.get('quantity'));
  if (!wanted) return done('did=quantity');
  const { theme } = shop.theme(state);
  const yes = theme.phraseIn(locale, 'ask.yes') ?? theme.phrase('ask.yes');
  const questions = [...page.questions, ...memberQuestions(source, row.id)];
  const answers = readAnswers(questions, (name) => form.get(`answer-${name}`), typeof yes === 'string' ? yes : '✓');
  if (!answers.sound) {
    const cart = await cartOf(shop, state, pageAsk, token);
    return shown(422, (await pageNow(shop, state, { ...pageAsk, answers: answers.given, cart })).html);
  }
  const carts = new Carts(shop.carts);
  const lines = carts.lines(token);
  if (lines.length >= maxLines) return done('did=full');
  const held = lines.filter((line) => line.sku === variant.sku).reduce((sum, line) => sum + line.quantity, 0);
  const quantity = Math.min(wanted, variant.stock - held);
  if (quantity <= 0) return done('did=less');
  carts.transaction(() =>
    carts.add(
      token,
      {
        product: slug,
        sku: variant.sku,
        name: row.name,
        price: variant.price,
        quantity,
        answers: answers.taken,
        checked: keyOf(shop, state),
      },
      new Date().toISOString(),
    ),
  );
  return done(`did=${quantity < wanted ? 'less' : 'added'}`);
}

/** Of a set: which variant of each member that has several. Sold-out ones are not offered. */
function memberQuestions(source: StoredCatalogue, productId: number): Question[] {
  const members = source.products(source.members([productId]).map((row) => row.memberId));
  const world = new World(source, (path) => path, '/');
  return world.products(members).flatMap((member) => {
    const options = member.variants.filter((variant) => !variant.sold_out).map((variant) => variant.name);
    if (member.variants.length < 2) return [];
    const name = `member-${String(member.slug)}`;
    const question = { type: 'drop-down', label: String(member.name), help: null, least: null, most: null };
    return [{ ...question, name, options, required: options.length > 0 }];
  });
}

/** A number of 0 takes the line out. What is sold out stays as it is, for the cart to tell. */
function change({ shop, state, form, token, locale }: Visit): CartMessage {
  const carts = new Carts(shop.carts);
  const id = Number(form.get('line'));
  const line = carts.lines(token).find((one) => one.id === id);
  if (!line) return 'changed';
  const wanted = quantityOf(form.get('quantity'));
  if (wanted === null) return 'quantity';
  if (wanted === 0) {
    carts.remove(token, id);
    return 'removed';
  }
  const source = seenBy(state, shop.catalogue(locale));
  const row = source.productBySlug(line.product);
  const variant = row && source.variants([row.id]).find((one) => one.sku === line.sku);
  const inStock = variant ? Math.max(variant.stock, 0) : 0;
  const quantity = inStock > 0 ? Math.min(wanted, inStock) : line.quantity;
  carts.change(token, id, quantity, variant?.price ?? line.price, new Date().toISOString());
  return quantity < wanted ? 'less' : 'changed';
}

const address = z.email();

/** What lines hold, to tell whether they are the same still. */
const written = (lines: CartState['lines']): string =>
  JSON.stringify(lines.map(({ id, sku, quantity, answers }) => [id, sku, quantity, answers]));

async function order(
  { shop, state, ask, form, locale, base, token }: Visit,
  done: (did: string) => CartAnswer,
  shown: (status: number, html: string) => CartAnswer,
): Promise<CartAnswer> {
  const carts = new Carts(shop.carts);
  const at = new Date().toISOString();
  const email = (form.get('email') ?? '').trim().slice(0, 200);
  // What its products ask is looked up before: that may need their pages.
  const stored = await cartOf(shop, state, { ...ask, query: {} }, token);
  const seen = written(stored.lines);
  // One step: what is ordered is what the cart holds at this moment, or nothing is.
  const outcome = carts.transaction((): number | CartMessage => {
    const source = seenBy(state, shop.catalogue(locale));
    const world = new World(source, (path) => base + path, '/cart');
    if (written(carts.lines(token)) !== seen) return 'look';
    const cart = makeCart(world, stored);
    if (cart.ready !== true || cart.seen !== form.get('seen')) return 'look';
    if (!address.safeParse(email).success) return 'email';
    const lines = (cart.lines as RecordValue[]).map((line, place) => {
      const variant = isRecord(line.variant) ? line.variant : null;
      return {
        product: stored.lines[place]?.product ?? '',
        sku: stored.lines[place]?.sku ?? '',
        name: String(isRecord(line.product) ? line.product.name : line.name),
        variant: String(variant?.name ?? ''),
        quantity: line.quantity as number,
        price: (line.price as Money).amount,
        total: (line.total as Money).amount,
        answers: (stored.lines[place]?.answers ?? []).map(({ label, value }) => ({ label, value })),
      };
    });
    const number = carts.order(token, {
      madeAt: at,
      state: state.kind === 'draft' ? `draft ${state.slug}` : `release ${state.number}`,
      locale,
      currency: world.currency,
      email,
      lines,
      total: (cart.total as Money).amount,
    });
    // A render node tells nobody: it has the carts alone.
    if (shop.carts !== shop.sql) return number;
    const isTried = state.kind === 'draft';
    new OrderEvents(shop.sql).add(number, 'made', at, '', isTried);
    if (!isTried) new OrderHolds(shop.sql).hold(number, lines, at);
    return number;
  });
  if (typeof outcome === 'number') return done(`ordered=${outcome}`);
  const cart = { ...(await cartOf(shop, state, { ...ask, query: {} }, token)), message: outcome, email };
  return shown(outcome === 'look' ? 409 : 422, (await pageNow(shop, state, { ...ask, query: {}, cart })).html);
}

/** A cart to look at on the Bench, where nobody shops: three lines of what the catalogue has. */
export function sampleCart(shop: Shop, locale: string): CartState {
  const source = shop.catalogue(locale);
  const names = { locale, all: () => source.names() };
  const chosen = { options: {}, tags: [], brands: [], prices: [], inStock: true };
  const { rows } = source.index(null).list({ filter: {}, chosen, sort: 'chosen', names, offset: 0, limit: 3 });
  const products = source.products(rows.map((row) => row.productId));
  const variants = source.variants(products.map((row) => row.id));
  return {
    lines: products.flatMap((product, at) => {
      const variant = variants.find((one) => one.productId === product.id && one.stock > 0);
      if (!variant) return [];
      const answers = at ? [] : [{ name: 'sample', label: 'A question', value: 'An answer' }];
      const { slug, name } = product;
      return [{ id: at + 1, product: slug, sku: variant.sku, name, price: variant.price, quantity: at + 1, answers }];
    }),
  };
}
