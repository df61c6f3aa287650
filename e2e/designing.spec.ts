import sharp from 'sharp';
import type { Locator, Page } from '@playwright/test';
import { changedBase, expect, openBench, type Server, shown, test } from './last';

const region = 'Above the products';

/** Goes from field to field by Tab until it is on what is wanted. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  await expect(target).toBeVisible();
  for (let presses = 0; presses < 200; presses++) {
    if (await target.evaluate((one) => one === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not come to ${String(target)}`);
}

const live = async (last: Server, path: string, draft = 'spring') =>
  (await last.visit(path, { origin: last.draft(draft) })).text();

test('a category’s page with columns, bound text and products is changed later, and outlives an update of the base', async ({
  page,
  last,
}) => {
  test.setTimeout(150_000);
  await openBench(page, last, '/category/lamps');
  await page.getByRole('button', { name: 'Arrange' }).click();
  const add = async (where: string, name: RegExp) => {
    const shelf = page.getByRole('region', { name: where, exact: true });
    await shelf.getByRole('button', { name: 'Add a piece…' }).last().click();
    await page
      .getByRole('list', { name: `Pieces for ${where}` })
      .getByRole('button', { name })
      .click();
  };
  await add('Below the products', /^Columns/);
  await add('Columns: First column', /^Text beside/);
  const beside = page.getByRole('form', { name: 'Text beside a picture' });
  await beside.getByRole('combobox', { name: 'Text: from a field' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'summary' }).first().click();
  await expect(beside).toContainText('From the field category.summary');
  // A picture from a file, and of that the right half.
  const disc = (left: number, colour: string) => `<circle cx="${left}" cy="250" r="150" fill="${colour}"/>`;
  const drawn = Buffer.from(`<svg width="1000" height="500">${disc(250, '#c33')}${disc(750, '#36c')}</svg>`);
  const buffer = await sharp(drawn).flatten({ background: '#fff' }).jpeg().toBuffer();
  await beside.getByLabel('Picture: from a file').setInputFiles({ name: 'two.jpg', mimeType: 'image/jpeg', buffer });
  const shownPicture = shown(page).locator('.columns .beside img');
  await expect(shownPicture).toHaveAttribute('src', /arranged\/two\.jpg/);
  await beside.getByRole('button', { name: 'Show a part of it…' }).click();
  // The frame has the shape that the piece shows, four by three: made smaller by a corner, then moved to the right.
  await beside.getByRole('button', { name: /^Its corner at the top left/ }).focus();
  await page.keyboard.press('Control+ArrowRight');
  await beside.getByLabel(/^The part that is shown/).focus();
  for (let steps = 0; steps < 2; steps++) await page.keyboard.press('Control+ArrowRight');
  await expect(shownPicture).toHaveAttribute('src', /part=\d/);
  await beside.getByRole('button', { name: 'Done' }).click();
  // No picture at all is refused, and what is there stays.
  await beside
    .getByLabel('Picture: from a file')
    .setInputFiles({ name: 'letter.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('Dear quay') });
  await expect(beside.getByText(/letter\.jpg: /)).toBeVisible();
  await expect(shownPicture).toHaveAttribute('src', /arranged\/two\.jpg/);

  await add('Columns: Second column', /^Row of products/);
  const row = page.getByRole('form', { name: 'Row of products' });
  await row.getByLabel('Heading, en-GB').fill('For long evenings');
  await row.getByLabel('Tag, en-GB').fill('safety');
  await expect(shown(page).locator('.columns .tile').first()).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  const made = await live(last, '/category/lamps');
  expect(made).toMatch(/class="columns" style="--columns: 2; --gap: 32px"/);
  expect(made).toContain('For long evenings');
  expect(await live(last, '/category/finishes')).not.toContain('class="columns"');
  const [, across = 0, down = 1] = (/part=[\d.]+,[\d.]+,([\d.]+),([\d.]+)/.exec(made) ?? []).map(Number);
  expect((across * 1000) / (down * 500)).toBeCloseTo(520 / 390, 1);
  const part = /two\.jpg\?[^"\s]*part=[^"\s]*/.exec(made)?.[0].replaceAll('&amp;', '&') ?? '';
  const picture = await last.visit(`/media/arranged/${part}`, { origin: last.draft('spring') });
  // The right half of what was drawn, though not a trace of the left.
  const { channels } = await sharp(await picture.body()).stats();
  const [red, , blue] = channels.map(({ mean }) => mean) as [number, number, number];
  expect(blue - red).toBeGreaterThan(40);

  // Later: from the list of pages that differ, heading and gap in one place.
  await page.goto(`${last.at}/alternates?of=category`);
  const arranged = page.getByRole('list', { name: 'Pages with pieces of their own' });
  await arranged.getByRole('link', { name: 'Lamps' }).click();
  const columns = page.getByRole('region', { name: 'Below the products' });
  await columns.getByRole('button', { name: /^Columns/ }).click();
  const gap = page.getByRole('form', { name: 'Columns' }).getByLabel('Room between them', { exact: true });
  await gap.fill('60');
  await gap.press('Tab');
  await columns.getByRole('button', { name: /^Row of products/ }).click();
  await row.getByLabel('Heading, en-GB').fill('For longer evenings');
  await expect(shown(page).locator('.columns')).toHaveAttribute('style', '--columns: 2; --gap: 60px');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  expect(await live(last, '/category/lamps')).toMatch(/--gap: 60px[\s\S]*For longer evenings/);

  // A base that moves and changes what it places itself, and offers more: the shop's own stays.
  const before = await live(last, '/');
  const changed = changedBase('1.2', {
    'shelves.json': (text) => text.replace('"sort": "newest", "limit": 4', '"sort": "newest", "limit": 7'),
  });
  await page.goto(`${last.at}/theme`);
  await page.getByLabel('Version of a base or add-on').setInputFiles(changed);
  const dialog = page.getByRole('dialog', { name: 'Quay 1.2 in the place of 1.0' });
  await dialog.getByRole('button', { name: 'Make a draft with it' }).click();
  await expect(page.locator('.bar-draft')).toContainText('Quay 1.2');
  const draft = await page.evaluate(() => new URLSearchParams(location.search).get('draft') ?? '');
  const tiles = (html: string) => html.split('class="tile"').length;
  const after = await live(last, '/', draft);
  expect(tiles(after) - tiles(before)).toBe(3);
  expect(after).toContain('Everything between the mast and the mud');
  expect(await live(last, '/category/lamps', draft)).toMatch(/--gap: 60px[\s\S]*For longer evenings/);
});

test('by keyboard alone: banner, bound text, products and a notice for every December, translated', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}/bench?page=/category/lamps`);
  await expect(shown(page).locator('h1')).toHaveText('Lamps');
  await page.keyboard.press('Control+Shift+E');
  await expect(page.getByRole('heading', { name: 'Lamps', level: 2 })).toBeFocused();
  const where = 'Between categories and products';
  const shelf = page.getByRole('region', { name: where, exact: true });
  const press = async (target: Locator, ...keys: string[]) => {
    await tabTo(page, target);
    for (const key of keys) await page.keyboard.press(key);
  };
  const type = async (target: Locator, text: string) => {
    await press(target, 'Control+A');
    await page.keyboard.type(text);
  };
  const put = async (name: RegExp) => {
    await press(shelf.getByRole('button', { name: 'Add a piece…' }), 'Enter');
    const piece = page.getByRole('list', { name: `Pieces for ${where}` }).getByRole('button', { name });
    await expect(piece).toBeVisible();
    while (!(await piece.evaluate((one) => one === document.activeElement))) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
  };
  /** The second language of a text, and what it says there. */
  const translate = async (form: Locator, label: string, text: string) => {
    await page.keyboard.down('Shift');
    await press(form.getByRole('group', { name: `Languages of ${label}` }).getByRole('button', { name: /^fr/ }));
    await page.keyboard.up('Shift');
    await page.keyboard.press('Enter');
    await type(form.getByLabel(`${label}, fr`), text);
  };
  await put(/^Banner/);
  const banner = page.getByRole('form', { name: 'Banner' });
  await type(banner.getByLabel('Heading, en-GB'), 'Light');
  await translate(banner, 'Heading', 'Lumière');
  await press(banner.getByRole('combobox', { name: 'Text: from a field' }), 'Enter');
  await page.keyboard.type('summary');
  await page.keyboard.press('Enter');
  await expect(banner).toContainText('From the field category.summary');

  await put(/^Row of products/);
  await type(page.getByRole('form', { name: 'Row of products' }).getByLabel('Heading, en-GB'), 'To take along');
  await put(/^Notice/);
  const notice = page.getByRole('form', { name: 'Notice' });
  await type(notice.getByLabel('Text, en-GB'), 'Closed at Christmas');
  await translate(notice, 'Text', 'Fermé à Noël');
  // A day as the browser takes it by keys, part by part.
  await press(notice.getByLabel('First day'));
  await page.keyboard.type('12012026');
  await press(notice.getByLabel('Last day'));
  await page.keyboard.type('12262026');
  await press(notice.getByRole('checkbox', { name: 'every year' }), 'Space');
  await put(/^Divider/);
  // Above the banner, by keys on its card.
  await page.keyboard.down('Shift');
  await press(shelf.getByRole('button', { name: /^Notice/ }));
  await page.keyboard.up('Shift');
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Alt+ArrowUp');
  await expect(shelf.locator('.placement-open strong')).toHaveText([
    ...['Notice', 'Banner', 'Row of products', 'Divider'],
  ]);
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();

  const text = async (path: string, on: string) => live(last, `${path}?on=${on}`);
  const december = await text('/category/lamps', '2031-12-10');
  expect(december).toMatch(/Closed at Christmas[\s\S]*<h2>Light<\/h2>[\s\S]*To take along/);
  expect(december).toMatch(/<p class="lead">[^<]+<\/p>/);
  expect(await text('/category/lamps', '2031-11-10')).not.toContain('Closed at Christmas');
  expect(await text('/fr/category/lamps', '2031-12-10')).toMatch(/Fermé à Noël[\s\S]*<h2>Lumière<\/h2>/);
  expect(await text('/category/finishes', '2031-12-10')).not.toContain('Closed at Christmas');

  // Later: heading and gap, each in its one place. What was added last is still open.
  await type(page.getByRole('form', { name: 'Divider' }).getByRole('spinbutton', { name: 'Height' }), '96');
  await page.keyboard.down('Shift');
  await press(shelf.getByRole('button', { name: /^Banner/ }));
  await page.keyboard.up('Shift');
  await page.keyboard.press('Enter');
  await type(banner.getByLabel('Heading, en-GB'), 'Lighter');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  expect(await text('/category/lamps', '2031-11-10')).toMatch(/<h2>Lighter<\/h2>[\s\S]*--height: 96px/);
});

test('two arrange one page: both find all of it after they have saved', async ({ page, last, context }) => {
  const other = await context.newPage();
  for (const one of [page, other]) {
    await openBench(one, last, '/category/lamps');
    await one.getByRole('button', { name: 'Arrange' }).click();
    await expect(one.getByRole('region', { name: region })).toBeVisible();
  }
  const add = async (one: Page, name: string, text: string) => {
    await one.bringToFront();
    await one.getByRole('region', { name: region }).getByRole('button', { name: 'Add a piece…' }).click();
    const list = one.getByRole('list', { name: `Pieces for ${region}` });
    await list.getByRole('button', { name: new RegExp(`^${name}`) }).click();
    await one
      .getByRole('form', { name })
      .getByLabel(/, en-GB$/)
      .first()
      .fill(text);
  };
  await add(page, 'Banner', 'From the first window');
  await add(other, 'Notice', 'From the second window');
  await page.bringToFront();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  await other.bringToFront();
  await other.keyboard.press('Control+s');
  const shelf = other.getByRole('region', { name: region });
  await expect(shelf).toContainText('From the first window');
  await expect(shelf).toContainText('From the second window');
  await expect(other.getByText('Saved.')).toBeVisible();
  const made = await live(last, '/category/lamps');
  expect([made.includes('From the first window'), made.includes('From the second window')]).toEqual([true, true]);

  // The same text by both: whoever saves last is asked, and all else is kept.
  const heading = (one: Page) => one.getByRole('form', { name: 'Banner' }).getByLabel('Heading, en-GB');
  await shelf.getByRole('button', { name: /^Banner/ }).click();
  await heading(other).fill('As the second has it');
  await page.bringToFront();
  await expect(page.getByRole('region', { name: region })).toContainText('From the second window');
  await heading(page).fill('As the first has it');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Not saved yet.')).toHaveCount(0);
  await other.bringToFront();
  await other.keyboard.press('Control+s');
  await expect(other.getByText('Both changed banner. All else is put together.')).toBeVisible();
  await other.getByRole('button', { name: 'Put together, with mine of it' }).click();
  await other.keyboard.press('Control+s');
  await expect(other.getByText('Not saved yet.')).toHaveCount(0);
  await expect.poll(() => live(last, '/category/lamps')).toContain('As the second has it');
});
