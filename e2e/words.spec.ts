import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openBench, pick, pointAt, settled, shown, test } from './last';

const words = '/theme?view=words';
const row = (page: Page, key: string) => page.locator(`.phrase-table [data-key="${key}"]`);
const field = (page: Page, language: string) => page.getByRole('group', { name: language }).getByRole('textbox');
const find = (page: Page, text: string) => page.getByLabel('Find a phrase').fill(text);

test('a phrase is found, changed in one language, kept over a reload, saved, seen in the shop, and undone', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}${words}`);
  await find(page, 'put in the cart');
  await row(page, 'product.order').click();
  await expect(page.getByRole('region', { name: 'Where it is used' })).toContainText('line');

  // A place that nothing fills cannot be saved, and says why.
  await field(page, 'French').fill('Réserver {nom}');
  await expect(page.locator('.phrase-side')).toContainText('Nothing fills “{nom}” in this phrase');
  await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeDisabled();
  await field(page, 'French').fill('Réserver');
  await page.reload();
  await find(page, 'order');
  await row(page, 'product.order').click();
  await expect(field(page, 'French')).toHaveValue('Réserver');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('The phrase is saved.')).toBeVisible();
  const french = await (await last.visit('/fr/product/deck-oil', { origin: last.draft('spring') })).text();
  expect(french).toContain('Réserver');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(field(page, 'French')).not.toHaveValue('Réserver');
});

test('two who change one phrase: the second is shown what the first made of it, and chooses', async ({
  page,
  context,
  last,
}) => {
  await page.goto(`${last.at}${words}&phrase=cart.empty`);
  await field(page, 'French').fill('Mine');
  const other = await context.newPage();
  await other.goto(`${last.at}${words}&phrase=cart.empty`);
  await expect(field(other, 'French')).toHaveValue('Mine');
  await field(other, 'French').fill('Hers');
  await other.keyboard.press('Control+s');
  await expect(other.getByText('The phrase is saved.')).toBeVisible();
  await page.bringToFront();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('“cart.empty” in fr says “Hers” by now.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('The phrase is saved.')).toBeVisible();
  const { rows } = (await (await last.api.get(`${last.at}/api/drafts/spring/phrases`)).json()) as {
    rows: { key: string; texts: { phrase: unknown }[] }[];
  };
  expect(rows.find(({ key }) => key === 'cart.empty')?.texts[1]?.phrase).toBe('Mine');
});

test('a table for translators goes out, comes back with mistakes, and is written after it was looked at', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}${words}`);
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export CSV' }).click();
  const text = readFileSync(await (await coming).path(), 'utf8');
  expect(text).toMatch(/^\ufeffkey,form,en-GB,fr\r\n/);
  expect(text).toContain('\r\nproduct.in_stock,one,{count} in stock,{count} en stock\r\n');

  await page.getByRole('button', { name: 'Import CSV…' }).click();
  const dialog = page.getByRole('dialog');
  const give = (name: string, content: string | Buffer) =>
    dialog.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(content) });
  await give('photo.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]));
  await expect(dialog.getByRole('alert')).toContainText('This is no table of phrases');
  await give(
    'back.csv',
    'key;form;fr;de\ncart.each;;la pièce : {price};x\ncart.ech;;x;\ncart.email;;Votre courriel {nom};\nproduct.in_stock;few;x;\n',
  );
  await expect(dialog.getByRole('status')).toHaveText('1 text would change, 0 are the same, 4 cells cannot be taken.');
  await expect(dialog.getByRole('list', { name: 'What is wrong' }).getByRole('listitem')).toHaveText([
    /^Line 1, de: The shop has no language “de”/,
    /^Line 3, key: There is no phrase “cart\.ech”; did you mean “cart\.each”\?/,
    /^Line 4, fr: Nothing fills “{nom}”/,
    /^Line 5, fr: This language has no form “few”/,
  ]);
  await give('back.csv', text.replace('{count} en stock', '{count} disponible'));
  await expect(dialog.getByRole('status')).toContainText('1 text would change');
  await dialog.getByRole('button', { name: 'Import 1 text' }).click();
  await expect(page.getByText('1 text imported.')).toBeVisible();
  await find(page, 'disponible');
  await expect(row(page, 'product.in_stock')).toBeVisible();
});

test('a phrase is pointed at on the page, changed there, and the page follows', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil');
  await page.keyboard.press('Control+.');
  const button = shown(page).locator('form button[type=submit]', { hasText: 'Put in the cart' });
  await pointAt(page, button, 'button');
  await pick(page, button);
  await page.getByRole('button', { name: 'Change its words…' }).click();
  await field(page.getByRole('dialog').page(), 'British English').fill('Take it aboard');
  await page.keyboard.press('Control+s');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(shown(page).locator('form button[type=submit]', { hasText: 'Take it aboard' })).toBeVisible();
});

test('the table of phrases by keyboard alone, and as axe sees it, light and dark', async ({ page, last }) => {
  await page.goto(`${last.at}${words}`);
  await expect(page.locator('.phrase-table tbody button').first()).toBeVisible();
  await page.getByLabel('Find a phrase').focus();
  await page.keyboard.type('cart.');
  await row(page, 'cart.change_button').focus();
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 'cart.each')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(field(page, 'British English')).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('{{}price} for one');
  await expect(row(page, 'cart.each').locator('xpath=ancestor::tr')).toContainText('not saved');
  await page.keyboard.press('Escape');
  await expect(row(page, 'cart.each')).toBeFocused();
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    await page.goto(`${last.at}${words}&phrase=product.in_stock`);
    await expect(field(page, 'French').first()).toHaveValue('{count} en stock');
    await settled(page);
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
  }
});
