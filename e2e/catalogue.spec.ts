import axe from 'axe-core';
import type { Locator, Page } from '@playwright/test';
import { expect, settled, shown, test, type Server } from './last';

const grid = (page: Page): Locator => page.getByRole('grid', { name: 'Products' });
const row = (page: Page, name: string): Locator => grid(page).getByRole('row').filter({ hasText: name });
/** The cell of a product's row in a column, by the column's head. */
async function cell(page: Page, name: string, column: string): Promise<Locator> {
  const heads = await grid(page).getByRole('columnheader').allTextContents();
  return row(page, name)
    .getByRole('gridcell')
    .nth(heads.findIndex((head) => head.startsWith(column)));
}
const status = (page: Page): Locator => page.locator('.goods-status [role=status]');

async function open(page: Page, last: Server, more = ''): Promise<void> {
  await page.goto(`${last.at}/catalogue${more}`);
  await expect(row(page, 'Shock cord')).toBeVisible();
}

async function showColumns(page: Page, ...names: string[]): Promise<void> {
  await page.getByRole('button', { name: 'Columns' }).click();
  for (const name of names) await page.getByRole('checkbox', { name, exact: true }).check();
  await page.keyboard.press('Escape');
  await page.locator('.goods-search input').click();
  for (const name of names) await expect(grid(page).getByRole('columnheader', { name })).toBeVisible();
}

const live = (last: Server, slug: string) => last.visit(`/product/${slug}`).then((answer) => answer.text());

test('find, sort and filter by what is empty; write a cell, see it live, and undo it', async ({ page, last }) => {
  await open(page, last);
  await expect(status(page)).toHaveText('61 of 61 products');
  await page.getByLabel('Find products').fill('cleat');
  await expect(status(page)).toHaveText(/^[2-9] of 61 products$/);
  await page.getByLabel('Find products').fill('');
  await showColumns(page, 'Lead time');
  await grid(page).getByRole('button', { name: 'More of Lead time' }).click();
  await page.getByRole('menuitem', { name: 'Only where it is empty' }).click();
  await expect(page.locator('.goods-chip')).toHaveText('Lead time is empty');
  await expect(status(page)).toHaveText(/^[1-5]?\d of 61 products$/);

  const lead = await cell(page, 'Deck oil', 'Lead time');
  await lead.dblclick();
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(lead).toHaveText('9');
  await expect(status(page)).toContainText('1 product changed, live now');
  const answer = await last.api.post(`${last.at}/api/goods/table`, { data: { columns: ['field:lead_time'] } });
  const { rows } = (await answer.json()) as { rows: { slug: string; cells: Record<string, { text: string }> }[] };
  expect(rows.find(({ slug }) => slug === 'deck-oil')?.cells['field:lead_time']?.text).toBe('9');
  await page.locator('.goods-status').getByRole('button', { name: 'Undo' }).click();
  await expect(lead).toHaveText('empty');

  // A price that is none is reported, and stays in its cell to be corrected.
  const price = await cell(page, 'Deck oil', 'Price');
  await price.dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('cheap');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 cell not saved')).toBeVisible();
  await expect(page.getByText('“cheap” is not a price', { exact: false }).first()).toBeVisible();
  await page.reload();
  await expect(price).toHaveText('cheap');
  await page.getByRole('button', { name: 'Drop what I wrote' }).click();
  await expect(price).toHaveText('16.50');
});

test('by keyboard alone: go, write, go on, paste a block, empty it, undo', async ({ page, last, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: last.at });
  await open(page, last);
  await grid(page).focus();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  for (let at = 0; at < 5; at++) await page.keyboard.press('ArrowDown');
  await expect(row(page, 'Shock cord').locator('[data-here]')).toHaveText('60');
  await page.keyboard.type('61');
  await page.keyboard.press('Tab');
  await expect(await cell(page, 'Shock cord', 'Stock')).toHaveText('61');
  await expect(row(page, 'Shock cord').locator('[data-here]')).toHaveText('Marl & Fid');
  await page.keyboard.press('Escape');

  // A block: two rows of stock, then brand.
  await page.evaluate(() => navigator.clipboard.writeText('7\tWithy Yard\n8\t"Osier Ropewalk"'));
  await page.keyboard.press('ArrowLeft');
  for (let at = 0; at < 2; at++) await page.keyboard.press('ArrowDown');
  await expect(row(page, 'Bronze jam cleat').locator('[data-here]')).toHaveText('11');
  await page.keyboard.press('Control+v');
  await expect(await cell(page, 'Bronze jam cleat', 'Brand')).toHaveText('Withy Yard');
  // The second row has variants that differ: nothing of the block is written.
  await expect(page.getByText('2 cells not saved').or(page.getByText('4 cells not saved'))).toBeVisible();
  await expect(page.getByText('Its variants differ: open the record').first()).toBeVisible();
  await page.getByRole('button', { name: 'Drop what I wrote' }).click();
  await expect(await cell(page, 'Bronze jam cleat', 'Brand')).toHaveText('Blackmere Forge');

  // In the column of brands alone it fits, and one Undo takes all of it back.
  await grid(page).focus();
  await page.evaluate(() => navigator.clipboard.writeText('Withy Yard\nOsier Ropewalk'));
  await page.keyboard.press('ArrowUp');
  await expect(row(page, 'Bronze jam cleat').locator('[data-here]')).toHaveText('Blackmere Forge');
  await page.keyboard.press('Control+v');
  await expect(await cell(page, 'Bronze bow shackle', 'Brand')).toHaveText('Osier Ropewalk');
  await expect(status(page)).toContainText('2 products changed');
  await page.keyboard.press('Delete');
  await expect(await cell(page, 'Bronze bow shackle', 'Brand')).toHaveText('empty');
  await page.keyboard.press('Control+z');
  await expect(await cell(page, 'Bronze bow shackle', 'Brand')).toHaveText('Osier Ropewalk');

  // Out of the table, and into the record.
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /^Bronze/ })).toBeVisible();
  await page.getByLabel('Name, British English').press('Escape');
  await expect(page.locator('.record')).toHaveCount(0);
});

test('of two who write the same cell the second sees what the first wrote; what cannot be sent is kept', async ({
  page,
  last,
}) => {
  await open(page, last);
  await last.api.post(`${last.at}/api/goods/cells`, {
    data: { cells: [{ slug: 'shock-cord', column: 'stock', was: '60', text: '55' }] },
  });
  const stock = await cell(page, 'Shock cord', 'Stock');
  await stock.dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('70');
  await page.keyboard.press('Enter');
  await expect(page.getByText('it is “55” now', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Save again' }).click();
  await expect(status(page)).toContainText('1 product changed');

  await page.route('**/api/goods/cells', (route) => route.abort());
  await stock.dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('71');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 cell not saved')).toBeVisible();
  await page.unroute('**/api/goods/cells');
  await page.reload();
  await expect(stock).toHaveText('71');
  await page.getByRole('button', { name: 'Save again' }).click();
  await expect(page.getByText('1 cell not saved')).toHaveCount(0);
  await page.reload();
  await expect(stock).toHaveText('71');
});

test('many at once, and undone ten changes later', async ({ page, last }) => {
  await open(page, last);
  await page.getByLabel('Find products').fill('cleat');
  await expect(status(page)).toHaveText(/^[2-9] of 61 products$/);
  await page.getByRole('button', { name: 'Change many…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Change many products' });
  await dialog.getByLabel('Column').click();
  await page.keyboard.type('Tags');
  await page.keyboard.press('Enter');
  await dialog.getByRole('radio', { name: 'Add' }).check();
  await dialog.getByLabel('Names, between commas').fill('on offer');
  await dialog.getByRole('button', { name: /^Change \d products$/ }).click();
  await expect(status(page)).toContainText('products changed, live now');
  await expect(await cell(page, 'Oak horn cleat', 'Tags')).toContainText('on offer');
  for (let at = 0; at < 10; at++) {
    const was = at ? String(at) : '60';
    const answer = await last.api.post(`${last.at}/api/goods/cells`, {
      data: { cells: [{ slug: 'shock-cord', column: 'stock', was, text: String(at + 1) }] },
    });
    expect(answer.status()).toBe(200);
  }
  await page.getByRole('button', { name: 'Import, export, history' }).click();
  const change = page.getByRole('listitem').filter({ hasText: 'Tags: add on offer' });
  await change.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undone: \d records? as before/)).toBeVisible();
  await page.getByRole('button', { name: 'Products' }).click();
  await expect(await cell(page, 'Oak horn cleat', 'Tags')).not.toContainText('on offer');
  await expect(await cell(page, 'Shock cord', 'Stock')).toHaveText('10');
});

test('a record follows each change on its page before it is saved; an attribute is added and removed', async ({
  page,
  last,
}) => {
  await open(page, last);
  await row(page, 'Shock cord').getByRole('button', { name: 'Open Shock cord' }).click();
  const record = page.getByRole('region', { name: 'Record of Shock cord' });
  await expect(shown(page).locator('h1')).toHaveText('Shock cord');
  // What uses a field stands under it.
  await record.getByLabel('Lead time, days').focus();
  await expect(record.getByRole('note').filter({ hasText: 'Used by' })).toHaveText(
    'Filled on 10 of 61. Used by pieces/lead-time on the shelf below-price',
  );
  await record.getByLabel('Name of another attribute').fill('Stretch');
  await record.getByRole('button', { name: 'Add', exact: true }).click();
  await record.getByLabel('Stretch', { exact: true }).fill('to twice its length');
  await expect(shown(page).getByText('to twice its length')).toBeVisible();
  expect(await live(last, 'shock-cord')).not.toContain('to twice its length');
  await record.getByRole('button', { name: 'Save' }).click();
  await expect(record.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).toContain('to twice its length');

  await record.getByRole('button', { name: 'Remove Stretch' }).click();
  await expect(shown(page).getByText('to twice its length')).toHaveCount(0);
  await page.keyboard.press('Control+s');
  await expect(record.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).not.toContain('to twice its length');

  // A reload loses nothing, and of two the second is asked.
  await record.getByLabel('Name, British English').fill('Bungee');
  await expect(shown(page).locator('h1')).toHaveText('Bungee');
  await page.reload();
  await expect(page.getByLabel('Name, British English')).toHaveValue('Bungee');
  await expect(shown(page).locator('h1')).toHaveText('Bungee');
  await last.api.post(`${last.at}/api/goods/cells`, {
    data: { cells: [{ slug: 'shock-cord', column: 'name', was: 'Shock cord', text: 'Elastic cord' }] },
  });
  await page.getByLabel('Name, British English').press('Control+s');
  await expect(page.getByText('Someone else changed the same meanwhile')).toBeVisible();
  await page.getByRole('button', { name: 'Save mine' }).click();
  await expect(page.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).toMatch(/<h1[^>]*>Bungee/);
  // A name that cannot be saved is reported, and the page stays as it was.
  await page.getByLabel('Name, British English').fill('');
  await expect(page.locator('.record-page .ant-alert')).toContainText('name of “shock-cord”');
  await page.getByRole('button', { name: 'Drop' }).click();
  await expect(page.getByLabel('Name, British English')).toHaveValue('Bungee');
});

test('pictures are dropped onto the colour that they show, and the gallery follows; they are described and moved', async ({
  page,
  last,
}) => {
  await open(page, last, '?record=shock-cord');
  const record = page.getByRole('region', { name: 'Record of Shock cord' });
  const black = record.getByRole('listitem', { name: 'Pictures of Black' });
  const drawn = (colour: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><rect width="400" height="300" fill="${colour}"/></svg>`,
    );
  await expect(black.locator('.record-thumb')).not.toHaveCount(0);
  const before = await black.locator('.record-thumb').count();
  await black.getByLabel('Add pictures of Black').setInputFiles([
    { name: 'coil.svg', mimeType: 'image/svg+xml', buffer: drawn('#eee') },
    { name: 'end.svg', mimeType: 'image/svg+xml', buffer: drawn('#ddd') },
    { name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') },
  ]);
  await expect(black.locator('.record-thumb')).toHaveCount(before + 2);
  await expect(record.getByText('notes.png:', { exact: false })).toBeVisible();
  await black.getByRole('button', { name: 'shock-cord/end.svg' }).click();
  await record.getByLabel('What the picture shows, in en-GB').fill('The end, whipped');
  await record.getByRole('button', { name: 'Earlier' }).click();
  await expect(black.locator('.record-thumb').nth(before)).toHaveAttribute('aria-label', 'The end, whipped');
  await expect(shown(page).locator('img[alt="The end, whipped"]').first()).toBeAttached();
  expect(await live(last, 'shock-cord')).not.toContain('The end, whipped');
  await page.keyboard.press('Control+s');
  await expect(record.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).toContain('The end, whipped');

  // A film by its shared link: told at once whether the theme has a player for it.
  await record.getByLabel('Shared link of a film').fill('https://films.example/x');
  await expect(record.getByText('the theme knows no player for it', { exact: false })).toBeVisible();
  await record.getByLabel('Shared link of a film').fill('https://player.withyquay.example/braid');
  await expect(record.getByText('A film: the theme has a player for it.')).toBeVisible();
  await record.getByRole('button', { name: 'Add the film' }).click();
  await expect(record.getByRole('button', { name: 'https://player.withyquay.example/braid' })).toBeVisible();
  await page.keyboard.press('Control+s');
  await expect(record.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).toContain('/player/braid');

  await record.getByLabel('It shows').click();
  await page.locator('.ant-select-item-option', { hasText: 'Any colour' }).click();
  await expect(
    record.getByRole('listitem', { name: 'Pictures of Any colour' }).locator('.record-thumb'),
  ).not.toHaveCount(0);
  await record.getByRole('button', { name: 'Remove shock-cord/end.svg' }).click();
  await page.keyboard.press('Control+s');
  await expect(record.getByText('Saved, and live now.')).toBeVisible();
  expect(await live(last, 'shock-cord')).not.toContain('The end, whipped');
});

test('axe is silent on the table, a cell that is edited, and a record, light and dark', async ({ page, last }) => {
  await open(page, last, '?record=shock-cord');
  await expect(page.getByLabel('Lead time, days')).toBeVisible();
  await expect(page.locator('.record-thumb img').first()).toBeVisible();
  const violations = async () => {
    await settled(page);
    await page.evaluate(axe.source);
    return page.evaluate(async () => {
      const { violations: found } = await axe.run({ exclude: ['iframe'] }, { resultTypes: ['violations'] });
      return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 200)}`));
    });
  };
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await expect(page.locator('html')).toHaveAttribute('data-mode', colorScheme);
    await grid(page).focus();
    await page.keyboard.press('Control+Home');
    await page.keyboard.press('F2');
    await expect(page.locator('.goods-input')).toBeFocused();
    expect(await violations()).toEqual([]);
    await page.keyboard.press('Escape');
  }
});
