import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openBench, settled, test } from './last';

/** Serious and critical findings of axe (WCAG 2.x A and AA, best practices left aside). */
async function serious(page: Page, besides = '.film iframe', colours = false): Promise<string[]> {
  await settled(page);
  // A film's player is another site's page, and lets no script in.
  const axe = new AxeBuilder({ page }).exclude(besides);
  const { violations } = await (
    colours ? axe.withRules(ofColours) : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'])
  ).analyze();
  return violations
    .filter((one) => one.impact === 'serious' || one.impact === 'critical')
    .map((one) => `${one.id}: ${one.nodes.map((node) => node.target.join(' ')).join(', ')}`);
}

/** What alone can differ where a screen that was gone through is shown in other colours. */
const ofColours = ['color-contrast', 'link-in-text-block'];

/** Nothing serious is found; what is still fading into its colour is looked at again. `scheme` dark: of a screen that was gone through in light before. */
const clean = (page: Page, what: string, besides?: string, scheme = 'light') =>
  expect.poll(() => serious(page, besides, scheme === 'dark'), { message: what }).toEqual([]);

const kinds = [
  '/',
  '/product/mooring-set',
  '/product/working-smock',
  '/category/rope-and-cord?colour=navy&view=list',
  '/article',
  '/article/first-eye-splice',
  '/cart',
  '/product/tarred-hemp-rope',
  '/product/galvanised-d-shackle',
  '/category/rope-and-cord',
  '/category/anchors',
  '/listing/all',
  '/listing/search?q=nothing',
  '/content/delivery',
  '/nothing',
];

for (const language of ['', '/fr']) {
  test(`axe finds nothing serious on one page of each kind${language && ', in French'}`, async ({ page, last }) => {
    // Fifteen pages, each gone through by every rule; in another language what differs is their words.
    test.setTimeout(150_000);
    for (const address of language ? kinds.slice(0, 8) : kinds) {
      await page.goto(`${last.shop}${language}${address}`);
      await clean(page, language + address);
    }
  });
}

test('axe finds nothing serious in a cart', async ({ page, last }) => {
  await page.goto(`${last.shop}/product/working-smock`);
  await page.getByRole('button', { name: 'Put in the cart' }).click();
  await clean(page, 'the cart');
});

test('axe finds nothing serious on Alternates, light and dark', async ({ page, last }) => {
  const made = { kind: 'product', name: 'quiet', label: 'Quiet', from: 'default' };
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, { data: made });
  await last.api.post(`${last.at}/api/drafts/spring/alternates/edit`, {
    data: { edit: { do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'quiet' } },
  });
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    const look = (what: string) => clean(page, `${what}, ${colorScheme}`, undefined, colorScheme);
    await page.goto(`${last.at}/alternates`);
    await expect(page.locator('.map-cell').first()).toBeVisible();
    await expect(page.locator('.assignment', { hasText: 'Deck oil' })).toBeVisible();
    await look('alternates, the map');
    await page.getByText('Table', { exact: true }).click();
    await page.getByRole('table', { name: 'Who gets what' }).getByRole('button', { name: 'Deck oil' }).click();
    await expect(page.locator('.explanation').first()).toContainText('Pin → Quiet');
    await look('alternates, the table and an explanation');
    await page.getByRole('tab', { name: /^Problems/ }).click();
    await look('alternates, problems');
    await page.getByRole('button', { name: 'New rule' }).click();
    await page.getByRole('button', { name: 'Ask something' }).click();
    await expect(page.locator('.rule-matches')).toContainText('Holds for');
    await page.waitForTimeout(400);
    await look('alternates, a rule');
    await page.getByRole('button', { name: 'Close', exact: true }).last().click();
    await page.evaluate(() => localStorage.clear());
  }
});

test('axe finds nothing serious on the screens, light and dark', async ({ page, last }) => {
  const made = { kind: 'product', name: 'quiet', label: 'Quiet', from: 'default' };
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, { data: made });
  await last.api.post(`${last.at}/api/drafts/spring/alternates/edit`, {
    data: { edit: { do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'quiet' } },
  });
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await openBench(page, last, '/product/deck-oil');
    await expect(page.locator('html')).toHaveAttribute('data-mode', colorScheme);
    const other = colorScheme === 'dark' ? 'light' : 'dark';
    await expect(page.getByRole('button', { name: `Change to ${other}` })).toBeVisible();
    await clean(page, `bench ${colorScheme}`, undefined, colorScheme);
    const look = (what: string) => clean(page, `${what}, ${colorScheme}`, undefined, colorScheme);
    await page.goto(`${last.at}/theme?show=own`);
    await expect(page.getByRole('row', { name: /product\/quiet\.html/ })).toBeVisible();
    await look('theme');
    await page.getByRole('link', { name: 'product/quiet.html' }).click();
    await expect(page.locator('.difference')).toBeVisible();
    await look('theme, a file');
    await page.goto(`${last.at}/release`);
    await page.getByRole('button', { name: /alternates\.json/ }).click();
    await expect(page.locator('.difference')).toBeVisible();
    await page.getByRole('tab', { name: 'History' }).click();
    await expect(page.locator('.history-line').first()).toBeVisible();
    await look('release');
    await page.goto(`${last.at}/people`);
    await expect(page.getByText('Nobody has an account yet.')).toBeVisible();
    await look('people');
  }
});

test('a browser finds nothing to report on screens besides the Bench', async ({ page, last }) => {
  const said: string[] = [];
  // A browser without Bluetooth says that it cannot be kept from pages.
  page.on('console', (one) => {
    if (['error', 'warning'].includes(one.type()) && !one.text().includes('bluetooth')) said.push(one.text());
  });
  await page.goto(`${last.at}/theme`);
  await expect(page.getByRole('row', { name: /article\/default\.html/ })).toBeVisible();
  // The small pictures of templates let nothing run, and there is nothing in them that would.
  await page.goto(`${last.at}/alternates?of=product`);
  await expect(page.frameLocator('.template-picture iframe').first().locator('h1')).toBeAttached();
  await page.goto(`${last.at}/catalogue`);
  await expect(page.getByRole('grid')).toContainText('Anchor lamp');
  await page.goto(`${last.at}/release`);
  await expect(page.getByRole('button', { name: 'Publish' })).toBeVisible();
  expect(said).toEqual([]);
});

test('axe finds nothing serious on the Bench at work, light and dark', async ({ page, last }) => {
  test.setTimeout(150_000);
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await openBench(page, last, '/product/shock-cord', 'product/default.html');
    // The page itself is the shop's, and is looked at by itself above.
    const look = (what: string) => clean(page, `${what}, ${colorScheme}`, 'iframe', colorScheme);
    await page.getByRole('tab', { name: 'In reach' }).click();
    await page.getByRole('button', { name: 'Change this for the shop' }).click();
    await page.locator('.cm-line', { hasText: 'class="lead"' }).click();
    await expect(page.getByRole('treeitem', { name: /^product\.price:/ })).toBeVisible();
    await look('in reach');
    await page.locator('.why-mark', { hasText: 'no' }).first().click();
    await expect(page.getByRole('dialog', { name: 'Why' })).toBeVisible();
    await look('why');
    await page.keyboard.press('Escape');
    for (const [tab, seen] of [
      ['Styles', '.style-rule, .empty-note'],
      ['Uses', '.uses'],
      ['Problems', '.drawer'],
    ] as const) {
      await page.getByRole('tab', { name: new RegExp(`^${tab}`) }).click();
      await expect(page.locator(seen).first()).toBeVisible();
      await look(tab);
    }
    await page.getByRole('button', { name: 'Awkward pages' }).click();
    await expect(page.getByText('looked at')).toBeVisible();
    await look('awkward pages');
    await page.getByRole('button', { name: 'Awkward pages' }).click();
    await page.keyboard.press('F1');
    await expect(page.getByRole('dialog', { name: 'The keys' })).toBeVisible();
    await look('keys');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+e');
    await expect(page.getByLabel('Find a command')).toBeFocused();
    await look('commands');
    await page.keyboard.press('Escape');
    await page.goto(`${last.at}/bench?page=/category/lamps&file=shelves.json`);
    const shelf = page.getByRole('region', { name: 'Above the products' });
    await shelf.getByRole('button', { name: 'Add a piece…' }).click();
    await expect(page.getByRole('list', { name: /^Pieces for/ })).toBeVisible();
    await look('pieces');
    await page
      .getByRole('list', { name: /^Pieces for/ })
      .getByRole('button', { name: 'Text beside a picture' })
      .click();
    await expect(page.getByRole('form', { name: 'Text beside a picture' })).toBeVisible();
    await look('arrange');
  }
});

test('the shop holds at 360, 768 and 1280 pixels: nothing runs out of the page', async ({ page, last }) => {
  for (const width of [360, 768, 1280]) {
    await page.setViewportSize({ width, height: 800 });
    const long = ['/product/mainsail-cover-made-to-measure', '/product/polyester-braid'];
    for (const address of [...kinds, ...long].flatMap((one) => [one, `/fr${one}`])) {
      await page.goto(`${last.shop}${address}`);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect([address, width, over]).toEqual([address, width, 0]);
    }
  }
});

test('the shop works without scripts, and makes no request to anywhere else', async ({ browser, last }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  const elsewhere: string[] = [];
  page.on('request', (request) => !request.url().startsWith(last.shop) && elsewhere.push(request.url()));
  page.on(
    'response',
    (response) => response.status() >= 400 && elsewhere.push(`${response.status()} ${response.url()}`),
  );
  await page.goto(`${last.shop}/product/tarred-hemp-rope`);
  await page.locator('.choices').getByRole('link', { name: 'Black' }).click();
  await page.getByRole('link', { name: '16 mm' }).click();
  await expect(page.locator('.choice strong')).toHaveText(['Black', '16 mm']);
  await expect(page.locator('.buy .price strong')).toHaveText('£11.40');
  expect((await last.visit('/product/%E0%A4%A')).status()).toBe(404);
  await page.getByRole('searchbox').fill('lamp');
  await page.keyboard.press('Enter');
  await expect(page.locator('h1')).toHaveText('Found for “lamp”');
  await expect(page.locator('.tile').first()).toContainText(/lamp/i);
  expect(elsewhere).toEqual([]);
  await context.close();
});
