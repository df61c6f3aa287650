import type { Page } from '@playwright/test';
import { caretBehind, expect, expectStatus, openBench, pick, pointAt, save, shown, test, writeSource } from './last';

test('parts of the page that scripts fetched are pointed at like any other, and the item of a loop is named', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/category/rope-and-cord');
  await page.keyboard.press('Control+.');
  await pointAt(page, shown(page).locator('.tile h3').nth(2), 'pieces/tile.html');
  await expect(page.locator('.place-what')).toContainText(/item 3 of \d+/);
  await page.keyboard.press('Control+.');
  // Suggestions come by script, from a served piece of the add-on.
  await shown(page).getByRole('combobox').pressSequentially('lamp', { delay: 40 });
  await expect(shown(page).getByRole('option').first()).toBeVisible();
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  await pointAt(page, shown(page).getByRole('option').first(), 'Quick find');
  await pick(page, shown(page).getByRole('option').first());
  await expect(page.locator('.cm-content')).toHaveAttribute('aria-label', /Source of pieces\//);
  await expect(page.locator('.trail .layer').last()).toHaveText('add-on');
});

/**
 * Takes the first suggestion as a reader does: the editor lets Enter break the line while a list is being asked for again
 * and for 75 ms after it came (CodeMirror's `interactionDelay`), so that who types on is not surprised.
 */
async function take(page: Page, label: string) {
  const first = page.locator('.cm-tooltip-autocomplete:not(.cm-tooltip-autocomplete-disabled) li').first();
  await expect(first).toContainText(label);
  await page.waitForTimeout(150);
  await expect(first).toContainText(label);
  await page.keyboard.press('Enter');
}

test('a name out of reach is handed down, and what is suggested at the caret is written', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.locator('.cm-line', { hasText: 'do:otherwise' }).click();
  const out = page.getByRole('region', { name: 'Out of reach' });
  await expect(out).toContainText('product/default has it');
  await out.getByRole('button', { name: 'Hand it down' }).first().click();
  await expect(page.locator('.place-told')).toContainText('“product” is handed down to pieces/stock.html.');
  await expect(page.locator('.cm-content')).toContainText('<takes name="product" type="Product">');
  await expect(page.locator('.cm-content')).toContainText('<amend>');
  await caretBehind(page, '<takes name="product" type="Product"');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('<append at="p:3">', { delay: 40 });
  await page.keyboard.press('Escape');
  await page.keyboard.type('{prod', { delay: 40 });
  await take(page, 'product');
  await page.keyboard.type('.na', { delay: 40 });
  await take(page, 'name');
  await page.keyboard.type('}');
  await expect(page.locator('.cm-content')).toContainText('{product.name}</append>');
  await expect(shown(page).locator('.stock')).toContainText('Deck oil');
  await page.keyboard.press('Control+Shift+S');
  await expect(page.getByText('Not saved either:')).toHaveCount(0);
  await expect(page.locator('.cm-lintRange-error')).toHaveCount(0);
});

test('an input and a piece are renamed everywhere, a text is replaced in every file, a file is formatted', async ({
  page,
  last,
}) => {
  const put = (path: string, text: string) =>
    last.api.put(`${last.at}/api/drafts/spring/file`, { data: { path, text, expected: null } });
  await put('pieces/own.html', '<takes name="note" type="text">\n<div>\n<p class="own">{note}</p>\n</div>\n');
  await put('content/default.html', '<draw name="pieces/own" note="hello"/>\n');
  await openBench(page, last, '/content/delivery', 'pieces/own.html');
  await expect(shown(page).locator('.own')).toHaveText('hello');

  // The input, by its key.
  await page.locator('.cm-line', { hasText: 'takes' }).locator('span', { hasText: 'note' }).click();
  await page.keyboard.press('F2');
  await page.getByLabel('New name').fill('remark');
  await page.keyboard.press('Enter');
  await expect(page.locator('.cm-content')).toContainText('{remark}');
  await expect(page.getByText('Not saved either:')).toContainText('content/default.html');
  await page.getByRole('button', { name: 'Save all' }).click();
  await expect(page.getByText('Not saved either:')).toHaveCount(0);
  await expect(shown(page).locator('.own')).toHaveText('hello');

  // Formatting, and undoing it beyond the save.
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+Shift+L');
  await expect(page.locator('.cm-content')).toContainText(/ {2}<p class="own">/);
  await save(page);
  await page.keyboard.press('Control+z');
  await expect(page.locator('.cm-line', { hasText: '<p class' })).toHaveText('<p class="own">{remark}</p>');

  // Its uses and its definition.
  await page.goto(`${last.at}/bench?page=/content/delivery&file=content/default.html`);
  await page.locator('.cm-line span', { hasText: 'pieces/own' }).click();
  await page.keyboard.press('Shift+F12');
  await expect(page.locator('.uses-thing')).toContainText('The template pieces/own: 1 place');
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill('pieces/ours');
  await page.keyboard.press('Enter');
  await expect(page.locator('.cm-content')).toHaveAttribute('aria-label', 'Source of pieces/ours.html');
  await expect(page.locator('.uses-thing')).toContainText('The template pieces/ours: 1 place');
  await expect(shown(page).locator('.own')).toHaveText('hello');

  // Every file.
  await page.keyboard.press('Control+Shift+F');
  await expect(page.getByLabel('Find in every file')).toBeFocused();
  await page.keyboard.type('hello');
  await expect(page.locator('.uses li')).toHaveCount(1);
  await page.getByLabel('Replace by').fill('good day');
  await page.getByRole('button', { name: 'Replace 1 in the shop’s files' }).click();
  await expect(shown(page).locator('.own')).toHaveText('good day');
  await writeSource(page, '<takes name="remark" type="text">\n<p class="own">{remark}</p>\n');
  await page.keyboard.press('Control+Shift+S');
  await expect(page.getByText('Not saved either:')).toHaveCount(0);
});

test('an alternate renamed on the Bench keeps the pin that was made just before', async ({ page, last }) => {
  const draft = `${last.at}/api/drafts/spring`;
  const made = { kind: 'product', note: '', types: [], as: 'changes' };
  for (const [name, from] of [
    ['rated', 'default'],
    ['above', 'rated'],
  ])
    await last.api.post(`${draft}/alternates`, { data: { ...made, name, label: name, from } });
  await page.goto(`${last.at}/bench?page=/product/deck-oil&try=rated&file=product/above.html`);
  await expect(page.locator('.cm-line', { hasText: 'product/rated' })).toBeVisible();
  await page.getByRole('button', { name: 'Pin this page to it' }).click();
  await expect(page.getByText('This page is pinned to rated.')).toBeVisible();
  await page.locator('.cm-line span', { hasText: 'product/rated' }).click();
  await page.keyboard.press('F2');
  await page.getByLabel('New name').fill('product/strong');
  await page.keyboard.press('Enter');
  await expect(page.locator('.cm-content')).toHaveAttribute('aria-label', 'Source of product/strong.html');
  const read = async (path: string) =>
    ((await (await last.api.get(`${draft}/file?path=${path}`)).json()) as { text: string }).text;
  const { pins, alternates } = JSON.parse(await read('alternates.json')) as Record<
    'pins' | 'alternates',
    { slug: string; alternate: string; name: string }[]
  >;
  expect(pins.map(({ slug, alternate }) => `${slug} ${alternate}`)).toEqual(['deck-oil strong']);
  expect(alternates.map(({ name }) => name)).toEqual(['strong', 'above']);
  expect(await read('product/above.html')).toContain('<amend of="product/strong">');
});

test('what is typed and saved while an earlier save is on its way is saved too', async ({ page, last }) => {
  await last.api.put(`${last.at}/api/drafts/spring/file`, {
    data: { path: 'pieces/own.html', text: '<p class="own">One</p>\n', expected: null },
  });
  await openBench(page, last, '/content/delivery', 'pieces/own.html');
  let asked = 0;
  await page.route('**/api/drafts/spring/file', async (route) => {
    if (route.request().method() === 'PUT' && ++asked === 1) await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  await writeSource(page, '<p class="own">Two</p>\n');
  await page.keyboard.press('Control+s');
  await expectStatus(page, 'Saving…');
  await writeSource(page, '<p class="own">Three</p>\n');
  await save(page);
  expect(asked).toBe(2);
  const answer = await last.api.get(`${last.at}/api/drafts/spring/file?path=pieces/own.html`);
  expect(((await answer.json()) as { text: string }).text).toBe('<p class="own">Three</p>\n');
});

test('who goes to the source before it is there is in it when it comes', async ({ page, last }) => {
  let come = () => {};
  const wanted = new Promise<void>((resolve) => (come = resolve));
  await page.route('**/api/drafts/spring/file?*', async (route) => {
    await wanted;
    await route.continue();
  });
  await page.goto(`${last.at}/bench?page=/product/deck-oil&file=product/default.html`);
  await expect(shown(page).locator('h1')).toBeVisible();
  await expect(page.locator('.cm-content')).toHaveCount(0);
  await page.keyboard.press('F6');
  come();
  await expect(page.locator('.cm-content')).toBeFocused();
});
