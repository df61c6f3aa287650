import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import sharp from 'sharp';
import type { Page } from '@playwright/test';
import { expect, save, Server, test as base, writeSource } from './last';

/** A server on an empty data folder. */
const test = base.extend<{ empty: Server }>({
  empty: async ({}, use) => {
    const folder = mkdtempSync(join(tmpdir(), 'last-empty-'));
    const server = new Server(folder);
    await server.start();
    await use(server);
    await server.end();
    rmSync(folder, { recursive: true, force: true });
  },
});

const folder = mkdtempSync(join(tmpdir(), 'last-own-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A file of invented plants, headed in Dutch, its columns in an order of their own: 300 products, a third of them in two pot sizes. */
function plants(change: (row: string[]) => string[] = (row) => row): string {
  const heads = [
    'Voorraad',
    'Naam',
    'Prijs',
    'Afbeeldingen',
    'Soort',
    'Artikelcode',
    'Licht',
    'Maat',
    'Trefwoorden',
    'Groep',
    'Afdeling',
    'Merk',
  ];
  const kinds = ['Varen', 'Mos', 'Klimop', 'Munt', 'Tijm'];
  const rows: string[][] = [];
  for (let number = 1; number <= 300; number++) {
    const kind = kinds[number % kinds.length] as string;
    const group = `${kind.toLowerCase()}-${number}`;
    const sizes = number % 3 ? ['9 cm'] : ['9 cm', '14 cm'];
    for (const [at, size] of sizes.entries())
      rows.push(
        change([
          String((number * 7) % 13),
          at ? '' : `${kind} nr. ${number}`,
          `${3 + (number % 9)},${number % 2 ? '95' : '50'}`,
          at || number % 4 === 0 ? '' : `plant-${number % 3}.png`,
          at ? '' : kind.toLowerCase(),
          `P${number}-${size.replace(' cm', '')}`,
          at ? '' : number % 2 ? 'halfschaduw' : 'zon',
          sizes.length > 1 ? size : '',
          at ? '' : number % 5 ? 'winterhard' : 'winterhard|eetbaar',
          group,
          at ? '' : `Planten > ${kind}`,
          at ? '' : number % 2 ? 'De Kas' : 'Veldzicht',
        ]),
      );
  }
  return [heads, ...rows].map((row) => row.join('\t')).join('\r\n');
}

const leaves = await Promise.all(
  ['#2e6b3a', '#4f8a3c', '#7aa650'].map((background) =>
    sharp({ create: { width: 90, height: 60, channels: 3, background } })
      .png()
      .toBuffer(),
  ),
);

/** A folder with the pictures of the plants, one that nothing names, and two that are none. */
function pictures(): string {
  const inner = join(folder, 'foto');
  mkdirSync(inner, { recursive: true });
  leaves.forEach((bytes, at) => writeFileSync(join(inner, `plant-${at}.png`), bytes));
  writeFileSync(join(inner, 'kapot.png'), (leaves[0] as Buffer).subarray(0, 80));
  writeFileSync(join(inner, 'pagina.jpg'), '<html><script>alert(1)</script></html>');
  writeFileSync(
    join(inner, 'over.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>alert(1)</script><path d="M0 0h9v9z"/></svg>',
  );
  writeFileSync(join(inner, 'notities.txt'), 'x');
  return inner;
}

/** Width of a picture as the shop sends it, in pixels. */
const sizeOf = async (server: Server, path: string): Promise<number> =>
  (await sharp(await (await server.visit(`/media/${path}`)).body()).metadata()).width;

async function choose(page: Page, name: string, text: string): Promise<void> {
  const file = join(folder, name);
  writeFileSync(file, text);
  await page.getByLabel('File of goods').setInputFiles(file);
}

const silent = async (page: Page): Promise<void> =>
  expect(
    (await new AxeBuilder({ page }).analyze()).violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`),
  ).toEqual([]);

test('an own shop, from an empty folder to goods that are live, varied, published and undone', async ({
  page,
  empty,
}) => {
  // A long way, with axe on it: a machine that has other work to do needs minutes for it.
  test.setTimeout(360_000);
  await page.goto(empty.at);
  await page.waitForURL('**/start');
  await page.getByText('My shop, on a whole theme').click();
  await silent(page);
  await page.getByRole('button', { name: 'Make the shop' }).click();
  await expect(page.getByText('The shop needs a name')).toBeVisible();
  await page.getByLabel('What is the shop called?').fill('Groene Kas');
  await page.getByRole('button', { name: 'Make the shop' }).click();
  await page.waitForURL('**/catalogue?draft=first&view=goods');
  expect(await (await empty.visit('/')).text()).toContain('<h1>Groene Kas</h1>');

  // The file: what its columns are is found, corrected, and remembered.
  await choose(page, 'planten.tsv', plants());
  const taken = (heading: string) => page.getByLabel(`What “${heading}” is taken for`);
  const targets = {
    Voorraad: 'stock',
    Naam: 'name',
    Prijs: 'price',
    Soort: 'type',
    Artikelcode: 'sku',
    Maat: 'option:size',
    Groep: 'product',
    Merk: 'brand',
  };
  for (const [heading, target] of Object.entries(targets)) await expect(taken(heading)).toHaveValue(target);
  await expect(taken('Licht')).toHaveValue('attribute:Licht');
  await taken('Afdeling').fill('categories');
  await expect(page.locator('.ant-select-dropdown:visible')).toContainText(/categor/i);
  await taken('Afdeling').press('Tab');
  await expect(page.locator('.ant-select-dropdown:visible')).toHaveCount(0);
  await expect(page.getByLabel('Decimals after')).toBeVisible();
  await silent(page);
  await page.getByRole('button', { name: 'Show what it would change' }).click();
  await expect(page.locator('.dry-run-sum.is-added')).toContainText('300 products', { timeout: 60_000 });
  await expect(page.locator('.dry-run-sum.is-wrong')).toHaveCount(0);
  expect((await empty.visit('/product/mos-1')).status()).toBe(404);
  await silent(page);
  await page.getByRole('button', { name: /Import: \d+ records/ }).click();
  await expect(page.getByText(/^Imported: .* live now/)).toBeVisible();
  const mos = await (await empty.visit('/product/mos-1')).text();
  expect(mos).toContain('Mos nr. 1');
  expect(mos).toMatch(/€4[.,]95/);

  // Its pictures: what is missing is known, a folder brings it in, and what is no picture is told apart.
  await page.getByRole('button', { name: 'Pictures' }).click();
  await page.getByText('Missing 3').click();
  await expect(page.getByText('plant-2.png')).toBeVisible();
  await silent(page);
  await page.getByLabel('Folder of pictures').setInputFiles(pictures());
  await expect(page.getByText('4 pictures added, 2 left out.')).toBeVisible();
  await expect(page.getByText('kapot.png is left out: it is broken or cut short')).toBeVisible();
  await expect(page.getByText('Every picture that goods name is here.')).toBeVisible();
  await page.getByText('Not used 1').click();
  await page.getByRole('button', { name: 'over.svg' }).click();
  await expect(page.getByText('Nothing in the catalogue names it.')).toBeVisible();
  expect(await (await empty.visit('/media/over.svg')).text()).not.toContain('script');
  await silent(page);
  const shop = await page.context().newPage();
  await shop.goto(`${empty.shop}/product/mos-1`);
  const picture = shop.locator('main img').first();
  await expect(picture).toHaveAttribute('width', '90');
  await expect(picture).toHaveAttribute('height', '60');
  expect(
    await picture.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth)),
  ).toBeGreaterThan(0);
  await shop.close();

  // A picture of the same name replaces it only once confirmed, and can be undone; a pasted one gets a name.
  const other = await sharp({ create: { width: 12, height: 12, channels: 3, background: '#345' } })
    .png()
    .toBuffer();
  await page.getByLabel('Picture files').setInputFiles({ name: 'plant-1.png', mimeType: 'image/png', buffer: other });
  await page.getByRole('dialog').getByRole('button', { name: 'Replace it' }).click();
  await expect(page.getByText('1 picture replaced.')).toBeVisible();
  expect(await sizeOf(empty, 'plant-1.png')).toBe(12);
  await page.getByRole('region', { name: 'Pictures' }).getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => sizeOf(empty, 'plant-1.png')).toBe(90);
  await page.evaluate(
    (bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], 'image.png', { type: 'image/png' }));
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
    },
    [...other],
  );
  await expect(page.getByRole('button', { name: /^pasted-\d{14}\.png/ })).toBeVisible();

  // An alternate for one type, made and assigned by mouse, and live with no problem.
  await page.goto(`${empty.at}/alternates?of=product`);
  await page.getByRole('button', { name: 'New alternate' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Label').fill('Varens');
  await dialog.getByRole('radio', { name: /^changes to it/ }).check();
  await dialog.getByRole('button', { name: 'Make it' }).click();
  const card = page.locator('.template-cards li', { hasText: 'Varens' });
  await card.getByRole('button', { name: 'By a rule…' }).click();
  await page.getByRole('button', { name: 'Ask something' }).click();
  await page.getByLabel('What is asked').click();
  await page.keyboard.type('type', { delay: 15 });
  await page.keyboard.press('Enter');
  await page.getByLabel('Which').click();
  await page.keyboard.type('varen', { delay: 15 });
  await page.locator('.ant-select-item-option:visible', { hasText: 'varen' }).first().click();
  await page.keyboard.press('Escape');
  await expect(page.locator('.rule-matches')).toContainText('Holds for 60 of 300 products');
  await page.getByRole('button', { name: 'Add the rule' }).click();
  await expect(page.locator('.assignment', { hasText: 'type is varen' })).toContainText('60');
  await page.getByTitle('Open product/varens.html on the Bench').click();
  await expect(page.locator('.cm-content')).toContainText('product/default');
  await writeSource(
    page,
    '<amend of="product/default">\n  <after mark="name"><p class="fern">Houdt van schaduw</p></after>\n</amend>\n',
  );
  await save(page);
  await expect(page.getByText('No problems')).toBeVisible();
  await page
    .getByRole('button', { name: 'Review & publish' })
    .or(page.getByRole('link', { name: 'Review & publish' }))
    .click();
  await page.waitForURL('**/release**');
  await page
    .getByRole('button', { name: /^Publish/ })
    .last()
    .click();
  await expect(page.getByText('Release 2').first()).toBeVisible();
  expect(await (await empty.visit('/product/varen-5')).text()).toContain('Houdt van schaduw');
  expect(await (await empty.visit('/product/mos-1')).text()).not.toContain('Houdt van schaduw');

  // A changed file: its mapping is known, its differences are shown field by field, and it is undone in one step.
  await page.goto(`${empty.at}/catalogue?view=goods`);
  const changed = plants((row) =>
    row[9] === 'mos-1'
      ? row.map((cell, at) => (at === 2 ? '12,00' : cell))
      : row[9] === 'munt-3'
        ? row.map((cell, at) => (at === 2 ? 'duur' : cell))
        : row,
  );
  await choose(page, 'planten-2.tsv', changed);
  await expect(taken('Afdeling')).toHaveValue('categories');
  await page.getByRole('button', { name: 'Show what it would change' }).click();
  await expect(page.getByText('“duur” is not a price').first()).toBeVisible();
  await page.getByRole('tab', { name: 'Changed (1)' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'price of P1-9' })).toContainText('4.9512.00');
  await page.getByRole('button', { name: 'Import: 1 record' }).click();
  await expect(page.getByText('Imported: 1 record, live now.')).toBeVisible();
  expect(await (await empty.visit('/product/mos-1')).text()).toMatch(/€12[.,]00/);
  await page.getByRole('region', { name: 'Import' }).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Undone: 1 record as before.')).toBeVisible();
  expect(await (await empty.visit('/product/mos-1')).text()).toMatch(/€4[.,]95/);

  // Out again: what comes in of it changes nothing.
  for (const [link, name] of [
    [/^CSV/, 'out.csv'],
    [/^JSON: /, 'out.json'],
    [/^JSON-LD/, 'out.jsonld'],
  ] as const) {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: link }).click(),
    ]);
    await choose(page, name, readFileSync(await download.path(), 'utf8'));
    if (name === 'out.csv') await page.getByRole('button', { name: 'Show what it would change' }).click();
    await expect(page.getByRole('button', { name: 'Nothing to import' })).toBeDisabled();
    await page.getByRole('button', { name: 'Another file' }).click();
  }
});

test('the same by the command line: new, a dry run, an import with pictures, an alternate, an undo, an export', async () => {
  test.setTimeout(360_000);
  const data = mkdtempSync(join(tmpdir(), 'last-own-cli-'));
  const server = new Server(data);
  const at = (name: string) => join(folder, name);
  const run = (...args: string[]) =>
    server
      .command(...args)
      .trimEnd()
      .split('\n');
  try {
    run('new', server.folder, '--name', 'Groene Kas', '--currency', 'EUR', '--languages', 'nl');
    writeFileSync(at('cli.tsv'), plants());
    writeFileSync(at('columns.json'), JSON.stringify({ Afdeling: 'categories' }));
    const columns = ['--columns', at('columns.json')];
    expect(run('import', at('cli.tsv'), ...columns, '--pictures', pictures(), '--dry-run')).toEqual(
      expect.arrayContaining([
        '  added: 300 products',
        expect.stringContaining('Pictures: 4 added'),
        'Nothing was imported: this was a dry run.',
      ]),
    );
    expect(run('import', '--list')).toEqual(['Goods were not changed yet.']);
    const said = run('import', at('cli.tsv'), ...columns, '--pictures', pictures());
    expect(said.at(-1)).toMatch(/^Imported: \d+ records\. last import --undo 1 undoes it\.$/);
    expect(said.join('\n')).not.toContain('There is no picture');

    // The theme travels as a folder: an alternate for one type is put into it and comes back.
    run('out', 'draft/first', at('theme'), '--layer', 'Groene Kas');
    mkdirSync(join(at('theme'), 'product'), { recursive: true });
    writeFileSync(
      join(at('theme'), 'product', 'varen.html'),
      '<amend of="product/default">\n  <after mark="name"><p>Houdt van schaduw</p></after>\n</amend>\n',
    );
    const rule = {
      id: 'varens',
      kind: 'product',
      alternate: 'varen',
      when: { fact: 'type', test: 'is', value: ['varen'] },
    };
    writeFileSync(
      join(at('theme'), 'alternates.json'),
      JSON.stringify({
        alternates: [{ kind: 'product', name: 'varen', label: 'Varens', note: '', types: ['varen'] }],
        pins: [],
        rules: [rule],
      }),
    );
    run('in', at('theme'), '--draft', 'first');
    await server.start();
    expect((await server.publish('first')).status()).toBe(200);
    const fern = await (await server.visit('/product/varen-5')).text();
    expect(fern).toContain('Houdt van schaduw');
    expect(fern).toContain('/media/plant-2.png');
    expect(await sizeOf(server, 'plant-2.png')).toBe(90);

    // A changed file while the server runs; undone, the pages are as before; what goes out changes nothing coming in.
    const dearer = plants((row) =>
      row[9] === 'varen-5' ? row.map((cell, place) => (place === 2 ? '99,00' : cell)) : row,
    );
    writeFileSync(at('cli-2.tsv'), dearer);
    expect(run('import', at('cli-2.tsv'), '--dry-run')).toContain('  changed: 1 product');
    expect(run('import', at('cli-2.tsv')).at(-1)).toContain('--undo 2');
    expect(await (await server.visit('/product/varen-5')).text()).toMatch(/99[.,]00/);
    run('import', '--undo', '2');
    expect(await (await server.visit('/product/varen-5')).text()).not.toMatch(/99[.,]00/);
    for (const name of ['out.csv', 'out.json', 'out.jsonld']) {
      run('export', at(name), '--pictures', at('out-pictures'));
      expect(run('import', at(name), '--pictures', at('out-pictures'), '--dry-run').join('\n')).toContain(
        'It would change nothing.\nPictures: 0 added, 0 replaced, 4 there already.',
      );
    }
  } finally {
    await server.end();
    rmSync(data, { recursive: true, force: true });
  }
});

test('a file that cannot be read, and a server that is killed in the middle of an import', async ({ page, empty }) => {
  await empty.api.post(`${empty.at}/api/start/shop`, {
    data: { name: 'S', currency: 'EUR', languages: ['nl'], theme: 'empty' },
  });
  await page.goto(`${empty.at}/catalogue?view=goods`);
  await choose(page, 'leeg.csv', '');
  await expect(page.getByRole('region', { name: 'Import' }).getByRole('alert')).toContainText('The file is empty.');
  await choose(page, 'open.csv', 'naam,prijs\n"Mos,1\n');
  await expect(page.getByRole('region', { name: 'Import' }).getByRole('alert')).toContainText('is not closed');
  await choose(page, 'planten.tsv', plants());
  await page.getByRole('button', { name: 'Show what it would change' }).click();
  await expect(page.locator('.dry-run')).toBeVisible();
  await empty.kill();
  await page.getByRole('button', { name: /Import: \d+ records/ }).click();
  await expect(page.getByRole('region', { name: 'Import' }).getByRole('alert')).toBeVisible();
  await empty.start();
  expect((await empty.visit('/product/mos-1')).status()).toBe(404);
  // What was looked at is still there, and can be imported now.
  await page.getByRole('button', { name: /Import: \d+ records/ }).click();
  await expect(page.getByText(/^Imported: .* live now/)).toBeVisible();
  expect((await empty.visit('/product/mos-1')).status()).toBe(200);
});

test('the first screen is not there once there is a shop', async ({ page, last }) => {
  await page.goto(`${last.at}/start`);
  await page.waitForURL('**/bench');
});
