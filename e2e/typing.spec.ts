import { caretBehind, expect, goOver, openBench, pick, save, shown, test, writeSource } from './last';

/** What the Bench says while one types is so: of the page, of problems, of what is saved. */

const rope = '/product/tarred-hemp-rope';
const bar = '.bar-problems, .bar-fine';

test('a mistake that was put right leaves nothing on the page', async ({ page, last }) => {
  await openBench(page, last, '/category/rope-and-cord', 'pieces/price.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  const before = await shown(page).locator('main p').count();
  const text = await page.locator('.cm-content').innerText();
  // A paragraph ends where a div begins: its end tag then makes an empty one, on every tile.
  await writeSource(page, '<p class="typed"><div>wrong</div></p>\n');
  await expect(shown(page).getByText('wrong').first()).toBeVisible();
  await writeSource(page, '<p class="typed">right</p>\n');
  await expect(shown(page).locator('.typed').first()).toHaveText('right');
  await expect.poll(() => shown(page).locator('main p:empty').count()).toBe(0);
  await writeSource(page, text);
  await expect.poll(() => shown(page).locator('main p').count()).toBe(before);
});

test('the bar counts what is typed, once; what is saved is no more told to be saved', async ({ page, last }) => {
  for (const name of ['calm', 'quick'])
    await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
      data: { kind: 'product', name, label: name, from: 'default', as: 'changes' },
    });
  await openBench(page, last, rope, 'product/default.html');
  // Nobody gets these yet.
  await expect(page.locator(bar)).toHaveText('● 2 problems');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await caretBehind(page, '<h1');
  await page.keyboard.type('{prodduct.name}');
  await expect(page.locator(bar)).toHaveText('● 3 problems');
  await save(page);
  await expect(page.locator(bar)).toHaveText('● 3 problems');
  for (let at = 0; at < '{prodduct.name}'.length; at++) await page.keyboard.press('Backspace');
  await expect(page.locator(bar)).toHaveText('● 2 problems');
  await save(page);
  await expect(page.locator(bar)).toHaveText('● 2 problems');

  await page.keyboard.press('Control+Enter');
  await page.getByRole('menuitem', { name: 'Put something after it' }).first().click();
  await expect(page.getByText('Save to keep it.')).toBeVisible();
  await save(page);
  await expect(page.getByText('Save to keep it.')).toHaveCount(0);
});

test('a piece that a script of the page fetches is made with what is typed', async ({ page, last }) => {
  await openBench(page, last, rope, 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  // What a script put into the page, in an element that it gave an id, outlives newer pages.
  await goOver(page);
  await shown(page).getByLabel('Find in the shop').pressSequentially('lamp', { delay: 40 });
  const found = shown(page).locator('#quick-found').getByRole('option').first();
  await expect(found).toBeVisible();
  await writeSource(
    page,
    '<takes name="variant" type="Variant" required>\n<p class="stock" data-part="stock">typed {variant.sku}</p>\n',
  );
  await expect(shown(page).locator('.stock')).toHaveText('typed WQ-THR-1');
  await expect(found).toBeAttached();
  await shown(page).getByLabel('Find in the shop').press('Escape');
  await pick(page, shown(page).getByRole('link', { name: 'Black' }));
  await expect(shown(page).locator('.stock')).toHaveText(/^typed WQ-THR-(?!1$)\d+$/);
});

test('a file that the page does not use stands alone; what an amendment puts where nothing shows says why', async ({
  page,
  last,
}) => {
  await openBench(page, last, rope, 'article/default.html');
  const trail = page.getByRole('navigation', { name: 'Trail of templates' });
  await expect(trail.getByRole('button')).toHaveText(['article/default']);
  await expect(trail).toContainText('not on this page');
  await page.goto(`${last.at}/bench?page=${rope}&file=product/default.html`);
  await expect(trail.getByRole('button').first()).toHaveText('layouts/shop');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(page, '<amend>\n  <append mark="members"><p class="own">More</p></append>\n</amend>\n');
  await expect(page.locator('.why-note')).toHaveText(
    /^not here: product\.members is empty \(line \d+ of product\/default\.html in Quay\)$/,
  );
});

test('a mistake in shelves.json is told where it is, as it is typed and after it was saved', async ({ page, last }) => {
  const path = 'shelves.json';
  const opened = await last.api.get(`${last.at}/api/drafts/spring/file?path=${path}`);
  const { text, hash } = (await opened.json()) as { text: string; hash: string };
  const wrong = text.replace('pieces/notice', 'pieces/notise');
  await last.api.put(`${last.at}/api/drafts/spring/file`, { data: { path, text: wrong, expected: hash } });
  await page.goto(`${last.at}/bench?page=${rope}`);
  await page.locator('.bar-problems').click();
  await expect(page.locator('.cm-content')).toHaveAttribute('aria-label', 'Source of shelves.json');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  const list = page.getByRole('region', { name: 'Problems' });
  await expect(list).toContainText(/line 8:.*pieces\/notise/);
  await writeSource(page, text);
  await expect(list).toHaveCount(0);
  await expect(page.locator('.bar-fine')).toHaveText('No problems');
});
