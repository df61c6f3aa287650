import { expect, goOver, openBench, pick, pointAt, save, shown, test, writeSource } from './last';

const region = 'Above the products';

test('one category gets a banner and a notice for December, in both languages, by staff who write no code', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/category/lamps');
  await page.getByRole('button', { name: 'Arrange' }).click();
  const shelf = page.getByRole('region', { name: region });
  await expect(shelf.getByText('not shown: Text is empty')).toBeVisible();
  // Shelves with nothing on them stand on the page by name; a click offers what fits there.
  const empty = shown(page).getByText('Below the products: put a piece here');
  await expect(empty).toBeVisible();
  await goOver(page);
  await empty.click();
  const offered = page.getByRole('list', { name: 'Pieces for Below the products' });
  await expect(offered).toBeVisible();
  // Each with a picture that the piece draws itself.
  const picture = offered.getByRole('button', { name: 'Banner' }).locator('iframe').contentFrame();
  await expect(picture.locator('.banner h2')).toHaveText('Heading');
  await page.keyboard.press('Escape');
  const add = async (name: string) => {
    await shelf.getByRole('button', { name: 'Add a piece…' }).click();
    await page
      .getByRole('list', { name: `Pieces for ${region}` })
      .getByRole('button', { name })
      .click();
  };
  await add('Banner');
  const banner = page.getByRole('form', { name: 'Banner' });
  await banner.getByLabel('Heading, en-GB').fill('Light for the long evenings');
  await expect(shown(page).locator('.banner h2')).toHaveText('Light for the long evenings');
  await banner
    .getByRole('group', { name: 'Languages of Heading' })
    .getByRole('button', { name: 'fr: missing' })
    .click();
  await banner.getByLabel('Heading, fr').fill('La lumière des longues soirées');
  await banner.getByRole('combobox', { name: 'Button leads to: pick' }).fill('finishes');
  await page.locator('.ant-select-item-option', { hasText: 'Finishes' }).first().click();
  await banner.getByLabel('Words on the button, en-GB').fill('Oil for them');
  await expect(shown(page).locator('.banner a')).toHaveAttribute('href', /\/category\/finishes$/);
  // First on its shelf, by a key on its card.
  const cards = shelf.locator('.placement');
  await shelf.getByRole('button', { name: /^Banner/ }).press('Alt+ArrowUp');
  await expect(cards.first()).toContainText('Banner');

  await add('Notice');
  const notice = page.getByRole('form', { name: 'Notice' });
  await notice.getByLabel('Text, en-GB').fill('Last posting day is the 18th');
  await notice.getByLabel('First day').fill('2026-12-01');
  await notice.getByLabel('Last day').fill('2026-12-18');
  await notice.getByRole('checkbox', { name: 'every year' }).check();
  const days = shelf.locator('.placement', { hasText: 'Last posting day' });
  await expect(days.locator('.placement-state')).toHaveText(/not today|1 Dec – 18 Dec, every year/);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();

  // What the shop shows: there only, on those days only, in its language.
  const visitor = await page.context().newPage();
  const html = async (path: string, on: string) => {
    await visitor.goto(`http://spring.localhost:${last.sitePort}${path}?on=${on}`);
    const text = await visitor.locator('main').innerText();
    // A window behind another one draws nothing.
    await page.bringToFront();
    return text;
  };
  const lamps = await html('/category/lamps', '2026-11-24');
  expect(lamps).toContain('Light for the long evenings');
  expect(lamps).not.toContain('Last posting day');
  expect(await html('/category/lamps', '2030-12-10')).toContain('Last posting day is the 18th');
  expect(await html('/fr/category/lamps', '2026-11-24')).toContain('La lumière des longues soirées');
  expect(await html('/category/finishes', '2030-12-10')).not.toMatch(/Light for the long evenings|Last posting day/);

  // Undone, step by step, and the notice is there again on the third.
  await days.getByRole('button', { name: 'What to do with Notice' }).click();
  await page.getByRole('menuitem', { name: /Remove/ }).click();
  await expect(cards).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cards).toHaveCount(3);
  // Pointed at on the page: its card opens, and is outlined there.
  await page.getByRole('button', { name: 'Point' }).click();
  await pointAt(page, shown(page).locator('.banner h2'), 'pieces/row/banner.html');
  await pick(page, shown(page).locator('.banner h2'));
  await expect(page.getByRole('form', { name: 'Banner' })).toBeVisible();
  await expect(page.getByRole('form', { name: 'Notice' })).toHaveCount(0);
  // On the page of another category too, and nowhere else.
  await shelf.getByRole('button', { name: 'What to do with Banner' }).click();
  await page.getByRole('menuitem', { name: 'Copy to another page…' }).click();
  const to = page.getByRole('combobox', { name: 'The page that it is copied to' });
  await to.fill('anchors');
  await page.locator('.ant-select-item-option', { hasText: 'Anchors' }).first().click();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  expect(await html('/category/anchors', '2026-11-24')).toContain('Light for the long evenings');
  // Another page: what belongs to this one is not listed there.
  await page.getByRole('combobox', { name: 'Go to a page' }).fill('finishes');
  await page.locator('.ant-select-item-option', { hasText: 'Finishes' }).first().click();
  await expect(page.locator('.arrange-head h2')).toHaveText('Finishes');
  await expect(cards).toHaveCount(1);
  // The page is as customers see it once it is not arranged any more.
  await expect(
    shown(page)
      .getByText(/: put a piece here/)
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Arrange' }).click();
  await expect(shown(page).getByText(/: put a piece here/)).toHaveCount(0);
  // What makes these pages differ is listed beside the pins, and leads back.
  await page.goto(`${last.at}/alternates?of=category`);
  const arranged = page.getByRole('list', { name: 'Pages with pieces of their own' });
  await expect(arranged.getByRole('listitem').filter({ hasText: 'Lamps' })).toContainText('Banner');
  await arranged.getByRole('link', { name: 'Anchors' }).click();
  await expect(page.locator('.arrange-head h2')).toHaveText('Anchors');
});

test('a file with a mistake is left as it is, and the mistake is shown', async ({ page, last }) => {
  const path = 'shelves.json';
  const { hash } = (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=${path}`)).json()) as {
    hash: string;
  };
  const text = '{"placements": [{"id": "hero", "colour": "red"}]}';
  const put = await last.api.put(`${last.at}/api/drafts/spring/file`, { data: { path, text, expected: hash } });
  expect(put.ok()).toBe(true);
  await page.goto(`${last.at}/bench?page=/&file=${path}`);
  await expect(page.getByText(/shelves\.json has a mistake: .*colour.*Put it right in its source/)).toBeVisible();
});

test('by keyboard alone: a divider is added, set, moved to another place, hidden, and undone', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}/bench?page=/category/lamps`);
  await expect(shown(page).locator('h1')).toHaveText('Lamps');
  await page.keyboard.press('Control+Shift+E');
  const shelf = page.getByRole('region', { name: 'Below the products' });
  const add = shelf.getByRole('button', { name: 'Add a piece…' });
  const put = async (name: string) => {
    await add.focus();
    await page.keyboard.press('Enter');
    const piece = page.getByRole('list', { name: 'Pieces for Below the products' }).getByRole('button', { name });
    await piece.focus();
    await page.keyboard.press('Enter');
  };
  await put('Divider');
  const height = page.getByRole('form', { name: 'Divider' }).getByRole('spinbutton', { name: 'Height' });
  await height.focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('120');
  await expect(shown(page).locator('.divider')).toHaveAttribute('style', /--height: 120px/);
  await put('Row of categories');
  const cards = shelf.locator('.placement-open strong');
  await expect(cards).toHaveText(['Divider', 'Row of categories']);
  const row = shelf.getByRole('button', { name: /^Row of categories/ });
  await row.focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(cards).toHaveText(['Row of categories', 'Divider']);
  await shelf.getByRole('button', { name: /^Divider/ }).focus();
  await page.keyboard.press('Delete');
  await expect(cards).toHaveText(['Row of categories']);
  await expect(shown(page).locator('.divider')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(cards).toHaveText(['Row of categories', 'Divider']);
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  // The page at its widest again: back to its source by the same key.
  await page.keyboard.press('Control+Shift+E');
  await expect(page.getByText('category/default.html').first()).toBeVisible();
});

const offer = `<placeable label="Offer of the week" help="One product, and others beside it" shelves="category-bottom">
<takes name="heading" type="text" label="Heading" required>
<takes name="words" type="html" label="Words">
<takes name="columns" type="number" label="Columns" least="1" most="4" default="2">
<takes name="framed" type="boolean" label="Framed">
<takes name="side" type="choice" options="left, right" default="left" label="Side">
<takes name="tint" type="colour" label="Tint">
<takes name="more" type="link" label="More">
<takes name="goods" type="List of Product" label="Goods" required>
<section class="offer" data-side="{side}" data-columns="{columns}" data-framed="{framed ? 'yes' : 'no'}" data-tint="{tint}">
  <h2>{heading}</h2>
  <div do:when="words">{words}</div>
  <ol><li do:each="product in goods">{product.name}</li></ol>
  <a href="{more}" do:when="more">{t('home.more')}</a>
</section>
`;

test('a developer writes a piece with eight inputs and nothing else: staff fill them, and it shows once it is whole', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/category/lamps');
  await page.goto(`${last.at}/theme`);
  await page.getByRole('button', { name: 'New file' }).click();
  await page.getByLabel('Path').fill('pieces/row/offer.html');
  await page.getByRole('button', { name: 'Make it' }).click();
  await page.waitForURL(/bench/);
  await writeSource(page, offer);
  await save(page);
  await openBench(page, last, '/category/lamps');
  await page.getByRole('button', { name: 'Arrange' }).click();
  const shelf = page.getByRole('region', { name: 'Below the products' });
  await shelf.getByRole('button', { name: 'Add a piece…' }).click();
  await page
    .getByRole('list', { name: 'Pieces for Below the products' })
    .getByRole('button', { name: /Offer of the week/ })
    .click();
  const form = page.getByRole('form', { name: 'Offer of the week' });
  const made = shown(page).locator('.offer');
  await form.getByLabel('Heading, en-GB').fill('Two to take along');
  await expect(shelf.getByText('not shown: Goods is empty')).toBeVisible();
  await expect(made).toHaveCount(0);
  for (const name of ['Deck oil', 'Anchor lamp']) {
    await form.getByRole('combobox', { name: 'Goods: add' }).fill(name);
    await page.locator('.ant-select-item-option', { hasText: name }).first().click();
  }
  await expect(made.locator('li')).toHaveText(['Deck oil', 'Anchor lamp']);
  await form.getByRole('button', { name: 'anchor-lamp: up' }).click();
  await expect(made.locator('li')).toHaveText(['Anchor lamp', 'Deck oil']);
  await form.getByRole('textbox', { name: 'Words, en-GB' }).fill('Both <b>now</b>');
  await expect(made.locator('div')).toHaveText('Both <b>now</b>');
  await form.getByLabel('Columns', { exact: true }).fill('9');
  await form.getByLabel('Columns', { exact: true }).press('Tab');
  await expect(made).toHaveAttribute('data-columns', '4');
  await form.getByLabel('Framed', { exact: true }).click();
  await expect(made).toHaveAttribute('data-framed', 'yes');
  await form.getByLabel('Side', { exact: true }).click();
  await page.locator('.ant-select-item-option', { hasText: 'right' }).click();
  await expect(made).toHaveAttribute('data-side', 'right');
  await form.getByRole('group', { name: 'Colours of the look' }).getByRole('button').first().click();
  await expect(made).toHaveAttribute('data-tint', /^#[0-9a-f]{6}$/);
  await form.getByRole('combobox', { name: 'More: pick' }).fill('finishes');
  await page.locator('.ant-select-item-option', { hasText: 'Finishes' }).first().click();
  await expect(made.locator('a')).toHaveAttribute('href', /\/category\/finishes$/);
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  const live = await (await last.visit('/category/lamps', { origin: last.draft('spring') })).text();
  expect(live).toMatch(/class="offer" data-side="right" data-columns="4" data-framed="yes"/);
  expect(await (await last.visit('/category/finishes', { origin: last.draft('spring') })).text()).not.toContain(
    'class="offer"',
  );

  // Then on categories of the third level, by a condition as in rules.
  await form.getByText('where a condition holds').click();
  await form.getByRole('button', { name: 'Ask something' }).click();
  await form.getByRole('combobox', { name: 'What is asked' }).fill('level');
  await page.locator('.ant-select-item-option', { hasText: 'level' }).first().click();
  await form.getByRole('spinbutton', { name: 'Number' }).fill('3');
  await expect(made).toHaveCount(0);
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Saved.')).toBeVisible();
  const visited = async (path: string) => (await last.visit(path, { origin: last.draft('spring') })).text();
  expect(await visited('/category/shackles')).toContain('class="offer"');
  expect(await visited('/category/lamps')).not.toContain('class="offer"');
});
