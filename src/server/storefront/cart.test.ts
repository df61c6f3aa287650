import { Decimal } from 'decimal.js';
import { beforeEach, describe, expect, it } from 'vitest';
import { Carts, type OrderBody } from '@/store/carts';
import type { StateRow } from '@/store/themes';
import { cartToken } from './cart';
import { saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { publish } from '@/server/drafts/release';
import type { Shop } from '@/server/shop/shop';
import { serveState, takeForm } from './storefront';
import { demoShop } from '@/server/testing/demo-shop';

let shop: Shop;
let cookie = '';
/** Of the network, where forms come from. */
let from = '192.0.2.1';
const live = (): StateRow => shop.themes.live() as StateRow;
const origin = 'http://127.0.0.1:4170';

beforeEach(() => {
  shop = demoShop();
  cookie = '';
});

async function post(
  form: Record<string, string>,
  path = '/cart',
): Promise<{ status: number; to: string; text: string }> {
  const request = new Request(`${origin}/live${path}`, {
    method: 'POST',
    body: new URLSearchParams(form).toString(),
    headers: { 'content-type': 'application/x-www-form-urlencoded', ...(cookie ? { cookie } : {}) },
  });
  const answer = await takeForm(shop, live(), request, path, from);
  cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie;
  return { status: answer.status, to: answer.headers.get('location') ?? '', text: await answer.text() };
}

async function get(path: string): Promise<string> {
  const request = new Request(`${origin}/live${path}`, { headers: cookie ? { cookie } : {} });
  return (await serveState(shop, live(), request, path.replace(/\?.*/, ''))).text();
}

const rope = { do: 'add', product: 'tarred-hemp-rope', variant: 'WQ-THR-1', quantity: '3', 'answer-ends': 'Whipped' };
const tin = { do: 'add', product: 'deck-oil', variant: 'WQ-DOI', quantity: '2' };
const lines = () => new Carts(shop.sql).lines(cartToken(new Request(origin, { headers: { cookie } })) ?? '');
const seen = (page: string) => /name="seen" value="([^"]*)"/.exec(page)?.[1] ?? '';
const orders = () =>
  shop.sql.all<{ body: string }>('SELECT body FROM outbox').map((row) => JSON.parse(row.body) as OrderBody);
const order = async (email = 'a@b.example', what?: string) =>
  post({ do: 'order', seen: what ?? seen(await get('/cart')), email });
/** Changes the catalogue as whatever changes it does: its revision goes up. */
const change = (sql: string, ...values: unknown[]) => {
  shop.sql.run(sql, ...values);
  shop.sql.run('UPDATE catalogue_state SET revision = revision + 1');
};
const setPrice = (sku: string, price: number) => change('UPDATE variant SET price = ? WHERE sku = ?', price, sku);
const setStock = (sku: string, stock: number) => change('UPDATE variant SET stock = ? WHERE sku = ?', stock, sku);

describe('what is put in', () => {
  it('stands in the cart with its answers; the same again is added to its line, other answers make another', async () => {
    expect((await post(rope)).to).toBe('/cart?did=added');
    await post(rope);
    await post({ ...rope, 'answer-ends': 'Cut' });
    expect(lines().map((line) => [line.quantity, line.answers.map((answer) => answer.value)])).toEqual([
      [6, ['Whipped']],
      [3, ['Cut']],
    ]);
  });
  it('is at most what there is', async () => {
    expect((await post({ ...tin, quantity: '500' })).to).toBe('/cart?did=less');
    expect(lines()[0]?.quantity).toBe(24);
    expect((await post(tin)).to).toBe('/cart?did=less');
    expect(lines()[0]?.quantity).toBe(24);
  });
  const table: [what: string, form: Record<string, string>, status: number, said: RegExp][] = [
    ['sold out', { ...rope, variant: 'WQ-THR-5' }, 303, /did=none-left/],
    ['gone', { ...tin, product: 'gone' }, 404, /Nothing moored here/],
    ['no such variant', { ...tin, variant: 'X' }, 303, /did=none-left/],
    ['no answer where one is required', { do: 'add', product: 'tarred-hemp-rope' }, 422, /Please answer this/],
    ['an answer that is not offered', { ...rope, 'answer-ends': 'Burnt' }, 422, /can no longer be chosen/],
    ['no word what to do', { product: 'deck-oil' }, 400, /does not say what to do/],
  ];
  for (const [what, form, status, said] of table)
    it(`${what} is answered so that one can go on`, async () => {
      const answer = await post(form);
      expect([answer.status, said.test(answer.to + answer.text)]).toEqual([status, true]);
    });
  it('of what is not a quantity says so, and nothing is put in or changed', async () => {
    const wrong = ['many', '', '0', '-3', '1.5', '2,5', '1e3', '0x10', '10000', '99999999999999999999', '٣', 'NaN'];
    const to: string[] = [];
    for (const quantity of wrong) to.push((await post({ ...tin, quantity })).to);
    expect([to, lines()]).toEqual([wrong.map(() => '/cart?did=quantity'), []]);
    expect(await get('/cart?did=quantity')).toContain('write a whole number from 1 to 9,999');
    await post({ ...tin, quantity: ' 2 ' });
    const line = String(lines()[0]?.id);
    for (const quantity of wrong.filter((one) => one !== '0'))
      expect((await post({ do: 'change', line, quantity })).to).toBe('/cart?did=quantity');
    expect(lines().map((one) => one.quantity)).toEqual([2]);
  });
  it('is at most a hundred different things', async () => {
    await post(tin);
    const carts = new Carts(shop.sql);
    const token = cartToken(new Request(origin, { headers: { cookie } })) ?? '';
    for (let at = 0; at < 99; at++)
      carts.add(
        token,
        { product: 'x', sku: String(at), name: '', price: 1, quantity: 1, answers: [], checked: '' },
        '2026-01-01T00:00:00Z',
      );
    expect((await post({ ...tin, quantity: '1' })).to).toBe('/cart?did=full');
    expect(await get('/cart?did=full')).toContain('as many different things as it can');
  });
  it('of a set says which of its members; one that is not offered comes back', async () => {
    const set = { do: 'add', product: 'mooring-set', 'answer-member-tarred-hemp-rope': 'Natural, 8 mm' };
    const choice = { 'answer-member-bronze-bow-shackle': '8 mm', 'answer-member-oak-horn-cleat': '180 mm' };
    expect((await post({ ...set, ...choice })).status).toBe(303);
    expect(lines()[0]?.answers.map(({ label, value }) => `${label}: ${value}`)).toEqual([
      'Tarred hemp rope, three-strand: Natural, 8 mm',
      'Bronze bow shackle: 8 mm',
      'Oak horn cleat: 180 mm',
    ]);
    expect((await post({ ...set, ...choice, 'answer-member-oak-horn-cleat': '999 mm' })).status).toBe(422);
  });
  it('is too long to be a form', async () => {
    expect((await post({ ...tin, note: 'x'.repeat(200_000) })).status).toBe(413);
  });
  it('belongs to whoever put it in', async () => {
    await post(tin);
    const mine = cookie;
    cookie = '';
    expect(await get('/cart')).toContain('There is nothing in your cart yet.');
    await post({ do: 'remove', line: '1' });
    cookie = mine;
    expect(lines()).toHaveLength(1);
  });
});

describe('carts', () => {
  const made = () => shop.sql.get<{ n: number }>('SELECT count(*) AS n FROM cart')?.n;
  it('have tokens that were handed out here: another is not taken up, one whose cart was ordered is', async () => {
    cookie = `last_cart=${'a'.repeat(22)}`;
    await post(tin);
    expect([cookie === `last_cart=${'a'.repeat(22)}`, lines().length]).toEqual([false, 1]);
    const mine = cookie;
    await order();
    await post(tin);
    expect([cookie, made()]).toEqual([mine, 1]);
  });
  it('are made for one address of the network so often in an hour, and then no more; who has one goes on', async () => {
    from = '2001:db8::1';
    await post(tin);
    const mine = cookie;
    const answers: number[] = [];
    for (let at = 0; at < 300; at++) {
      cookie = '';
      from = `2001:db8:0:0:${at.toString(16)}::2`;
      answers.push((await post(tin)).status);
    }
    expect([answers.filter((status) => status === 303).length, answers.at(-1), made()]).toEqual([299, 429, 300]);
    cookie = '';
    const refused = await post(tin);
    expect(refused.text).toContain('We cannot take this just now');
    cookie = mine;
    expect((await post(tin)).status).toBe(303);
    cookie = '';
    from = '192.0.2.77';
    expect((await post(tin)).status).toBe(303);
  });
  it('are forgotten two months after the last change, and by no clock that goes wrong', async () => {
    const carts = new Carts(shop.sql);
    const line = { product: 'deck-oil', sku: 'WQ-DOI', name: '', price: 1, quantity: 1, answers: [], checked: '' };
    const left = () => shop.sql.all<{ token: string }>('SELECT token FROM cart ORDER BY token').map((one) => one.token);
    carts.add('old', line, '2026-01-01T00:00:00.000Z');
    carts.add('new', line, '2026-03-15T00:00:00.000Z');
    expect([carts.forgetOlder(60, new Date('2025-01-01')), left()]).toEqual([0, ['new', 'old']]);
    expect([carts.forgetOlder(60, new Date('2026-03-15T01:00:00Z')), left()]).toEqual([1, ['new']]);
    expect([carts.forgetOlder(60, new Date('2036-01-01')), left()]).toEqual([0, ['new']]);
    expect(shop.sql.get('SELECT count(*) AS n FROM cart_line')).toEqual({ n: 1 });
  });
  it('that cannot be written, for the disk is full, stay as they are; the page says so', async () => {
    await post(tin);
    const db = shop.sql.db;
    const before = lines();
    shop.sql.run('CREATE TABLE filler (text TEXT)');
    db.pragma(`max_page_count = ${db.pragma('page_count', { simple: true }) as number}`);
    try {
      for (;;) shop.sql.run('INSERT INTO filler VALUES (?)', 'x'.repeat(200));
    } catch (error) {
      expect((error as { code: string }).code).toBe('SQLITE_FULL');
    }
    const mine = cookie;
    let answer = await post(rope);
    for (let at = 0; at < 100 && answer.status !== 507; at++) {
      // Some pages have room for a few lines still.
      cookie = '';
      from = `198.51.100.${at}`;
      answer = await post(tin);
    }
    cookie = mine;
    expect([answer.status, answer.text.includes('We cannot take this just now: nothing has changed.')]).toEqual([
      507,
      true,
    ]);
    expect(lines().slice(0, before.length)).toEqual(before);
    expect(await get('/cart')).toContain('Deck oil');
  });
});

describe('what changed meanwhile is said', () => {
  it('a price, up and down; it does not keep anyone from ordering', async () => {
    await post(tin);
    setPrice('WQ-DOI', 1800);
    expect(await get('/cart')).toContain('gone up from £16.50 to £18.00');
    setPrice('WQ-DOI', 1500);
    const page = await get('/cart');
    expect(page).toContain('gone down from £16.50 to £15.00');
    expect(page).toContain('value="order"');
    // Seeing to it is enough: it is not said again.
    await post({ do: 'change', line: String(lines()[0]?.id), quantity: '2' });
    expect(await get('/cart')).not.toContain('gone down');
  });
  it('stock that no longer suffices, and nothing left: neither can be ordered', async () => {
    await post(tin);
    setStock('WQ-DOI', 1);
    expect(await get('/cart')).toContain('You wanted 2; 1 are left.');
    setStock('WQ-DOI', 0);
    const page = await get('/cart');
    expect(page).toContain('Sold out meanwhile');
    expect(page).not.toContain('value="order"');
  });
  it('what is no longer sold, under the name it had', async () => {
    await post(tin);
    change("DELETE FROM product WHERE slug = 'deck-oil'");
    const page = await get('/cart');
    expect(page).toContain('We no longer sell this');
    expect(page).toContain('Deck oil');
  });
  it('a question that is asked again, and one that is asked no longer', async () => {
    await post(rope);
    const draft = draftOf(shop, 'spring');
    const amend = (text: string, before: string | null) =>
      saveFile(shop, draft, 'product/default.html', text, before).hash;
    const once = amend(
      '<amend><append mark="questions"><ask name="tag" type="text" label="Name tag" required></ask></append></amend>',
      null,
    );
    publish(shop, draftOf(shop, 'spring'), { note: '' });
    let page = await get('/cart');
    expect(page).toContain('We need another answer: Name tag');
    expect(page).not.toContain('value="order"');
    amend('<amend><remove mark="questions"></amend>', once);
    publish(shop, draftOf(shop, 'spring'), { note: '' });
    page = await get('/cart');
    expect(page).toContain('“Rope ends” is no longer asked');
    expect(page).toContain('value="order"');
  });
});

describe('two questions of one name', () => {
  it('ask once, and are reported', async () => {
    const draft = draftOf(shop, 'spring');
    saveFile(shop, draft, 'pieces/extra.html', '<ask name="ends" type="text" label="Again"></ask>', null);
    const text = '<amend><append mark="questions"><draw name="pieces/extra"/></append></amend>';
    saveFile(shop, draft, 'product/default.html', text, null);
    const { pageOf } = await import('./page');
    const page = pageOf(shop, draftOf(shop, 'spring'), { path: '/product/tarred-hemp-rope', query: {} });
    expect(page.questions.filter((one) => one.name === 'ends')).toHaveLength(1);
    expect(page.html).not.toContain('Again');
    expect(page.problems.map((one) => one.message)).toEqual([
      expect.stringContaining('Two questions are called “ends”'),
    ]);
  });
});

describe('an order', () => {
  it('is what was seen, in whole minor units (against a decimal library), once', async () => {
    await post({ ...rope, variant: 'WQ-THR-3', quantity: '7' });
    await post({ do: 'add', product: 'floating-line', quantity: '13', 'answer-ends': 'Cut' });
    await post({ ...tin, quantity: '3' });
    const expected = [
      ['11.40', 7],
      ['0.95', 13],
      ['16.50', 3],
    ].reduce((sum, [price, many]) => sum.plus(new Decimal(price as string).times(many as number)), new Decimal(0));
    const page = await get('/cart');
    expect(page).toContain(`<strong>£${expected.toFixed(2)}</strong>`);
    const answer = await order();
    expect(answer.to).toBe('/cart?ordered=1001');
    expect(await get('/cart?ordered=1001')).toContain(`Order 1001 over £${expected.toFixed(2)} is with us.`);
    const [made] = orders();
    expect(new Decimal(made?.total ?? 0).div(100).equals(expected)).toBe(true);
    expect(made?.lines.map(({ sku, quantity, answers }) => [sku, quantity, answers])).toEqual([
      ['WQ-THR-3', 7, [{ label: 'Rope ends', value: 'Whipped' }]],
      ['WQ-FLO-1', 13, [{ label: 'Rope ends', value: 'Cut' }]],
      ['WQ-DOI', 3, []],
    ]);
    // Sent again, it is not made again.
    expect((await order('a@b.example', seen(page))).status).toBe(409);
    expect(orders()).toHaveLength(1);
  });
  it('is refused when something changed since it was seen, and goes through when it was seen again', async () => {
    await post(tin);
    const before = seen(await get('/cart'));
    setPrice('WQ-DOI', 9900);
    const refused = await order('a@b.example', before);
    expect([refused.status, orders().length]).toEqual([409, 0]);
    expect(refused.text).toContain('nothing was ordered');
    expect(refused.text).toContain('£198.00');
    expect((await order()).status).toBe(303);
    expect(orders()[0]?.total).toBe(19800);
  });
  for (const email of ['', 'nobody', 'a@b', '<script>@x'])
    it(`needs an address that can be written to: “${email}” is none, and comes back as it was written`, async () => {
      await post(tin);
      const answer = await order(email);
      expect([answer.status, orders().length, lines().length]).toEqual([422, 0, 1]);
      expect(answer.text).toContain('That is not an e-mail address');
    });
  it('is nobody else’s to see', async () => {
    await post(tin);
    await order();
    cookie = '';
    expect(await get('/cart?ordered=1001')).not.toContain('Order 1001');
  });
  it('in French says and keeps the language', async () => {
    await post({ ...rope, 'answer-ends': 'Surliés' }, '/fr/cart');
    const page = await get('/fr/cart');
    expect(page).toContain('Bouts du cordage');
    const answer = await post({ do: 'order', seen: seen(page), email: 'a@b.example' }, '/fr/cart');
    expect([answer.to, orders()[0]?.locale]).toEqual(['/fr/cart?ordered=1001', 'fr']);
  });
});
