import type { Page } from '@playwright/test';
import { expect, openBench, save, shown, test, writeSource, type Server } from './last';

/** Goes to Alternates, to a kind of page or a piece. */
async function goTo(page: Page, last: Server, of: string): Promise<void> {
  await page.goto(`${last.at}/alternates?of=${encodeURIComponent(of)}`);
  await expect(page.locator('.map-cell').first()).toBeVisible();
}

/** Makes an alternate of what is shown; the pointer is used as a person would. */
async function make(page: Page, label: string, amends: boolean): Promise<void> {
  await page.getByRole('button', { name: 'New alternate' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Label').fill(label);
  if (amends) await dialog.getByRole('radio', { name: /^changes to it/ }).check();
  await dialog.getByRole('button', { name: 'Make it' }).click();
  await expect(page.locator('.template-cards li', { hasText: label })).toContainText('No one uses it.');
}

/** Writes a file of the shop by the API: what is written is not what is tested here. */
async function write(page: Page, last: Server, path: string, text: string): Promise<void> {
  const file = (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=${path}`)).json()) as {
    hash: string | null;
  };
  const answer = await last.api.put(`${last.at}/api/drafts/spring/file`, {
    data: { path, text, expected: file.hash },
  });
  expect(answer.status()).toBe(200);
}

const edit = async (page: Page, last: Server, made: object): Promise<void> => {
  const answer = await last.api.post(`${last.at}/api/drafts/spring/alternates/edit`, { data: { edit: made } });
  expect([answer.status(), await answer.text()]).toEqual([200, expect.any(String)]);
};

const rule = (id: string, alternate: string, when: object, more: object = {}) => ({
  do: 'put-rule',
  was: null,
  rule: { id, kind: 'product', alternate, when, from: null, to: null, note: '', ...more },
});
const is = (fact: string, ...value: string[]) => ({ fact, test: 'is', value });

/** Picks from the open list of a select by its text. */
const pick = async (page: Page, text: string | RegExp): Promise<void> => {
  await page
    .locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option', { hasText: text })
    .first()
    .click();
};

/** Asks one thing in the rule that is being made: a fact, and some of its texts. */
async function ask(page: Page, fact: string | null, ...texts: string[]): Promise<void> {
  const builder = page.locator('.rule-builder');
  await builder.getByRole('button', { name: 'Ask something' }).last().click();
  const leaf = builder.locator('.condition-leaf').last();
  if (fact !== null) {
    await leaf.getByLabel('What is asked').click();
    await page.keyboard.type(fact, { delay: 15 });
    await page.keyboard.press('Enter');
  }
  await leaf.getByLabel('Which').click();
  for (const text of texts) {
    await page.keyboard.type(text, { delay: 15 });
    await pick(page, text);
  }
  await page.keyboard.press('Escape');
}

test('alternates by a rule, by a pin, for tag listings and of a tile: seen, tried, explained, broken, fixed, published', async ({
  page,
  last,
}) => {
  test.setTimeout(180_000);
  // Load-rated hardware, by a rule; the alternate is a small change to default.
  await goTo(page, last, 'product');
  // Tab goes on from the list of types, and takes none along.
  await page.getByRole('button', { name: 'New alternate' }).click();
  const dialog = page.getByRole('dialog');
  const types = dialog.getByRole('combobox', { name: 'Meant for products of type' });
  await types.click();
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.ant-select-item-option-active')).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(dialog.getByLabel('Note')).toBeFocused();
  await expect(dialog.locator('.multi-select')).toContainText('all types');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await make(page, 'Load-rated', true);
  await page
    .locator('.template-cards li', { hasText: 'Load-rated' })
    .getByRole('button', { name: 'By a rule…' })
    .click();
  await expect(page.locator('.rule-matches')).toContainText('Holds for 61 of 61 products');
  await ask(page, null, 'load-rated', 'mooring');
  const rated = Number(/Holds for (\d+)/.exec(await page.locator('.rule-matches').innerText())?.[1]);
  await ask(page, 'type', 'shackle', 'fitting');
  await expect(page.locator('.rule-matches')).toContainText('Bronze bow shackle');
  const hardware = async () => Number(/Holds for (\d+)/.exec(await page.locator('.rule-matches').innerText())?.[1]);
  // Both types, not the first of them alone.
  await expect
    .poll(async () => {
      const count = await hardware();
      return count > 3 && count < rated;
    })
    .toBe(true);
  const holds = await hardware();
  await page.getByRole('button', { name: 'Add the rule' }).click();
  await expect(page.locator('.assignment', { hasText: 'tag is load-rated or mooring' })).toContainText(String(holds));

  // What it changes, on the Bench: opened from its card.
  await page.getByTitle('Open product/load-rated.html on the Bench').click();
  await expect(page.locator('.cm-content')).toContainText('product/default');
  await writeSource(
    page,
    '<amend of="product/default">\n<before mark="name"><p class="rated">Tested to {product.fields.breaking_load | number(1)} kN</p></before>\n</amend>\n',
  );
  await save(page);

  // A single category, by a pin.
  await goTo(page, last, 'category');
  await make(page, 'Quiet', false);
  await page.locator('.template-cards li', { hasText: 'Quiet' }).getByRole('button', { name: 'Pin…' }).click();
  await page.getByRole('dialog').getByRole('combobox').fill('Shackles');
  await page.locator('.ant-select-item-option', { hasText: 'Shackles' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('dialog').getByRole('button', { name: 'Pin it' }).click();
  await expect(page.locator('.assignment', { hasText: 'Shackles' })).toBeVisible();
  await write(page, last, 'category/quiet.html', '<h1 class="quiet">{category.name}</h1>');

  // Listings of tags, by a rule over their kind.
  await goTo(page, last, 'listing');
  await make(page, 'Of a tag', false);
  await page.locator('.template-cards li', { hasText: 'Of a tag' }).getByRole('button', { name: 'By a rule…' }).click();
  await ask(page, null, 'tag');
  await page.getByRole('button', { name: 'Add the rule' }).click();
  await expect(page.locator('.assignment', { hasText: 'kind is tag' })).toBeVisible();
  await write(
    page,
    last,
    'listing/of-a-tag.html',
    '<h1 class="tagged">{listing.title}</h1><draw name="pieces/tile" product="{p}" do:each="p in listing.products"/>',
  );

  // The tile of books.
  await page.getByLabel('Another piece').click();
  await pick(page, 'pieces/tile');
  await expect(page.getByRole('button', { name: /^pieces\/tile/ })).toHaveAttribute('aria-pressed', 'true');
  await make(page, 'Book', false);
  await page.locator('.template-cards li', { hasText: 'Book' }).getByRole('button', { name: 'By a rule…' }).click();
  await ask(page, 'type', 'book');
  await expect(page.locator('.rule-matches')).toContainText('Handbook of Knots');
  await page.getByRole('button', { name: 'Add the rule' }).click();
  await expect(page.locator('.assignment', { hasText: 'type is book' })).toBeVisible();
  await write(
    page,
    last,
    'pieces/tile/book.html',
    '<takes name="product" type="Product" required>\n<article class="tile book">{product.name}</article>\n',
  );

  // Seen in the draft before anything is live: the map lists and explains.
  await goTo(page, last, 'product');
  const cell = page.getByRole('button', { name: /^Shackles: \d+ products with Load-rated by rule/ });
  await cell.click();
  await page.locator('.cell-list').getByRole('button', { name: 'Bronze bow shackle' }).click();
  const why = page.locator('.explanation').first();
  await expect(why).toContainText('gets Load-rated');
  await expect(why).toContainText('tag is load-rated or mooring; here on deck, load-rated, mooring');
  const told = JSON.parse(last.command('explain', '/product/bronze-bow-shackle', '--state', 'spring', '--json')) as {
    explanations: { template: string; steps: { decides: boolean; text: string }[] }[];
  };
  expect(told.explanations[0]?.template).toBe('product/load-rated');
  const decided = told.explanations[0]?.steps.find(({ decides }) => decides);
  await expect(why).toContainText(decided?.text ?? 'nothing decides');
  await page.getByText('Table', { exact: true }).click();
  await expect(page.getByRole('row', { name: /Bronze bow shackle/ })).toContainText('Load-rated');
  await page.getByText('Map', { exact: true }).click();

  // Tried on a page that does not get it.
  await page.getByLabel('What to do with Load-rated').click();
  await page.getByText('Try it on the Bench').click();
  await expect(page.getByText('Trying Load-rated: nobody else sees this.')).toBeVisible();
  await expect(shown(page).locator('.rated')).toContainText('Tested to');
  await openBench(page, last, '/product/bronze-bow-shackle');
  await expect(page.getByText('This page gets Load-rated by a rule.')).toBeVisible();
  await expect(shown(page).locator('.rated')).toHaveText('Tested to 24.5 kN');
  await openBench(page, last, '/category/books');
  await expect(shown(page).locator('.tile.book').first()).toBeVisible();

  // Broken by retiring a tag; fixed by the fix that is offered.
  last.command('retire-tag', 'mooring');
  await goTo(page, last, 'product');
  await expect(page.locator('.bar-problems')).toContainText('1 problem');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  await expect(page.locator('.assignment-problems')).toContainText('there is no tag “mooring” any more');
  await page.getByRole('button', { name: 'Take tag “mooring” out of the rule' }).click();
  await expect(page.getByText('Nothing is wrong with the assignments.')).toBeVisible();
  await expect(page.locator('.assignment', { hasText: 'tag is load-rated and type' })).toBeVisible();
  await expect(page.locator('.bar-fine')).toHaveText('No problems');

  // Published, and seen in the shop.
  await page.goto(`${last.shop}/product/bronze-bow-shackle`);
  await expect(page.locator('.rated')).toHaveCount(0);
  await page.goto(`${last.at}/release?draft=spring`);
  await expect(page.getByText('A rule is new: listing: kind is tag → of-a-tag')).toBeVisible();
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(page.getByText('Release 2 is live')).toBeVisible();
  await page.goto(`${last.shop}/product/bronze-bow-shackle`);
  await expect(page.locator('.rated')).toHaveText('Tested to 24.5 kN');
  await page.goto(`${last.shop}/product/deck-oil`);
  await expect(page.locator('.rated')).toHaveCount(0);
  await page.goto(`${last.shop}/category/shackles`);
  await expect(page.locator('h1.quiet')).toHaveText('Shackles');
  await page.goto(`${last.shop}/listing/tag/gift`);
  await expect(page.locator('h1.tagged')).toBeVisible();
  await page.goto(`${last.shop}/category/books`);
  await expect(page.locator('.tile.book').first()).toBeVisible();
});

test('the order: dragged, moved by keys, and not overwritten when another tab changed it', async ({
  page,
  last,
  context,
}) => {
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
    data: { kind: 'product', name: 'a', label: 'A', from: 'default' },
  });
  for (const [id, type] of [
    ['one', 'rope'],
    ['two', 'cord'],
    ['three', 'book'],
  ] as const)
    await edit(page, last, rule(id, 'a', is('type', type)));
  await goTo(page, last, 'product');
  const rows = page.locator('.assignment[aria-label]');
  const order = () => rows.locator('.assignment-says').allInnerTexts();
  const starts = (...types: string[]) =>
    expect.poll(async () => (await order()).map((text) => /type is (\w+)/.exec(text)?.[1])).toEqual(types);
  await starts('rope', 'cord', 'book');
  // By keys.
  await rows.nth(2).locator('.assignment-says').focus();
  await page.keyboard.press('Alt+ArrowUp');
  await starts('rope', 'book', 'cord');
  // By the pointer.
  const handle = page.getByLabel('Move rule 3');
  const [from, to] = [await handle.boundingBox(), await page.getByLabel('Move rule 1').boundingBox()];
  if (!from || !to) throw new Error('no handles');
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, from.y - 20, { steps: 4 });
  await page.mouse.move(to.x + 5, to.y - 4, { steps: 8 });
  await page.mouse.up();
  await starts('cord', 'rope', 'book');
  // Another tab still shows the order from before.
  const other = await context.newPage();
  await goTo(other, last, 'product');
  await page.getByLabel('Move rule 1').focus();
  await rows.first().locator('.assignment-says').press('Alt+ArrowDown');
  await starts('rope', 'cord', 'book');
  await other.locator('.assignment[aria-label]').first().locator('.assignment-says').press('Alt+ArrowDown');
  await expect(other.getByText('The order was changed from elsewhere meanwhile.')).toBeVisible();
  await expect
    .poll(async () =>
      (await other.locator('.assignment[aria-label] .assignment-says').allInnerTexts()).map(
        (text) => /type is (\w+)/.exec(text)?.[1],
      ),
    )
    .toEqual(['rope', 'cord', 'book']);
});

test('a rule that is being made survives a reload, a change from elsewhere, and a dead server', async ({
  page,
  last,
}) => {
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
    data: { kind: 'product', name: 'a', label: 'A', from: 'default' },
  });
  await edit(page, last, rule('one', 'a', is('type', 'rope')));
  await goTo(page, last, 'product');
  await page.getByLabel('Change rule 1').click();
  await page.getByPlaceholder('Why this rule').fill('by the metre “½” \u05d0\u05d1 ⚓');
  await page.reload();
  await page.getByLabel('Change rule 1').click();
  await expect(page.getByText('What you had begun is here again.')).toBeVisible();
  await expect(page.getByPlaceholder('Why this rule')).toHaveValue('by the metre “½” \u05d0\u05d1 ⚓');
  // Another changes it meanwhile.
  const was = { id: 'one', kind: 'product', alternate: 'a', when: is('type', 'rope'), from: null, to: null, note: '' };
  await edit(page, last, { do: 'put-rule', rule: { ...was, when: is('type', 'cord') }, was });
  await page.getByRole('button', { name: 'Save the rule' }).click();
  await expect(page.getByRole('dialog')).toContainText('was changed from elsewhere meanwhile');
  // The server dies, and comes back.
  await last.kill();
  await page.getByRole('button', { name: 'Save mine' }).click();
  await expect(page.getByText('The server does not answer').first()).toBeVisible();
  await expect(page.getByPlaceholder('Why this rule')).toHaveValue('by the metre “½” \u05d0\u05d1 ⚓');
  await last.start();
  await page.getByRole('button', { name: 'Save mine' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  const saved = (await (await last.api.get(`${last.at}/api/drafts/spring/alternates`)).json()) as {
    targets: { key: string; rules: { note: string }[] }[];
  };
  expect(saved.targets.find(({ key }) => key === 'product')?.rules[0]?.note).toBe('by the metre “½” \u05d0\u05d1 ⚓');
});

test('alternates.json with mistakes made by hand: told by path and line, the rest serves', async ({ page, last }) => {
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
    data: { kind: 'product', name: 'a', label: 'A', from: 'default' },
  });
  await edit(page, last, { do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'a' });
  const file = (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=alternates.json`)).json()) as {
    text: string;
  };
  await write(
    page,
    last,
    'alternates.json',
    file.text.replace(
      '"rules": []',
      '"rules": [\n    {"kind": "product", "alternate": "a",\n     "when": {"fact": "tag", "test": "like"}}\n  ]',
    ),
  );
  await goTo(page, last, 'product');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  await expect(page.locator('.assignment-problems')).toContainText(
    /alternates\.json, line \d+, rules\[0\]\.when\.test/,
  );
  await expect(page.locator('.assignment', { hasText: 'Deck oil' })).toBeVisible();
  await expect(page.locator('.bar-problems')).toBeVisible();
  await page.getByRole('link', { name: 'Open the file' }).click();
  await expect(page.locator('.cm-content')).toContainText('"like"');
});

test('the map: into a group and out again, part by part, by keys alone', async ({ page, last }) => {
  await goTo(page, last, 'product');
  const group = page.getByRole('button', { name: /^Go into Rope & cord/ });
  await group.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Where the map is' })).toHaveText('all products › Rope & cord');
  await expect(page.getByRole('button', { name: /^Go into Lamps/ })).toHaveCount(0);
  await page.locator('.cover-map [data-part]').first().focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');
  expect(await focused()).toMatch(/products/);
  await page.locator('.map-cell').first().focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.cell-list')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^Go into Lamps/ })).toBeVisible();
});

test('many are pinned at once from the table, with a way back; an alternate is retired after saying who falls back', async ({
  page,
  last,
}) => {
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
    data: { kind: 'product', name: 'a', label: 'Heavy', from: 'default' },
  });
  await goTo(page, last, 'product');
  await page.getByText('Table', { exact: true }).click();
  await page.getByLabel('Find among products').fill('lamp');
  await expect(page.locator('.who-tools')).toContainText(/^\D*[4-9] products/);
  await page.getByLabel('Choose all that are listed').check();
  await page.getByLabel('Pin them to').click();
  await pick(page, 'Heavy');
  await page
    .locator('.who-pin')
    .getByRole('button', { name: /^Pin \d/ })
    .click();
  await expect(page.locator('.assignment', { hasText: 'Pin' })).toContainText('Anchor lamp');
  const count = Number(await page.locator('.assignment', { hasText: 'Pin' }).locator('.assignment-count').innerText());
  expect(count).toBeGreaterThan(3);
  await page.getByLabel('What to do with Heavy').click();
  await page.getByText('Retire it…').click();
  await expect(page.getByRole('dialog')).toContainText(`${count} products get it, and fall back: ${count} to default.`);
  await page.getByRole('button', { name: 'Retire it' }).click();
  await expect(page.locator('.template-cards li', { hasText: 'Heavy' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.locator('.assignment', { hasText: 'Pin' })).toContainText('Anchor lamp');
});

test('a season: what will switch is listed, and the draft is seen as of that day', async ({ page, last }) => {
  await last.api.post(`${last.at}/api/drafts/spring/alternates`, {
    data: { kind: 'product', name: 'winter', label: 'Winter', from: 'default' },
  });
  await write(page, last, 'product/winter.html', '<h1 class="winter">{product.name}</h1>');
  const day = new Date(Date.now() + 10 * 86_400_000).toISOString().slice(0, 10);
  await edit(page, last, rule('w', 'winter', is('type', 'lamp'), { from: day }));
  await goTo(page, last, 'product');
  await expect(page.locator('.assignment', { hasText: 'type is lamp' })).toContainText('not now');
  await page.getByRole('tab', { name: /^Coming/ }).click();
  await expect(page.locator('.coming')).toContainText('Anchor lamp');
  await page.getByRole('button', { name: 'See that day' }).click();
  await expect(page.locator('.as-of input')).toHaveValue(day);
  await expect(page.getByRole('button', { name: /^Lamps: \d+ products with Winter by rule/ })).toBeVisible();
  await page.goto(`${last.at}/bench?page=/product/anchor-lamp&on=${day}`);
  await expect(page.getByText(`As of ${day}`)).toBeVisible();
  await expect(shown(page).locator('h1.winter')).toHaveText('Anchor lamp');
  await page.getByRole('button', { name: 'Today' }).click();
  await expect(shown(page).locator('h1.winter')).toHaveCount(0);
});
