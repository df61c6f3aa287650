import { caretBehind, expect, expectStatus, openBench, pick, save, shown, test } from './last';

test('from a page to a changed page: find, override, print under a condition, vary, pin, publish', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/');

  // See: to the page that is not as it should be, by its name and the keyboard.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('bow shackle', { delay: 20 });
  await expect(page.locator('.ant-select-item-option', { hasText: 'Bronze bow shackle' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(shown(page).locator('h1')).toHaveText('Bronze bow shackle');

  // Find: the trail from the layout to the page's template; from there to a piece.
  const trail = page.getByRole('navigation', { name: 'Trail of templates' });
  await expect(trail.getByRole('button')).toHaveText(['layouts/shop', 'product/default']);
  await page.getByLabel('Open a file').click();
  await page.keyboard.type('pieces/stock');
  await page.keyboard.press('Enter');
  await expect(trail.getByRole('button')).toHaveText(['layouts/shop', 'product/default', 'pieces/stock']);

  // Override, by intent: the base's file cannot be typed into until it is changed for the shop.
  await expect(page.getByText('This file is the base theme’s')).toBeVisible();
  await page.locator('.cm-content').click();
  await page.keyboard.type('xyz');
  await expect(page.locator('.cm-content')).not.toContainText('xyz');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await expectStatus(page, 'The shop gets its own copy with the first save.');
  await caretBehind(page, 'do:otherwise');
  await page.keyboard.press('Enter');
  await page.keyboard.type('<p class="post">Posted the same day.');
  await expectStatus(page, 'Not saved yet.');
  await save(page);
  await expect(shown(page).locator('.post')).toHaveText('Posted the same day.');
  await expect(trail.locator('.layer').last()).toHaveText('shop');

  // Vary: an alternate from the template in use, seen on the page before it is assigned.
  await page.getByLabel('Template in use').click();
  await page.locator('.ant-select-item-option', { hasText: 'New alternate' }).click();
  await page.getByLabel('Label').pressSequentially('Load-rated');
  await expect(page.getByLabel('Name of its file')).toHaveValue('load-rated');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('Trying Load-rated: nobody else sees this.')).toBeVisible();
  await expect(trail.getByRole('button')).toHaveText(['layouts/shop', 'product/load-rated']);

  // Write: a field and the tags, under a condition.
  await caretBehind(page, 'pieces/stock');
  await page.keyboard.press('Enter');
  await page.keyboard.insertText(
    '<p class="load" do:when="product.fields.breaking_load">Breaks at {product.fields.breaking_load | number(1)} kN: <b do:each="tag in product.tags">{tag.name} </b></p>',
  );
  await save(page);
  await expect(shown(page).locator('.load')).toHaveText('Breaks at 24.5 kN: on deck load-rated mooring ');

  // Give it to this one product.
  await page.getByRole('button', { name: 'Pin this page to it' }).click();
  await expect(page.getByText('This page is pinned to Load-rated.')).toBeVisible();
  await expect(shown(page).locator('.load')).toBeVisible();

  // Who has what, and why.
  await page.getByRole('link', { name: 'Alternates' }).click();
  await expect(page.locator('.assignment', { hasText: 'Pin' })).toContainText('Bronze bow shackle');
  await expect(page.locator('.template-cards li', { hasText: 'Load-rated' })).toContainText('1 by pin');
  await page.getByLabel('A page to explain').click();
  await page.keyboard.type('bow shackle');
  await page.locator('.ant-select-item-option', { hasText: 'Bronze bow shackle' }).click();
  await expect(page.locator('.explanation').first()).toContainText('Pin → Load-rated: pinned');

  // Nothing is live yet; then all of it at once.
  const live = (slug: string) => last.visit(`/product/${slug}`).then((answer) => answer.text());
  expect(await live('bronze-bow-shackle')).not.toContain('class="load"');
  await page.getByRole('link', { name: 'Review & publish' }).click();
  await expect(page.getByRole('list', { name: 'Files that differ' }).getByRole('listitem')).toHaveText([
    '+ alternates.jsonadded · Withy Quay',
    '≠ pieces/stock.htmlchanged · Withy Quay',
    '+ product/load-rated.htmladded · Withy Quay',
  ]);
  await expect(page.getByText('product bronze-bow-shackle is pinned to load-rated')).toBeVisible();
  await page.getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText('Release 2 is live')).toBeVisible();

  await page.goto(`${last.shop}/product/bronze-bow-shackle`);
  await expect(page.locator('.load')).toHaveText('Breaks at 24.5 kN: on deck load-rated mooring ');
  await page.goto(`${last.shop}/product/galvanised-d-shackle`);
  await expect(page.locator('h1')).toHaveText('Galvanised D shackle');
  await expect(page.locator('.load')).toHaveCount(0);
});

test('a save keeps the page where it is scrolled to, and a style sheet is changed in the same way', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/listing/all', 'assets/css/shop.css');
  const frame = shown(page);
  await frame.locator('html').evaluate(() => window.scrollTo(0, 700));
  await expect.poll(() => frame.locator('html').evaluate(() => window.scrollY)).toBe(700);
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.insertText('\n.tile h3 a { color: rgb(200, 0, 100); }\n');
  await save(page);
  await expect(shown(page).locator('.tile h3 a').first()).toHaveCSS('color', 'rgb(200, 0, 100)');
  expect(
    await shown(page)
      .locator('html')
      .evaluate(() => window.scrollY),
  ).toBe(700);
});

test('following a link on the page takes the source along, and stays in the draft', async ({ page, last }) => {
  await openBench(page, last, '/category/lamps');
  await pick(page, shown(page).getByRole('link', { name: 'Anchor lamp' }).last());
  await expect(shown(page).locator('h1')).toHaveText('Anchor lamp');
  await expect(page.getByRole('navigation', { name: 'Trail of templates' }).getByRole('button')).toHaveText([
    'layouts/shop',
    'product/default',
  ]);
  expect(new URL(page.url()).searchParams.get('page')).toBe('/product/anchor-lamp');
  await page.goBack();
  await expect(shown(page).locator('h1')).toHaveText('Lamps');
});

test('alternates for a category and a listing, pinned by picking real ones', async ({ page, last }) => {
  await page.goto(`${last.at}/alternates`);
  for (const [kind, label, pick, address] of [
    ['category', 'Quiet', 'Shackles', '/category/shackles'],
    ['listing', 'Presents', 'a good present', '/listing/tag/gift'],
  ] as const) {
    await page.getByRole('button', { name: new RegExp(`^${kind}`) }).click();
    await page.getByRole('button', { name: 'New alternate' }).click();
    await page.getByLabel('Label').fill(label);
    await page.getByRole('button', { name: 'Make it' }).click();
    const card = page.locator('.template-cards li', { hasText: label });
    await expect(card).toContainText('No one uses it.');
    await card.getByRole('button', { name: 'Pin…' }).click();
    const dialog = page.getByRole('dialog', { name: `to “${label}”` });
    await expect(dialog.getByRole('combobox')).toBeFocused();
    await page.keyboard.type(pick.slice(0, 8), { delay: 20 });
    await page.locator('.ant-select-item-option', { hasText: pick }).click();
    await page.keyboard.press('Escape');
    await dialog.getByRole('button', { name: 'Pin it' }).click();
    const pin = page.locator('.assignment', { hasText: 'Pin' });
    await expect(pin).toContainText(new RegExp(pick, 'i'));
    const asked = { view: null, address, try: null, origin: last.at, unsaved: [], shown: null };
    const made = await last.api.post(`${last.at}/api/drafts/spring/view`, { data: asked });
    const report = (await made.json()) as { page: { template: string } };
    expect(report.page.template).toBe(`${kind}/${label.toLowerCase()}`);
    // Back in one step, from what was said of it.
    await page.getByRole('button', { name: 'Undo' }).last().click();
    await expect(card).toContainText('No one uses it.');
  }
});
