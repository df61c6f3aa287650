import axe from 'axe-core';
import type { Page } from '@playwright/test';
import { choose, expect, settled, shown, test, type Server } from './last';

const record = (page: Page, name: string) => page.getByRole('region', { name: `Record of ${name}` });
const live = (last: Server, path: string) => last.visit(path).then((answer) => answer.text());
const saved = async (page: Page) => expect(page.getByText('Saved, and live now.')).toBeVisible();

async function open(page: Page, last: Server, view: string, more = ''): Promise<void> {
  await page.goto(`${last.at}/catalogue?view=${view}${more}`);
  await expect(page.getByRole('navigation', { name: 'Catalogue' })).toBeVisible();
}

async function make(page: Page, one: string, name: string): Promise<void> {
  await page.getByRole('button', { name: 'New', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: `New ${one}` });
  await dialog.getByLabel(one === 'content page' ? 'Title' : 'Name').fill(name);
  await page.keyboard.press('Enter');
  await expect(dialog).toHaveCount(0);
  await expect(record(page, name)).toBeVisible();
}

test('a category is made, moved by keys and by dragging, and added to a menu', async ({ page, last }) => {
  await open(page, last, 'categories');
  await make(page, 'category', 'Tide tables');
  await expect(shown(page).locator('h1')).toHaveText('Tide tables');
  const tree = page.getByRole('tree', { name: 'Categories' });
  const line = (name: string) => tree.getByRole('treeitem').filter({ hasText: name });
  await expect(line('Tide tables')).toHaveAttribute('aria-level', '1');

  // By keys: into the one before it, then up among those below it.
  await tree.focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Alt+ArrowRight');
  await expect(line('Tide tables')).toHaveAttribute('aria-level', '2');
  const of = Number(await line('Tide tables').getAttribute('aria-setsize'));
  await page.keyboard.press('Alt+ArrowUp');
  await expect(line('Tide tables')).toHaveAttribute('aria-posinset', String(of - 1));
  await page.reload();
  await expect(line('Tide tables')).toHaveAttribute('aria-posinset', String(of - 1));

  // By dragging: below another, and not below itself.
  await line('Tide tables').dragTo(line('Lamps'));
  await expect(line('Tide tables')).toHaveAttribute('aria-level', '3');
  await line('Lamps').dragTo(line('Tide tables'));
  await expect(line('Lamps')).toHaveAttribute('aria-level', '2');
  const answer = await last.api.post(`${last.at}/api/goods/records`, {
    data: {
      changes: [{ kind: 'category', slug: 'lamps', before: { parent: 'goods' }, after: { parent: 'tide-tables' } }],
      title: 'A ring',
    },
  });
  expect([answer.status(), ((await answer.json()) as { message: string }).message]).toEqual([
    422,
    expect.stringContaining('A category cannot stand below itself'),
  ]);

  await page.getByRole('button', { name: /^Menus/ }).click();
  await page.getByRole('button', { name: /^Main/ }).click();
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByRole('combobox', { name: 'Leads to' }).click();
  await page.keyboard.type('Tide tab');
  await page.locator('.ant-select-item-option', { hasText: 'Tide tables' }).click();
  await expect(page.getByLabel('Address')).toHaveValue('/category/tide-tables');
  await expect(page.getByLabel('Text, British English')).toHaveValue('Tide tables');
  // Below the link before it, by keys.
  const links = page.getByRole('tree', { name: 'Links' });
  await links.focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(links.getByRole('treeitem').filter({ hasText: 'Tide tables' })).toHaveAttribute('aria-level', '2');
  await page.keyboard.press('Control+s');
  await saved(page);
  expect(await live(last, '/')).toContain('/category/tide-tables');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(links.getByRole('treeitem').filter({ hasText: 'Tide tables' })).toHaveCount(0);
  expect(await live(last, '/')).not.toContain('/category/tide-tables');
});

test('a content page is written in the editor, kept clean, and used as a tab of a product', async ({ page, last }) => {
  await open(page, last, 'content');
  await make(page, 'content page', 'Splicing shock cord');
  const text = page.getByRole('textbox', { name: 'Text, British English' });
  await text.click();
  await page.keyboard.type('Hog rings, not knots.');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'List', exact: true }).first().click();
  await page.keyboard.type('Cut hot');
  await page.keyboard.press('Control+b');
  await page.keyboard.type(' and quickly');
  await expect(shown(page).locator('li strong')).toHaveText('and quickly');
  await page.keyboard.press('Control+s');
  await saved(page);
  const kept = async () => {
    const answer = await last.api.get(`${last.at}/api/goods/record?kind=content&slug=splicing-shock-cord`);
    return ((await answer.json()) as { record: { body: string } }).record.body;
  };
  // An item is written as pages have it, without a paragraph in it.
  expect(await kept()).toBe('<p>Hog rings, not knots.</p><ul><li>Cut hot<strong> and quickly</strong></li></ul>');

  // As source: what runs is taken out, and what the editor cannot hold keeps it in the source.
  await page.getByRole('button', { name: 'Source of Text, British English' }).click();
  await text.fill('<figure><img src="/x.png" alt="A ring" onerror="x()"></figure><p>Rings<script>x()</script></p>');
  await expect(page.getByText('the editor would drop <figure>', { exact: false })).toBeVisible();
  await page.keyboard.press('Control+s');
  await saved(page);
  expect(await kept()).toBe('<figure><img src="/x.png" alt="A ring" /></figure><p>Rings</p>');

  await open(page, last, 'products', '&record=shock-cord');
  await page.getByLabel('Guides: slugs of content pages, British English').fill('splicing-shock-cord');
  await expect(shown(page).getByText('Splicing shock cord').first()).toBeAttached();
  await page.keyboard.press('Control+s');
  await saved(page);
  expect(await live(last, '/product/shock-cord')).toContain('Splicing shock cord');
});

test('a custom field for films is defined, and filled for three products in the table', async ({ page, last }) => {
  await open(page, last, 'fields');
  await page.getByRole('button', { name: 'New', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'New custom field' });
  await dialog.getByLabel('Name').fill('How to splice it');
  await choose(page, dialog.getByRole('combobox', { name: 'Type' }), 'Link');
  await expect(dialog.getByText('product.fields.how_to_splice_it')).toBeVisible();
  await dialog.getByRole('button', { name: 'Make it' }).click();
  await expect(record(page, 'How to splice it')).toBeVisible();
  await expect(page.getByText('No template, shelf or rule uses it · filled on 0 of 61')).toBeVisible();

  await page.getByRole('button', { name: /^Products/ }).click();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'How to splice it' }).check();
  await page.keyboard.press('Escape');
  const grid = page.getByRole('grid', { name: 'Products' });
  await expect(grid.getByRole('columnheader', { name: 'How to splice it' })).toBeVisible();
  await grid.focus();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('End');
  for (const film of ['one', 'two', 'three']) {
    await page.keyboard.type(`https://films.example/${film}`);
    await page.keyboard.press('Enter');
  }
  await expect(grid.getByText('https://films.example/three')).toBeVisible();
  await expect(page.locator('.goods-status [role=status]')).toContainText('live now');
  await page.getByRole('button', { name: /^Custom fields/ }).click();
  await page.getByRole('button', { name: /^How to splice it/ }).click();
  await expect(page.getByText('filled on 3 of 61', { exact: false })).toBeVisible();
  // Values that do not fit another type are shown before that is saved, and none is lost.
  await choose(page, page.getByRole('combobox', { name: 'Type' }), 'Day');
  await expect(page.getByText('3 values do not fit', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Drop' }).click();
  await expect(page.getByText('3 values do not fit', { exact: false })).toHaveCount(0);
  // It is removed only once nothing has it.
  await page.getByRole('button', { name: 'Remove this custom field' }).click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText('is in use', { exact: false })).toBeVisible();
});

test('axe is silent on lists, a tree and an editor, light and dark', async ({ page, last }) => {
  const violations = async () => {
    await settled(page);
    await page.evaluate(axe.source);
    return page.evaluate(async () => {
      const { violations: found } = await axe.run({ exclude: ['iframe'] }, { resultTypes: ['violations'] });
      return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 200)}`));
    });
  };
  for (const [view, slug, ready] of [
    ['categories', 'lamps', 'Name, British English'],
    ['content', 'delivery', 'Title, British English'],
    ['menus', 'main', 'Name'],
    ['fields', 'product lead_time', 'Unit'],
  ] as const) {
    await open(page, last, view, `&record=${slug}`);
    await expect(page.getByLabel(ready, { exact: true }).first()).toBeVisible();
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme });
      await expect(page.locator('html')).toHaveAttribute('data-mode', colorScheme);
      expect([view, await violations()]).toEqual([view, []]);
    }
  }
});

test('another slug is taken along by a template, a rule, a shelf and a menu, and the earlier address redirects', async ({
  page,
  last,
}) => {
  const draft = `${last.at}/api/drafts/spring`;
  const file = (path: string, text: string) =>
    last.api.put(`${draft}/file`, { data: { path, text, expected: null } }).then((answer) => answer.status());
  expect(await file('pieces/hemp.html', '<a href="/product/tarred-hemp-rope">Hemp</a>\n')).toBe(200);
  const made = { kind: 'product', name: 'special', label: 'Special', from: 'default' };
  expect((await last.api.post(`${draft}/alternates`, { data: made })).status()).toBe(200);
  const rule = { id: 'hemp', kind: 'product', alternate: 'special', from: null, to: null, note: '' };
  const when = { fact: 'slug', test: 'is', value: ['tarred-hemp-rope'] };
  const put = { edit: { do: 'put-rule', was: null, rule: { ...rule, when } } };
  expect((await last.api.post(`${draft}/alternates/edit`, { data: put })).status()).toBe(200);
  const shows = (path: string) => live(last, path).then((html) => html.includes('class="notice"'));
  expect(await shows('/product/tarred-hemp-rope')).toBe(true);

  await open(page, last, 'products', '&record=tarred-hemp-rope');
  const uses = page.getByRole('note').filter({ hasText: 'Named by' });
  for (const one of ['pieces/hemp.html, line 1', 'a rule', 'a shelf', 'the menu Main'])
    await expect(uses).toContainText(one);
  await page.getByLabel('Slug', { exact: true }).fill('tarred-hemp');
  await expect(page.getByText('/product/tarred-hemp-rope redirects to /product/tarred-hemp')).toBeVisible();
  await page.keyboard.press('Control+s');
  await expect(page).toHaveURL(/record=tarred-hemp(?:&|$)/);
  for (const one of ['pieces/hemp.html, line 1', 'a rule', 'a shelf', 'the menu Main'])
    await expect(uses).toContainText(one);
  // The page beside gets its template by the rule, as before.
  await expect(page.getByText('by a rule')).toBeVisible();
  await page.getByRole('button', { name: 'Why' }).click();
  await expect(page.locator('.explanation').first()).toContainText('slug is tarred-hemp');
  await page.keyboard.press('Escape');

  const moved = await last.visit('/product/tarred-hemp-rope?variant=x');
  expect([moved.status(), moved.headers().location]).toEqual([301, '/product/tarred-hemp?variant=x']);
  const french = await last.visit('/fr/product/tarred-hemp-rope');
  expect([french.status(), french.headers().location]).toEqual([301, '/fr/product/tarred-hemp']);
  // What is live names it by its earlier slug until the draft is published: the shelf holds all the same.
  expect(await shows('/product/tarred-hemp')).toBe(true);
  expect(await live(last, '/')).toContain('/product/tarred-hemp"');

  await page.getByRole('button', { name: /^Redirects/ }).click();
  await page.getByRole('button', { name: /^\/product\/tarred-hemp-rope/ }).click();
  await page.getByLabel('To', { exact: true }).fill('/listing/all');
  await page.keyboard.press('Control+s');
  await saved(page);
  const elsewhere = await last.visit('/product/tarred-hemp-rope');
  expect(elsewhere.headers().location).toBe('/listing/all');
});

test('a product is made of nothing: options, variants, its price, and it can be bought', async ({ page, last }) => {
  await open(page, last, 'products');
  await make(page, 'product', 'Hollow fid');
  const fid = record(page, 'Hollow fid');
  await expect(shown(page).locator('h1')).toHaveText('Hollow fid');
  await expect(fid.getByText('It has no variant: it cannot be bought yet.')).toBeVisible();
  await fid.getByLabel('Another option').fill('Size');
  await page.keyboard.press('Enter');
  for (const size of ['Small', 'Large']) {
    await fid.getByLabel('Another value of Size').fill(size);
    await page.keyboard.press('Enter');
  }
  await fid.getByRole('button', { name: 'Make its 2 variants' }).click();
  await fid.getByLabel('Price of Small', { exact: true }).fill('9.50');
  await fid.getByLabel('Stock of Small').fill('4');
  // A value that a variant has stays; one that none has goes.
  await expect(fid.getByRole('button', { name: 'Remove Large', exact: true })).toBeDisabled();
  await fid.getByRole('button', { name: 'Remove the variant Large' }).click();
  await fid.getByRole('button', { name: 'Remove Large', exact: true }).click();
  await page.keyboard.press('Control+s');
  await saved(page);
  await expect(shown(page).getByText('£9.50').first()).toBeVisible();
  expect(await live(last, '/product/hollow-fid')).toContain('£9.50');
  // Removed again, and put back from the history.
  await fid.getByRole('button', { name: 'Remove this product' }).click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(fid).toHaveCount(0);
  expect((await last.visit('/product/hollow-fid')).status()).toBe(404);
  await page.getByRole('button', { name: 'Import, export, history' }).click();
  const change = page.getByRole('listitem').filter({ hasText: 'Remove the product Hollow fid' });
  await change.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undone:/)).toBeVisible();
  expect(await live(last, '/product/hollow-fid')).toContain('£9.50');
});

test('a product is kept out of live: seen in its draft, in no list of customers, and live again', async ({
  page,
  last,
}) => {
  await open(page, last, 'products', '&record=shock-cord');
  const cord = record(page, 'Shock cord');
  await cord.getByRole('switch').click();
  await expect(cord.getByText('Not live yet: seen in drafts only')).toBeVisible();
  await expect(shown(page).locator('h1')).toHaveText('Shock cord');
  await page.keyboard.press('Control+s');
  await expect(cord.getByText('Saved. Customers do not see it yet.')).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'Shock cord' }).getByText('not live yet')).toBeVisible();
  expect((await last.visit('/product/shock-cord')).status()).toBe(404);
  expect((await last.visit('/product/shock-cord', { origin: last.draft('spring') })).status()).toBe(200);
  expect(await live(last, '/category/cord')).not.toContain('/product/shock-cord');
  // A cart takes nothing that customers do not see.
  const put = await last.visit('/cart', { method: 'POST', form: { do: 'add', product: 'shock-cord' } });
  expect(put.status()).toBe(404);
  await cord.getByRole('switch').click();
  await page.keyboard.press('Control+s');
  await saved(page);
  expect(await live(last, '/category/cord')).toContain('/product/shock-cord');
});
