import type { Locator, Page } from '@playwright/test';
import { downTo, expect, shown, test, type Server } from './last';

/** The data that templates need, made and kept by keyboard alone: where one goes is reached by Tab, as it stands. */

const record = (page: Page, name: string) => page.getByRole('region', { name: `Record of ${name}` });
const live = (last: Server, path: string) => last.visit(path).then((answer) => answer.text());
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};

/** Goes on by Tab until a place has the focus; `back`: by Shift Tab. */
async function tabTo(page: Page, place: Locator, { back = false, most = 140 } = {}): Promise<void> {
  await expect(place).toBeVisible();
  for (let at = 0; at < most; at++) {
    if (await place.evaluate((node) => node === document.activeElement)) return;
    await page.keyboard.press(back ? 'Shift+Tab' : 'Tab');
  }
  const at = await page.evaluate(() => document.activeElement?.outerHTML.slice(0, 200));
  throw new Error(`${place.toString()} is not come to by Tab: the focus is at ${at}`);
}

/** Presses a button that is come to by Tab. */
async function push(page: Page, button: Locator, way: { back?: boolean } = {}): Promise<void> {
  await tabTo(page, button, way);
  await page.keyboard.press('Enter');
}

/** Picks from a list: writes where it is searched, else goes down to it. */
async function pick(page: Page, list: Locator, text: string): Promise<void> {
  await tabTo(page, list);
  const active = page.locator('.ant-select-item-option-active');
  if ((await list.getAttribute('readonly')) === null) await page.keyboard.type(text);
  else {
    await page.keyboard.press('ArrowDown');
    await expect(active).toBeVisible();
    if (!(await active.innerText()).includes(text)) await downTo(page, active, text);
  }
  await expect(active.filter({ hasText: text })).toBeVisible();
  await page.keyboard.press('Enter');
}

const saved = async (page: Page) => {
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved, and live now.')).toBeVisible();
};

test('products, by keyboard alone: find, change, describe, show pictures by colour, keep out of live, undo', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}/catalogue`);
  const grid = page.getByRole('grid', { name: 'Products' });
  await tabTo(page, page.getByRole('searchbox', { name: /Find/ }).or(page.getByPlaceholder(/^Find by name/)));
  await page.keyboard.type('smock');
  await expect(grid.getByRole('row')).toHaveCount(2);
  await tabTo(page, grid);
  await press(page, 'ArrowRight', 'ArrowRight', 'ArrowRight');
  await page.keyboard.type('Marl & Fid');
  await press(page, 'Enter');
  await expect(page.locator('.goods-status [role=status]')).toContainText('live now');
  await press(page, 'Control+z');
  await expect(grid).not.toContainText('Marl & Fid');

  // Its record: an attribute, seen on the page beside, and removed again.
  await press(page, 'Control+Enter');
  const smock = record(page, 'Working smock');
  await expect(smock).toBeVisible();
  await expect(shown(page).locator('h1')).toHaveText('Working smock');
  await tabTo(page, smock.getByLabel('Name of another attribute'));
  await page.keyboard.type('Pockets');
  await press(page, 'Enter');
  await tabTo(page, smock.getByLabel('Pockets', { exact: true }), { back: true });
  await page.keyboard.type('Three');
  await expect(shown(page).getByText('Three', { exact: true })).toBeAttached();
  await expect(smock.getByRole('note').filter({ hasText: 'Used by' })).toBeVisible();
  await saved(page);
  expect(await live(last, '/product/working-smock')).toContain('Pockets');
  await push(page, smock.getByRole('button', { name: 'Remove Pockets' }));
  await saved(page);
  expect(await live(last, '/product/working-smock')).not.toContain('Pockets');

  // A picture shows another colour, and goes back with the undo beside it.
  const first = smock.getByRole('list', { name: /^Pictures of|Navy/ }).or(smock.locator('.record-media'));
  await push(page, first.locator('.record-thumb').first(), { back: true });
  await pick(page, smock.getByRole('combobox', { name: 'It shows' }), 'Any');
  await saved(page);
  await push(page, smock.getByRole('button', { name: 'Undo' }), { back: true });
  await expect(smock.getByRole('button', { name: 'Undo' })).toHaveCount(0);

  // Kept out of live, and back.
  await tabTo(page, smock.getByRole('switch'));
  await press(page, 'Space', 'Control+s');
  await expect(page.getByText('Saved. Customers do not see it yet.')).toBeVisible();
  expect((await last.visit('/product/working-smock')).status()).toBe(404);
  await push(page, smock.getByRole('button', { name: 'Undo' }), { back: true });
  await expect.poll(async () => (await last.visit('/product/working-smock')).status()).toBe(200);
});

test('all other kinds, by keyboard alone: a field, a category, a menu, a page, a slug; and a value from the Bench', async ({
  page,
  last,
}) => {
  const view = (name: string) =>
    page.getByRole('navigation', { name: 'Catalogue' }).getByRole('button', { name: new RegExp(`^${name}`) });
  const make = async (one: string, name: string) => {
    await push(page, page.getByRole('button', { name: 'New', exact: true }));
    await expect(page.getByRole('dialog', { name: `New ${one}` })).toBeVisible();
    await page.keyboard.type(name);
    await press(page, 'Enter');
    await expect(record(page, name)).toBeVisible();
  };
  // A custom field of content pages, of choices.
  await page.goto(`${last.at}/catalogue?view=fields`);
  await push(page, page.getByRole('button', { name: 'New', exact: true }));
  const dialog = page.getByRole('dialog', { name: 'New custom field' });
  await expect(dialog).toBeVisible();
  await page.keyboard.type('Audience');
  await pick(page, dialog.getByRole('combobox', { name: 'Of' }), 'content');
  await push(page, dialog.getByRole('button', { name: 'Make it' }));
  const field = record(page, 'Audience');
  await expect(field.getByText('content.fields.audience')).toBeVisible();
  await tabTo(page, field.getByRole('combobox', { name: 'Choices' }));
  for (const choice of ['Riggers', 'Owners']) {
    await page.keyboard.type(choice);
    await press(page, 'Enter');
  }
  await saved(page);

  // A category, moved by keys, and a link to it in a menu.
  await push(page, view('Categories'), { back: true });
  await make('category', 'Tide tables');
  await tabTo(page, page.getByRole('tree', { name: 'Categories' }), { back: true });
  await press(page, 'End', 'Alt+ArrowRight');
  await expect(page.getByRole('treeitem').filter({ hasText: 'Tide tables' })).toHaveAttribute('aria-level', '2');
  await push(page, view('Menus'), { back: true });
  await push(page, page.getByRole('button', { name: /^Main/ }));
  await push(page, page.getByRole('button', { name: 'Add a link' }));
  await pick(page, page.getByRole('combobox', { name: 'Leads to' }), 'Tide tables');
  await expect(page.getByLabel('Address')).toHaveValue('/category/tide-tables');
  await saved(page);
  expect(await live(last, '/')).toContain('/category/tide-tables');

  // A page, written in the editor, with its field; then another slug.
  await push(page, view('Content'), { back: true });
  await make('content page', 'Tide notes');
  await tabTo(page, page.getByRole('textbox', { name: 'Text, British English' }));
  await page.keyboard.type('High at noon.');
  await expect(shown(page).getByText('High at noon.')).toBeVisible();
  const notes = record(page, 'Tide notes');
  await pick(page, notes.getByRole('combobox', { name: 'Audience' }), 'Owners');
  await saved(page);
  await tabTo(page, notes.getByLabel('Slug', { exact: true }));
  await press(page, 'Control+a');
  await page.keyboard.type('tides');
  await press(page, 'Control+s');
  await expect(page).toHaveURL(/record=tides/);
  const moved = await last.visit('/content/tide-notes');
  expect([moved.status(), moved.headers().location]).toEqual([301, '/content/tides']);
  const kept = await last.api.get(`${last.at}/api/goods/record?kind=content&slug=tides`);
  expect(((await kept.json()) as { record: { fields: object } }).record.fields).toEqual({ audience: 'Owners' });

  // The history: the slug goes back.
  await push(page, view('Import'), { back: true });
  const change = page.getByRole('listitem').filter({ hasText: 'tide-notes' }).first();
  await push(page, change.getByRole('button', { name: 'Undo' }));
  await expect(page.getByText(/^Undone:/)).toBeVisible();
  expect((await last.visit('/content/tide-notes')).status()).toBe(200);

  // A value that a page prints, from the Bench.
  await page.goto(`${last.at}/bench?page=/product/shock-cord`);
  await expect(shown(page).locator('h1')).toHaveText('Shock cord');
  await tabTo(page, page.getByLabel('Find in reach'));
  await page.keyboard.type('product.name');
  const row = page.getByRole('treeitem', { name: /^product\.name/ }).first();
  await expect(row).toBeVisible();
  await tabTo(page, row);
  await press(page, 'F2');
  const value = page.getByRole('dialog', { name: 'Name of Shock cord' });
  await tabTo(page, value.getByLabel('Name, British English'));
  await press(page, 'Control+a');
  await page.keyboard.type('Bungee');
  await press(page, 'Enter');
  await expect(value).toHaveCount(0);
  await expect(shown(page).locator('h1')).toHaveText('Bungee');
});
