import type { Page } from '@playwright/test';
import { downTo, expect, openBench, pick, pointAt, save, shown, step, test, type Server } from './last';

/** Lead time is printed after the stock line, for the shop, with its unit; it is hidden where it is empty. */
const withLead = '/product/tarred-hemp-rope';
const withoutLead = 'deck oil';

/** Plants a wrong name in the shop's file, as a hand would. */
const wrong = 'lead_tmie';

const placeBar = (page: Page) => page.locator('.place-what');
const activeItem = (page: Page) => page.locator('.place-menu [role=menuitem][class*=active]');
const source = (page: Page) => page.locator('.cm-content');
const lead = (page: Page) => shown(page).locator('p', { hasText: /^2 days$/ });

async function above(page: Page, upper: string, lower: string): Promise<boolean> {
  const y = async (selector: string) => (await shown(page).locator(selector).first().boundingBox())?.y ?? -1;
  return (await y(upper)) < (await y(lower));
}

/** What the shop's file holds on the server. */
async function savedText(page: Page, last: Server, path: string): Promise<string> {
  const answer = await last.api.get(`${last.at}/api/drafts/spring/file?path=${path}`);
  return ((await answer.json()) as { text: string }).text;
}

test('point, see why, change, see: by mouse', async ({ page, last }) => {
  await openBench(page, last, withLead);

  // Point at the stock line, learn its file.
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  await pointAt(page, shown(page).locator('.stock'), 'pieces/stock.html, line 4');
  await pick(page, shown(page).locator('.stock'));
  await expect(page.getByRole('navigation', { name: 'Trail of templates' }).getByRole('button')).toHaveText([
    'layouts/shop',
    'product/default',
    'pieces/stock',
  ]);
  await expect(page.locator('.cm-activeLine')).toContainText('do:otherwise');

  // Put the lead time after it, for the shop, with its unit. A button that still comes would move the menu.
  await expect(page.getByRole('button', { name: 'Change its words…' })).toBeVisible();
  await page.getByRole('button', { name: 'Change here' }).click();
  await page.getByRole('menuitem', { name: 'Put something after it' }).nth(1).click();
  await expect(page.getByText('Written as an amendment by the mark “stock”: after it.')).toBeVisible();
  await expect(source(page)).toContainText('<after mark="stock">');
  await page.getByRole('tab', { name: 'In reach' }).click();
  await page.getByLabel('Find in reach').fill('lead_time');
  const row = page.getByRole('treeitem', { name: 'product.fields.lead_time: 2' });
  await expect(row).toContainText('2 days');
  await expect(row).toContainText(/empty on \d+ of 61/);
  await row.hover();
  await row.getByRole('button', { name: '…when there' }).click();
  await expect(source(page)).toContainText('<p do:when="product.fields.lead_time">{product.fields.lead_time} days</p>');
  await expect(lead(page)).toBeVisible();
  expect(await above(page, '.stock', 'p:text-is("2 days")')).toBe(true);
  await save(page);

  // See it hidden where it is empty, and learn why.
  await page.keyboard.press('Control+k');
  await page.keyboard.type(withoutLead, { delay: 20 });
  await page.locator('.ant-select-item-option', { hasText: 'Deck oil' }).click();
  await expect(shown(page).locator('h1')).toHaveText('Deck oil');
  await page.getByLabel('Open a file').click();
  await page.locator('.ant-select-item-option', { hasText: 'product/default.html' }).first().click();
  await expect(page.locator('.why-note')).toContainText('not here: product.fields.lead_time is empty');
  await page.locator('.why-mark', { hasText: 'no' }).click();
  const card = page.getByRole('dialog', { name: 'Why' });
  await expect(card).toContainText(
    /product\.fields\.lead_time is empty on this product; it has a value on \d+ of 61 products/,
  );
  await card.getByRole('button', { name: 'Show me a page where this holds' }).click();
  await expect(shown(page).locator('h1')).not.toHaveText('Deck oil');
  await expect(page.locator('.why-mark', { hasText: 'yes' })).toBeVisible();

  // Restyle it: a rule of its own, with a colour of the look.
  await page.goto(`${last.at}/bench?page=${withLead}`);
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  await expect(lead(page)).toBeVisible();
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  // A page hears that it is pointed at a little later than the button is pressed: what is under the pointer is told first.
  await pointAt(page, lead(page), 'product/default.html');
  await pick(page, lead(page));
  await expect(placeBar(page)).toContainText('product/default.html');
  await page.getByRole('button', { name: 'Styles' }).click();
  await page.getByRole('button', { name: 'New rule for it' }).click();
  await page.getByLabel('Selector').click();
  await page.locator('.ant-select-item-option', { hasText: '.buy p' }).click();
  await page.getByLabel('Property', { exact: true }).fill('color');
  await page.getByLabel('Value', { exact: true }).fill('var(--offer)');
  await page.getByRole('button', { name: 'Set' }).click();
  await expect(lead(page)).toHaveCSS('color', 'rgb(156, 47, 27)');
  await expect(page.getByText('Not saved either:')).toContainText('assets/css/own.css');
  // A value in place, by writing another.
  await page.getByRole('button', { name: 'color: var(--offer)' }).click();
  await page.getByLabel('Value of color').fill('#00695c');
  await page.keyboard.press('Enter');
  await expect(lead(page)).toHaveCSS('color', 'rgb(0, 105, 92)');
  await page.getByRole('button', { name: 'Save all' }).click();
  await expect(page.getByText('Not saved either:')).toHaveCount(0);
  expect(await savedText(page, last, 'assets/css/own.css')).toContain('.buy p {\n  color: #00695c;\n}');

  // Move it above the price.
  await page.getByRole('button', { name: 'Change here' }).click();
  await page.getByRole('menuitem', { name: 'Move it elsewhere…' }).first().click();
  await expect(page.getByText('Point at the new place for')).toBeVisible();
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  await pointAt(page, shown(page).locator('.price').first(), ': <p> price');
  await pick(page, shown(page).locator('.price').first());
  await page.getByRole('button', { name: 'Before it' }).click();
  await expect(source(page)).toContainText('<before mark="price">');
  await expect(lead(page)).toBeVisible();
  await expect.poll(() => above(page, 'p:text-is("2 days")', '.price')).toBe(true);
  await save(page);
  expect(await savedText(page, last, 'product/default.html')).not.toContain('after mark');

  // Fix a planted wrong name by its offered fix.
  await source(page).click();
  const text = await savedText(page, last, 'product/default.html');
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(text.replace('{product.fields.lead_time}', `{product.fields.${wrong}}`));
  await page.locator('.cm-lintRange-error').first().hover();
  await page.getByRole('button', { name: 'Write “lead_time”' }).click();
  await expect(source(page)).not.toContainText(wrong);
  await expect(lead(page)).toBeVisible();
  await save(page);
});

test('point, see why, change, see: by keyboard alone', async ({ page, last }) => {
  await openBench(page, last, withLead);
  const command = async (words: string) => {
    await page.keyboard.press('Control+e');
    await expect(page.getByLabel('Find a command')).toBeFocused();
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Find a command')).toHaveCount(0);
  };
  /** Walks the page with the arrow keys until this is pointed at. */
  const walkTo = async (wanted: RegExp) => {
    await page.keyboard.press('Control+.');
    await expect(page.getByRole('button', { name: 'Point', exact: true })).toHaveAttribute('aria-pressed', 'true');
    await walk(wanted);
  };
  const walk = async (wanted: RegExp) => {
    const words = () => page.evaluate(() => document.querySelector<HTMLElement>('.place-what')?.innerText ?? '');
    for (let steps = 0; steps < 90; steps++) {
      const at = await step(page, 'ArrowDown', words);
      if (wanted.test(at)) return;
      // Into what holds the rest of the page.
      if ((/<article>/.test(at) || /buy/.test(at)) && wanted.test(await step(page, 'ArrowRight', words))) return;
    }
    throw new Error(`Walked past ${String(wanted)}`);
  };

  // Point at the stock line, learn its file.
  await walkTo(/pieces\/stock\.html, line 4/);
  await page.keyboard.press('Enter');
  await expect(page.locator('.cm-activeLine')).toContainText('do:otherwise');

  // Put the lead time after it: the second group of the menu is the piece's draw, in the product's template.
  await expect(page.getByRole('button', { name: 'Change its words…' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('menuitem', { name: 'Put something after it' }).first()).toBeVisible();
  await expect(page.locator('.place-menu [role=menu]')).toBeFocused();
  await downTo(page, activeItem(page), 'Put something after it', 1);
  await page.keyboard.press('Enter');
  await expect(source(page)).toContainText('<after mark="stock">');
  await expect(source(page)).toBeFocused();
  await command('In reach');
  await expect(page.getByLabel('Find in reach')).toBeFocused();
  await page.keyboard.type('lead_time');
  await expect(page.getByRole('treeitem', { name: 'product.fields.lead_time: 2' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+Enter');
  await expect(lead(page)).toBeVisible();
  await save(page);

  // See it hidden where it is empty, and learn why.
  await page.keyboard.press('Control+k');
  await page.keyboard.type(withoutLead, { delay: 20 });
  await expect(page.locator('.ant-select-item-option', { hasText: 'Deck oil' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(shown(page).locator('h1')).toHaveText('Deck oil');
  await page.keyboard.press('Control+p');
  await page.keyboard.type('product/default');
  await expect(page.locator('.ant-select-item-option-active', { hasText: 'product/default.html' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.locator('.why-note')).toContainText('not here: product.fields.lead_time is empty');
  await page.keyboard.press('F6');
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Control+Shift+Y');
  await expect(page.getByRole('dialog', { name: 'Why' })).toContainText(/it has a value on \d+ of 61 products/);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'Show me a page where this holds' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('.why-mark', { hasText: 'yes' })).toBeVisible();

  // Restyle it.
  await page.goto(`${last.at}/bench?page=${withLead}&file=product/default.html`);
  await expect(lead(page)).toBeVisible();
  await page.keyboard.press('F6');
  await expect(source(page)).toBeFocused();
  await page.keyboard.press('Control+Home');
  for (let down = 0; down < 2; down++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowLeft');
  await expect(placeBar(page)).toContainText('<p>');
  await command('Styles');
  await expect(page.getByRole('button', { name: 'New rule for it' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Property', { exact: true })).toBeFocused();
  await page.keyboard.type('font-weight');
  await page.keyboard.press('Tab');
  await page.keyboard.type('700');
  await page.keyboard.press('Enter');
  await expect(lead(page)).toHaveCSS('font-weight', '700');
  await page.keyboard.press('Control+Shift+S');
  await expect(page.getByText('Not saved either:')).toHaveCount(0);

  // Move it above the price.
  await page.keyboard.press('F6');
  await page.keyboard.press('Control+Enter');
  const moving = page.getByRole('menuitem', { name: 'Move it elsewhere…' }).first();
  await expect(moving).toBeVisible();
  await expect(page.locator('.place-menu [role=menu]')).toBeFocused();
  await downTo(page, activeItem(page), 'Move it elsewhere…');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Point at the new place for')).toBeVisible();
  await walk(/: <p> price/);
  // A page that is loaded again meanwhile is pointed at where the one before was.
  await shown(page)
    .locator('html')
    .evaluate(() => setTimeout(() => location.reload()));
  await expect(shown(page).locator('html[data-last-pointing]')).toHaveCount(0);
  await expect(shown(page).locator('html[data-last-pointing]')).toHaveCount(1);
  await expect(placeBar(page)).toContainText(/: <p> price/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Before it' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(source(page)).toContainText('<before mark="price">');
  await expect.poll(() => above(page, 'p:text-is("2 days")', '.price')).toBe(true);
  await save(page);

  // Fix a planted wrong name by its offered fix.
  await expect(source(page)).toBeFocused();
  const text = await savedText(page, last, 'product/default.html');
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(text.replace('{product.fields.lead_time}', `{product.fields.${wrong}}`));
  await expect(page.locator('.cm-lintRange-error').first()).toBeVisible();
  await page.keyboard.press('F8');
  await expect(page.getByRole('button', { name: 'Write “lead_time”' })).toBeVisible();
  await page.keyboard.press('Alt+Enter');
  await expect(source(page)).not.toContainText(wrong);
  await expect(lead(page)).toBeVisible();
  await save(page);
});

test('pointing goes on while a newer page is on its way, by keys and by mouse', async ({ page, last }) => {
  await openBench(page, last, withLead, 'words/en.json');
  let asked = 0;
  // Longer than it takes to point, and less than until a page is shown as far as it came.
  await page.route(
    (url) => url.pathname.endsWith(withLead) && url.hostname.startsWith('spring.'),
    async (route) => {
      asked++;
      await new Promise((resolve) => setTimeout(resolve, 2500));
      await route.continue();
    },
  );
  /** A save has the page loaded again. */
  const reload = async () => {
    const before = asked;
    await source(page).click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('\n');
    await page.keyboard.press('Control+s');
    await expect.poll(() => asked).toBeGreaterThan(before);
  };
  const arrived = () => expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');

  // Who walks through it by keys walks on in the newer one.
  await reload();
  await page.keyboard.press('Control+.');
  const goDown = (to: string) =>
    expect(async () => {
      await page.keyboard.press('ArrowDown');
      await expect(placeBar(page)).toContainText(to, { timeout: 500 });
    }).toPass();
  await goDown('line');
  await arrived();
  await goDown('<article>');

  // A click into the page that is still shown counts.
  await reload();
  await pointAt(page, shown(page).locator('.stock'), 'pieces/stock.html, line 4');
  await pick(page, shown(page).locator('.stock'));
  await expect(source(page)).toHaveAttribute('aria-label', 'Source of pieces/stock.html');
  await arrived();
});
