import { mkdirSync, readFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import type { MakeAlternateRequest } from '@/contract/alternates';

/**
 * Takes the pictures of docs/screenshots from a server that shows the demo, seeded with `--no-work`: `LAST_AT=http://127.0.0.1:4170 npm run
 * shots [name…]`. That of the first screen comes from a server on an empty data folder: `LAST_EMPTY_AT`; those of a team:
 * shots-team.ts.
 */
const at = process.env.LAST_AT ?? 'http://127.0.0.1:4170';
/** What the workbench's own pages send: the token stands in the server's data folder. */
const headers = { Origin: at, 'X-Last-Token': readFileSync(`${process.env.LAST_DATA ?? 'data'}/token`, 'utf8').trim() };
const shopAt = process.env.LAST_SHOP_AT ?? `http://shop.localhost:${Number(new URL(at).port) + 1}`;
const emptyAt = process.env.LAST_EMPTY_AT;
const folder = process.env.SHOTS ?? 'docs/screenshots';
const only = process.argv.slice(2);

const settled = async (page: Page) => {
  // Frames that are put in each other's place may keep the event from coming.
  await page.waitForLoadState('networkidle', { timeout: 4000 }).catch(() => {});
  await page.waitForTimeout(600);
};

/** The Bench on a page, with a file, once both are there. */
const opened = async (page: Page, address: string, file?: string) => {
  await page.goto(`${at}/bench?${new URLSearchParams({ page: address, ...(file ? { file } : {}) })}`);
  await page.locator('.frame-room[aria-busy=false]').waitFor();
  await page.locator('.cm-content').waitFor();
  await page.waitForTimeout(800);
};

/** A supplier's file, as one looks at it before it comes in: new prices, a new cleat, and a slip. */
const supplied = `Artikelgruppe;Bezeichnung;Artikelnummer;Preis;Bestand;Marke;Kategorie;Material;Gewicht
tarred-hemp-rope;;WQ-THR-1;4,45;120;;;;
tarred-hemp-rope;;WQ-THR-2;6,95;80;;;;
deck-oil;Deck oil, light;;;;;;;
ash-cleat;Ash cleat, hand-cut;WQ-ASC-1;9,80;24;Withy Yard;Deck hardware > Cleats;Ash;180 g
oak-cleat;Oak cleat;WQ-OAC-1;n/a;6;Withy Yard;Deck hardware > Cleats;Oak;210 g
`;

/** What customers order for the picture of orders. */
const ordered = [
  ['/product/deck-oil', 'skipper@boat.example'],
  ['/product/bronze-bow-shackle', 'mate@boat.example'],
  ['/product/anchor-lamp', 'harbour@quay.example'],
] as const;

const shots: Record<string, (page: Page) => Promise<void>> = {
  start: async (page) => {
    if (!emptyAt) return;
    await page.goto(`${emptyAt}/start`);
    await page.getByText('My shop, on a whole theme').click();
    await page.getByLabel('What is the shop called?').fill('Tidy House');
  },
  catalogue: async (page) => {
    await page.goto(`${at}/catalogue?record=shock-cord`);
    await page.locator('.frame-room[aria-busy=false]').waitFor();
    await page.getByLabel('Lead time, days').fill('4');
    await page.frameLocator('iframe[data-front=true]').getByText('4 days').first().scrollIntoViewIfNeeded();
    // What uses the part that one is in stands at the foot.
    await page.getByLabel('Summary, British English').focus();
    await page.getByText(/Used by/).waitFor();
  },
  'catalogue-dry-run': async (page) => {
    await page.goto(`${at}/catalogue?view=goods`);
    await page
      .getByLabel('File of goods')
      .setInputFiles({ name: 'supplier.csv', mimeType: 'text/csv', buffer: Buffer.from(supplied) });
    await page.getByRole('button', { name: 'Show what it would change' }).click();
    await page.locator('.dry-run').waitFor();
    await page.getByRole('tab', { name: /^Changed/ }).click();
  },
  words: async (page) => {
    await page.goto(`${at}/theme?view=words`);
    await page.getByLabel('Find a phrase').fill('product.');
    await page.locator('[data-key="product.in_stock"]').click();
    await page.locator('.phrase-uses li').first().waitFor();
    await page.getByRole('group', { name: 'British English' }).getByRole('textbox').last().fill('{count} ready to go');
  },
  bench: async (page) => {
    await page.goto(`${at}/bench?page=/product/tarred-hemp-rope&file=pieces/price.html`);
    await page.locator('.frame-room[aria-busy=false]').waitFor();
    await page.locator('.cm-content').waitFor();
  },
  'bench-dark': async (page) => {
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.goto(`${at}/bench?page=/category/rope-and-cord`);
    await page.locator('.frame-room[aria-busy=false]').waitFor();
    await page.locator('.cm-content').waitFor();
  },
  'bench-pointing': async (page) => {
    await opened(page, '/product/working-smock');
    await page.keyboard.press('Control+.');
    const box = await page.locator('.frame-room').boundingBox();
    if (box) for (const step of [0, 1, 2]) await page.mouse.move(box.x + 380 + step, box.y + 292);
  },
  'bench-reach': async (page) => {
    await opened(page, '/product/working-smock', 'product/default.html');
    await page.getByRole('button', { name: 'Change this for the shop' }).click();
    await page.locator('.cm-line', { hasText: 'class="lead"' }).click();
    await page.getByRole('treeitem', { name: 'product.brand' }).first().waitFor();
    const split = await page.locator('.ant-splitter-vertical > .ant-splitter-bar').first().boundingBox();
    if (!split) return;
    await page.mouse.move(split.x + split.width / 2, split.y + split.height / 2);
    await page.mouse.down();
    await page.mouse.move(split.x + split.width / 2, 330, { steps: 6 });
    await page.mouse.up();
    await page.getByRole('treeitem', { name: 'product.image' }).scrollIntoViewIfNeeded();
    await page.getByRole('treeitem', { name: 'product.price:' }).hover();
  },
  'bench-why': async (page) => {
    await opened(page, '/product/working-smock', 'product/default.html');
    await page.locator('.cm-content').click();
    for (let down = 0; down < 17; down++) await page.keyboard.press('ArrowDown');
    await page.locator('.why-mark', { hasText: 'no' }).first().click();
    await page.locator('.why-card', { hasText: 'of 61' }).waitFor();
  },
  arrange: async (page) => {
    await page.goto(`${at}/bench?page=/category/lamps&file=shelves.json`);
    const shelf = page.getByRole('region', { name: 'Above the products' });
    const put = async (name: string) => {
      await shelf.getByRole('button', { name: 'Add a piece…' }).click();
      await page.getByRole('list', { name: 'Pieces for Above the products' }).getByRole('button', { name }).click();
    };
    await put('Notice');
    await page.getByLabel('Text, en-GB').fill('Last posting day is the 18th');
    await page.getByLabel('First day').fill('2027-12-01');
    await page.getByLabel('Last day').fill('2027-12-18');
    await put('Banner');
    await page.getByLabel('Heading, en-GB').fill('Light for the long evenings');
    await page.getByLabel('Text, en-GB').fill('Oil, candle and battery, from the loft.');
    await page.frameLocator('iframe[data-front=true]').locator('.banner .lead').waitFor();
    await settled(page);
  },
  theme: async (page) => {
    await changes();
    await page.goto(`${at}/theme?file=pieces/price.html`);
    await page.locator('.difference').waitFor();
    await page.getByRole('link', { name: 'pieces/price.html' }).waitFor();
    await page.locator('.file-room').evaluate((one) => (one.scrollTop += 420));
  },
  release: async (page) => {
    const slug = await updated();
    await page.goto(`${at}/release?draft=${slug}`);
    await page.getByRole('button', { name: 'See which pages come out different' }).click();
    await page.getByText(/pages come out different\.$/).waitFor({ timeout: 60_000 });
    await page.locator('.page-progress').waitFor({ state: 'detached', timeout: 60_000 });
    await page.getByRole('tab', { name: 'History' }).click();
    await page.getByRole('button', { name: 'Update to Quay 1.1' }).click();
    await page.locator('.difference').first().waitFor();
    await page.locator('.release-what').evaluate((one) => (one.scrollTop = 180));
  },
  orders: async (page) => {
    for (const [path, email] of ordered) {
      await page.goto(shopAt + path);
      await page.getByRole('button', { name: 'Put in the cart' }).click();
      await page.getByLabel('Where may we write to?').fill(email);
      await page.getByRole('button', { name: 'Order', exact: true }).click();
      await page.getByText(/^Thank you\. Order/).waitFor();
    }
    await page.goto(`${at}/orders`);
    await page.locator('.orders-number').last().click();
    await page.getByRole('button', { name: 'Take it' }).click();
    await page.locator('.order-state', { hasText: 'Taken by' }).waitFor();
    await page.locator('.orders-number').nth(1).click();
    await page.getByRole('button', { name: 'Take it' }).waitFor();
  },
  status: async (page) => {
    for (const path of ['/', '/category/rope-and-cord', '/product/deck-oil', '/listing/search?q=rope'])
      await page.goto(shopAt + path);
    await page.goto(`${at}/people?tab=status`);
    await page.getByRole('row', { name: /^The shop/ }).waitFor();
  },
  alternates: async (page) => {
    await page.goto(`${at}/alternates?show=problems`);
    await page.locator('.map-cell').first().waitFor();
    await page.locator('.assignment-problems').waitFor();
    await page.waitForTimeout(1500);
  },
};

/** What the pictures of assignments show is asked for first. Asked for again, the server refuses; that is fine. */
async function send(method: string, path: string, body: object): Promise<Response> {
  const answer = await fetch(`${at}/api/drafts/spring/${path}`, {
    method,
    headers: { ...headers, 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (answer.status === 400) throw new Error(`${method} ${path}: ${await answer.text()}`);
  return answer;
}
/** What the pictures of an update show: a file that is merged, one that clashes, an amendment that loses its place. */
const changes = async () => {
  const base = (path: string) => readFileSync(`themes/quay-1.0/${path}`, 'utf8');
  const texts = {
    'pieces/price.html': base('pieces/price.html').replace("t('price.ask')", "t('price.now')"),
    'pieces/stock.html': base('pieces/stock.html').replace('variant.stock < 6', 'variant.stock < 3'),
    'pieces/tile.html': '<amend>\n  <after mark="summary"><p class="sku">{product.sku}</p></after>\n</amend>\n',
  };
  for (const [path, text] of Object.entries(texts)) await send('PUT', 'file', { path, text, expected: null });
};
const newBase = async (): Promise<number> => {
  const { readFolder } = await import('@/server/shop/shop');
  const { writeZip } = await import('@/server/drafts/travel');
  const zip = writeZip(readFolder('themes/quay-1.1').map(([path, bytes]) => ({ path, bytes })));
  const answer = await fetch(`${at}/api/versions`, { method: 'POST', headers, body: new Uint8Array(zip) });
  return ((await answer.json()) as { id: number }).id;
};
const updated = async (): Promise<string> => {
  await changes();
  const to = await newBase();
  const { drafts } = (await (await fetch(`${at}/api/drafts`)).json()) as { drafts: { slug: string }[] };
  const before = drafts.find(({ slug }) => slug.endsWith('quay-1-1'));
  if (before) return before.slug;
  return ((await (await send('POST', 'update', { to })).json()) as { slug: string }).slug;
};
const alternate = (name: string, label: string, more: Partial<MakeAlternateRequest> = {}) =>
  send('POST', 'alternates', { kind: 'product', from: 'default', name, label, ...more });
const rule = (id: string, gives: string, when: object, more: object = {}) =>
  send('POST', 'alternates/edit', {
    edit: {
      do: 'put-rule',
      was: null,
      rule: { id, kind: 'product', alternate: gives, when, from: null, to: null, note: '', ...more },
    },
  });
const is = (fact: string, ...value: string[]) => ({ fact, test: 'is', value });
await alternate('cut-length', 'Cut to length', { types: ['rope', 'cord'] });
await alternate('load-rated', 'Load-rated', { as: 'changes', note: 'Puts the breaking load first' });
await alternate('on-request', 'On request, no price', { as: 'changes' });
await alternate('book', 'Book', { piece: 'pieces/tile', types: ['book'] });
await rule('cut', 'cut-length', { all: [is('type', 'rope', 'cord')] });
await rule('rated', 'load-rated', {
  all: [is('tag', 'load-rated', 'mooring'), { fact: 'field', name: 'breaking_load', test: 'at-least', value: 3 }],
});
await rule('lines', 'cut-length', { all: [is('category', 'rope-and-cord')] });
const year = new Date().getUTCFullYear() + 1;
await rule('presents', 'on-request', { all: [is('tag', 'gift')] }, { from: `${year}-12-01`, to: `${year}-12-24` });
await rule('book', 'book', { all: [is('type', 'book')] }, { piece: 'pieces/tile' });
await send('POST', 'alternates/edit', {
  edit: { do: 'pin', kind: 'product', slugs: ['mainsail-cover-made-to-measure', 'deck-oil'], alternate: 'on-request' },
});

mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const [name, take] of Object.entries(shots)) {
  if ((only.length && !only.includes(name)) || (name === 'start' && !emptyAt)) continue;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
  page.on(
    'console',
    (message) =>
      message.type() === 'error' &&
      !/^Blocked script/.test(message.text()) &&
      process.stdout.write(`${name}: ${message.text()}\n`),
  );
  page.on('pageerror', (error) => process.stdout.write(`${name}: ${error.message}\n`));
  await take(page);
  await settled(page);
  await page.screenshot({ path: `${folder}/${name}.png` });
  await page.close();
}
await browser.close();
