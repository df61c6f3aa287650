import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Browser, Page } from '@playwright/test';
import { expect, openBench, pick, shown, test } from './last';

/** The words of the shop that a test needs, by language. */
const languages = {
  en: {
    at: '',
    order: 'By the metre',
    colour: 'Tarred brown',
    whipped: 'Whipped',
    put: 'Put in the cart',
    inCart: 'It is in your cart.',
    email: 'Where may we write to?',
    buy: 'Order',
    thanks: /^Thank you\. Order 10\d\d over £11\.40 is with us\.$/,
  },
  fr: {
    at: '/fr',
    order: 'Au mètre',
    colour: 'Brun goudron',
    whipped: 'Surliés',
    put: 'Mettre au panier',
    inCart: 'C’est dans votre panier.',
    email: 'Où pouvons-nous vous écrire ?',
    buy: 'Commander',
    thanks: /^Merci\. La commande 10\d\d de 11,40\s£GB est chez nous\.$/,
  },
} as const;

/** From a category through filters, tile, swatch and tab to an order of rope by the metre, with an answer. */
async function buyRope(page: Page, at: string, words: (typeof languages)[keyof typeof languages]): Promise<void> {
  await page.goto(`${at}${words.at}/category/rope-and-cord`);
  // Filters: a brand, then a colour; the address says so.
  const openFilters = page.locator('.filters-button');
  const filter = async (name: RegExp) => {
    if (await openFilters.isVisible()) await openFilters.click();
    await page.locator('.filter').getByRole('link', { name }).click();
  };
  await filter(/^Osier Ropewalk/);
  await filter(new RegExp(`^${words.colour}`));
  await expect(page).toHaveURL(/brand=osier-ropewalk&colour=tarred-brown/);
  await expect(page.locator('.chosen li')).toHaveCount(3);
  // The tile of that colour leads to the product with it chosen.
  await page.locator('.tile h3 a').first().click();
  await expect(page.locator('.choice strong').first()).toHaveText(words.colour);
  // Another swatch and a size; back to the first colour.
  await page.locator('.swatch').nth(2).click();
  await expect(page).toHaveURL(/variant=WQ-THR-7/);
  await expect(page.locator('.slide img').first()).toHaveAttribute('src', /tarred-hemp-rope-black\.svg/);
  await page.locator('.swatch').first().click();
  await page.getByRole('link', { name: '16 mm' }).click();
  await expect(page.locator('.buy .price strong')).toHaveText(/11[.,]40/);
  // A tab, by the keyboard.
  await page.locator('.tab-radio').first().focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.tab:nth-child(2) .panel')).toBeVisible();
  await expect(page.locator('.tab:nth-child(1) .panel')).toBeHidden();
  // The answer, and the cart.
  await page.getByLabel(words.whipped).check();
  await page.getByRole('button', { name: words.put }).click();
  await expect(page.getByRole('status')).toHaveText(words.inCart);
  await expect(page.locator('.answers dd')).toHaveText([words.whipped]);
  await page.getByLabel(words.email).fill('skipper@boat.example');
  await page.getByRole('button', { name: words.buy, exact: true }).click();
  await expect(page.getByRole('status')).toHaveText(words.thanks);
  await expect(page.locator('.bubble')).toHaveCount(0);
}

async function without(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 1280, height: 800 } });
  return context.newPage();
}

// A server comes up before customers come: on a slow machine what a cold one makes first takes longer than a page may.
test.beforeEach(async ({ last }) => {
  for (const address of ['/category/rope-and-cord', '/product/tarred-hemp-rope'])
    await Promise.all([last.visit(address), last.visit(address)]);
});

for (const [language, words] of Object.entries(languages)) {
  for (const scripts of [true, false]) {
    test(`rope by the metre with an answer, ${scripts ? 'with' : 'without'} scripts, in ${language}`, async ({
      page,
      browser,
      last,
    }) => {
      if (scripts) return buyRope(page, last.shop, words);
      // Without scripts the keyboard alone moves between tabs too: they are radio buttons.
      const plain = await without(browser);
      await buyRope(plain, last.shop, words);
      await plain.context().close();
    });
  }
}

test('on a narrow screen too', async ({ page, last }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await buyRope(page, last.shop, languages.en);
});

test('choosing a variant fetches only what depends on it, keeps what was written, and goes back', async ({
  page,
  last,
}) => {
  await page.goto(`${last.shop}/product/tarred-hemp-rope`);
  await page.evaluate(() => ((window as unknown as { same: boolean }).same = true));
  await page.getByLabel('Spliced eye').check();
  await page.getByLabel('How many metres').fill('7');
  await page.locator('.choices').getByRole('link', { name: 'Natural' }).click();
  await expect(page.locator('.choice strong').first()).toHaveText('Natural');
  expect(await page.evaluate(() => (window as unknown as { same?: boolean }).same)).toBe(true);
  await expect(page.getByLabel('Spliced eye')).toBeChecked();
  await expect(page.getByLabel('How many metres')).toHaveValue('7');
  // Natural is sold out at 12 mm: it stands there and cannot be chosen.
  await expect(page.getByRole('link', { name: '12 mm' })).toHaveCount(0);
  await expect(page.locator('.chip.is-out')).toHaveText(/12 mm/);
  await page.goBack();
  await expect(page.locator('.choice strong').first()).toHaveText('Tarred brown');
});

test('the gallery is swiped by keys, by dragging and by its thumbnails, films among the pictures', async ({
  page,
  last,
}) => {
  await page.goto(`${last.shop}/product/tarred-hemp-rope`);
  const slides = page.locator('ul.slides');
  const at = () => slides.evaluate((list) => Math.round(list.scrollLeft / list.clientWidth));
  await slides.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(at).toBe(1);
  await expect(page.locator('.thumbs a').nth(1)).toHaveAttribute('aria-current', 'true');
  const box = (await slides.boundingBox()) as { x: number; y: number; width: number; height: number };
  await page.mouse.move(box.x + 80, box.y + 200);
  await page.mouse.down();
  await page.mouse.move(box.x + 380, box.y + 200, { steps: 6 });
  await page.mouse.up();
  await expect.poll(at).toBe(0);
  await page.getByRole('link', { name: 'Film, 3 of 3' }).click();
  await expect.poll(at).toBe(2);
  const film = page.frameLocator('.slide iframe');
  await expect(film.getByText('hemp walk')).toBeVisible();
  // It keeps its shape at any width.
  for (const width of [360, 768, 1280]) {
    await page.setViewportSize({ width, height: 800 });
    const shape = await page.locator('.slide .film').evaluate((one) => one.clientWidth / one.clientHeight);
    expect(Math.abs(shape - 16 / 9)).toBeLessThan(0.03);
  }
});

test('Quick find suggests while one writes, and is worked by keyboard', async ({ page, last }) => {
  await page.goto(`${last.shop}/`);
  const find = page.getByRole('combobox');
  await find.pressSequentially('cleat', { delay: 30 });
  const options = page.getByRole('option');
  await expect(options.first()).toContainText('cleat');
  await expect(options.first().locator('img')).toBeVisible();
  await expect(options.first()).toContainText('£');
  await expect(options.first().locator('small')).toHaveText('Cleats');
  await page.keyboard.press('ArrowDown');
  await expect(options.first()).toHaveAttribute('aria-selected', 'true');
  await expect(find).toHaveAttribute('aria-activedescendant', 'quick-1');
  await page.keyboard.press('Escape');
  await expect(options.first()).toBeHidden();
  await page.keyboard.press('ArrowDown');
  await expect(options.first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.locator('h1')).toContainText('cleat');
  await page.getByRole('combobox').pressSequentially('zzzz', { delay: 20 });
  await expect(page.getByText('Nothing found for “zzzz”.')).toBeVisible();
});

test('a cart survives a killed server, and says what changed meanwhile', async ({ page, last }) => {
  await page.goto(`${last.shop}/product/deck-oil`);
  await page.getByLabel('How many').fill('2');
  await page.getByRole('button', { name: 'Put in the cart' }).click();
  await last.kill();
  await last.start();
  await page.goto(`${last.shop}/cart`);
  await expect(page.locator('.cart-sum strong')).toHaveText('£33.00');
  await expect(page.locator('.bubble')).toContainText('2');
  await page.getByLabel(/How many/).fill('3');
  await page.getByRole('button', { name: 'Change' }).click();
  await expect(page.locator('.cart-sum strong')).toHaveText('£49.50');
  await page.getByRole('button', { name: /^Remove/ }).click();
  await expect(
    page.getByText('Your cart is empty again.').or(page.getByText('There is nothing in your cart yet.')),
  ).toBeVisible();
});

test('a question left open comes back with the page, and nothing that was written is lost', async ({
  browser,
  last,
}) => {
  const page = await without(browser);
  await page.goto(`${last.shop}/product/mainsail-cover-made-to-measure`);
  // A browser that does not hold back the form: the server must.
  const answer = await last.visit('/cart', {
    method: 'POST',
    form: {
      do: 'add',
      product: 'mainsail-cover-made-to-measure',
      quantity: '1',
      'answer-initials': 'JW',
      'answer-measures': 'short',
    },
    headers: { origin: last.shop },
  });
  const html = await answer.text();
  expect(answer.status()).toBe(422);
  expect(html).toContain('A little more, please: at least 10 characters.');
  expect(html).toContain('value="JW"');
  expect(html).toContain('>short</textarea>');
  await page.context().close();
});

test('on the Bench one can shop: forms and cookies work in the page, apart from the live shop’s', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/cart');
  await expect(shown(page).locator('.cart-line')).toHaveCount(3);
  await openBench(page, last, '/product/deck-oil');
  // Who was in the source goes into the page with the pointer, and types there.
  await page.locator('.cm-content').click();
  await pick(page, shown(page).getByLabel('How many'));
  await page.keyboard.press('Control+A');
  await page.keyboard.type('2');
  await expect(shown(page).getByLabel('How many')).toHaveValue('2');
  await page.keyboard.press('Enter');
  await expect(shown(page).locator('.cart-line')).toHaveCount(1);
  await expect(page).toHaveURL(/page=%2Fcart/);
  await pick(page, shown(page).getByRole('link', { name: 'Withy Quay' }).first());
  await expect(shown(page).locator('.bubble')).toContainText('2');
  const live = await page.context().newPage();
  await live.goto(`${last.shop}/cart`);
  await expect(live.locator('.cart-line')).toHaveCount(0);
});

test('the Bench shows a page in another language, and what it lacks in it', async ({ page, last }) => {
  await openBench(page, last, '/product/quay-pennant');
  await page.getByLabel('Language of the page').click();
  await page.locator('.ant-select-item-option', { hasText: /^fr$/ }).click();
  await expect(shown(page).locator('html')).toHaveAttribute('lang', 'fr');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  await page.getByText('Not in this language yet').click();
  await expect(page.getByText('product, name: “Quay pennant”')).toBeVisible();
  // To another page in the same language.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('deck oil', { delay: 20 });
  await expect(page.locator('.ant-select-item-option', { hasText: 'Deck oil' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(shown(page).locator('h1')).toHaveText('Huile de pont');
});

const lightPages = ['/product/tarred-hemp-rope', '/product/working-smock', '/category/rope-and-cord'];

test('a product page is light, and paints without waiting for scripts', async ({ page, last }) => {
  for (const address of lightPages) {
    let bytes = 0;
    const count = async (response: { request(): { resourceType(): string }; body(): Promise<Buffer> }) => {
      if (['image', 'media'].includes(response.request().resourceType())) return;
      bytes += (await response.body().catch(() => Buffer.alloc(0))).length;
    };
    page.on('response', count);
    await page.goto(`${last.shop}${address}`);
    await page.waitForLoadState('networkidle');
    page.off('response', count);
    expect([address, bytes < 60_000, bytes]).toEqual([address, true, bytes]);
    const blocking = await page.locator('head script[src]:not([defer]):not([async]):not([type=module])').count();
    expect([address, blocking]).toEqual([address, 0]);
  }
});

test('nothing shifts, however slowly a page arrives', async ({ page, last }) => {
  // What a slow line or processor does now and then, each time: the page comes a little at a time, painted between.
  const slowly = createServer((request, response) => {
    void (async () => {
      const answer = await last.visit(request.url ?? '/');
      const type = answer.headers()['content-type'] ?? '';
      const bytes = await answer.body();
      const kept = type.includes('html') ? 'no-store' : 'max-age=600';
      response.writeHead(answer.status(), { 'content-type': type, 'cache-control': kept });
      if (!type.includes('html')) return response.end(bytes);
      for (let from = 0; from < bytes.length; from += 300) {
        response.write(bytes.subarray(from, from + 300));
        await new Promise((resolve) => setTimeout(resolve, 40));
      }
      response.end();
    })();
  });
  await new Promise<void>((resolve) => slowly.listen(0, '127.0.0.1', resolve));
  const at = `http://127.0.0.1:${(slowly.address() as AddressInfo).port}`;
  for (const width of [1280, 360]) {
    await page.setViewportSize({ width, height: 720 });
    // The styles are known from the page before; without them nothing would be painted until the end.
    await page.goto(`${at}/content/delivery`);
    for (const address of lightPages) {
      await page.goto(`${at}${address}`);
      await page.waitForLoadState('networkidle');
      const [painted, interactive, shifts] = await page.evaluate(
        () =>
          new Promise<[number, number, string[]]>((resolve) => {
            const found: string[] = [];
            type Shift = PerformanceEntry & { value: number; sources: { node: Node | null }[] };
            new PerformanceObserver((list) => {
              for (const entry of list.getEntries() as Shift[])
                found.push(`${entry.value} ${entry.sources.map(({ node }) => node?.textContent?.trim()).join(', ')}`);
            }).observe({ type: 'layout-shift', buffered: true });
            const [paint] = performance.getEntriesByName('first-contentful-paint');
            const [load] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
            setTimeout(() => resolve([paint?.startTime ?? Infinity, load?.domInteractive ?? 0, found]), 400);
          }),
      );
      expect([width, address, shifts]).toEqual([width, address, []]);
      expect([width, address, painted < interactive]).toEqual([width, address, true]);
    }
  }
  slowly.close();
});
