import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Page } from '@playwright/test';
import { changedBase, expect, openBench, save, shown, test, writeSource, type Server } from './last';

/**
 * Quay 1.1 as a ZIP, packed by another's program with its folder in it.
 * Longer than most files: each test goes the whole way from a draft to live, with the same helpers.
 */
function newBase(): string {
  const zip = join(mkdtempSync(join(tmpdir(), 'quay-')), 'quay-1.1.zip');
  execFileSync('python3', ['-m', 'zipfile', '-c', zip, resolve('themes/quay-1.1')]);
  return zip;
}

const base = (path: string): string => readFileSync(`themes/quay-1.0/${path}`, 'utf8');

async function put(page: Page, last: Server, path: string, text: string, draft = 'spring'): Promise<void> {
  const answer = await last.api.put(`${last.at}/api/drafts/${draft}/file`, {
    data: { path, text, expected: null },
  });
  expect([path, answer.status()]).toEqual([path, 200]);
}

const live = (_: Page, last: Server, path: string) => last.visit(path).then((one) => one.text());

test('amend, update the base below with a merge, a conflict and a lost mark, compare, publish, go back', async ({
  page,
  last,
}) => {
  test.setTimeout(150_000);
  // Amended on the Bench, by pointing: something after the summary of a tile.
  await openBench(page, last, '/listing/all', 'pieces/tile.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await page.locator('.cm-content').waitFor();
  await writeSource(page, '<amend>\n<after mark="summary"><p class="sku">{product.sku}</p></after>\n</amend>');
  await save(page);
  // Two overrides: one that the new base changes elsewhere, one that it changes in the same place.
  await put(page, last, 'pieces/price.html', base('pieces/price.html').replace("t('price.ask')", "t('price.now')"));
  await put(
    page,
    last,
    'pieces/stock.html',
    base('pieces/stock.html').replace('variant.stock < 6', 'variant.stock < 3'),
  );

  await page.getByRole('link', { name: 'Theme' }).click();
  await page.getByText(/^The shop’s own \d+$/).click();
  await expect(page.getByRole('row', { name: /pieces\/tile\.html/ })).toContainText('amends');
  await expect(page.getByRole('row', { name: /pieces\/price\.html/ })).toContainText('override');
  await page.getByLabel('Version of a base or add-on').setInputFiles(newBase());
  const dialog = page.getByRole('dialog', { name: 'Quay 1.1 in the place of 1.0' });
  const touched = dialog.getByRole('list', { name: 'Files of the shop that are touched' });
  await expect(touched.getByRole('listitem')).toHaveText([
    /to be looked at.*pieces\/stock\.html/,
    /place gone.*pieces\/tile\.html.*where it stood is now “tile-summary”/,
    /merged.*pieces\/price\.html/,
  ]);
  await dialog.getByRole('button', { name: 'See which pages come out different' }).click();
  await expect(dialog.getByRole('status')).toContainText(/\d+ of 1\d\d pages come out different\.$/, {
    timeout: 30_000,
  });
  await expect(dialog.getByRole('list', { name: 'Pages that come out different' })).toContainText('Anchor lamp');
  const before = await live(page, last, '/product/deck-oil');
  await dialog.getByRole('button', { name: 'Make a draft with it' }).click();

  // The draft: one file waits, one has lost its place, one is merged.
  await expect(page.locator('.bar-draft')).toContainText('Spring fit-out, Quay 1.1');
  await expect(page.getByRole('row', { name: /pieces\/stock\.html/ })).toContainText('drifted');
  await page.getByRole('link', { name: 'pieces/stock.html' }).click();
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  const both = page.getByRole('dialog', { name: 'Both texts of pieces/stock.html' });
  await expect(both).toContainText('1 stretch was changed on both sides');
  await both.locator('.cm-merge-revert button').first().click();
  await both.getByRole('button', { name: 'Use the right side' }).click();
  await expect(page.getByText('pieces/stock.html holds both now')).toBeVisible();
  await expect(page.getByRole('row', { name: /pieces\/stock\.html/ })).toContainText('same as below');
  await page.getByRole('link', { name: 'pieces/tile.html' }).click();
  await page.getByRole('button', { name: 'Write “tile-summary”' }).click();
  await expect(page.getByText('It has its place now')).toBeVisible();
  await expect(page.locator('.bar-fine')).toHaveText('No problems');
  await page.getByRole('link', { name: 'pieces/price.html' }).click();
  await expect(page.locator('.difference')).toContainText('pieces/saving');

  // Compared with what is live, page by page; then published.
  await page.getByRole('link', { name: 'Review & publish' }).click();
  await expect(page.getByRole('list', { name: 'Layers below' })).toContainText('Quay 1.0 → 1.1');
  await page.getByRole('button', { name: /pieces\/saving\.html/ }).click();
  await expect(page.locator('.difference')).toContainText('price.saving');
  await page.getByRole('button', { name: 'See which pages come out different' }).click();
  await expect(page.getByRole('status')).toContainText(/\d+ of 1\d\d pages come out different\.$/, { timeout: 30_000 });
  expect(await live(page, last, '/product/deck-oil')).toBe(before);
  await page.getByLabel('Your name').fill('Robin');
  await page.getByLabel('Note').fill('Quay 1.1');
  await page.getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText('Release 2 is live')).toBeVisible();
  await expect(page.locator('.releases li').first()).toContainText('Robin');
  const after = await live(page, last, '/listing/all');
  expect(after).toContain('class="sku"');
  expect(await live(page, last, '/product/tarred-hemp-rope')).not.toBe(before);

  // And back, in one step; the later one can still be looked at.
  await page.getByRole('button', { name: 'Put live again' }).click();
  await expect(page.getByText('Put release 1 live again?')).toBeVisible();
  expect(await live(page, last, '/listing/all')).toContain('class="sku"');
  await page.getByRole('button', { name: 'Put release 1 live' }).click();
  await expect(page.getByText('Release 1 is live again')).toBeVisible();
  expect(await live(page, last, '/product/deck-oil')).toBe(before);
  expect(await last.visit('/listing/all', { origin: last.draft('release--2') }).then((one) => one.text())).toContain(
    'class="sku"',
  );
});

test('an update moves the places of amendments: corrected, listed where unsure, and looked at', async ({
  page,
  last,
}) => {
  const tags = '<amend>\n  <append at="ul > li"><i class="knot">#</i></append>\n</amend>\n';
  await put(page, last, 'pieces/tags.html', tags);
  await put(page, last, 'pieces/swatch.html', '<amend>\n  <after at="span:1"><b class="rim"></b></after>\n</amend>\n');
  await put(page, last, 'pieces/kinds.html', "<p>{t('home.doors')}</p>\n");
  const zip = changedBase('1.3', {
    'pieces/tags.html': (text) => text.replace('<li ', '<li class="tags-label">{t(\'product.tags\')}</li>\n  <li '),
    'pieces/swatch.html': (text) => text.replace(/<span class="swatch-colour".*<\/span>/, '$&$&'),
    'words/en.json': (text) => text.replace('"doors":', '"door":'),
    'words/fr.json': (text) => text.replace('"doors":', '"door":'),
  });
  await page.goto(`${last.at}/theme?draft=spring&show=own`);
  await page.getByLabel('Version of a base or add-on').setInputFiles(zip);
  const dialog = page.getByRole('dialog', { name: 'Quay 1.3 in the place of 1.0' });
  const touched = dialog.getByRole('list', { name: 'Files of the shop that are touched' });
  await expect(touched.getByRole('listitem')).toHaveText([
    /place unsure.*pieces\/swatch\.html.*Line 2: span:1 is likely span:\d, or span:\d/,
    /has problems.*pieces\/kinds\.html.*no phrase “home\.doors”.*“home\.door”/,
    /place moved.*pieces\/tags\.html.*1 place found again elsewhere.*Line 2: ul > li is now ul > li:2/,
  ]);
  await dialog.getByRole('button', { name: 'Make a draft with it' }).click();
  await expect(page.locator('.bar-draft')).toContainText('Spring fit-out, Quay 1.3');
  const there = await last.visit('/product/tarred-hemp-rope', { origin: last.draft('spring-fit-out-quay-1-3') });
  expect(await there.text()).toMatch(
    /<li class="tags-label">[^<]+<\/li>\s*<li><a [^>]*>[^<]+<\/a><i class="knot">#<\/i><\/li>/,
  );

  // What is not sure waits until someone has looked.
  await page.getByRole('link', { name: 'pieces/swatch.html' }).click();
  await expect(page.getByText(/Line 2: An update changed what stands around “span:1”/)).toBeVisible();
  await page.getByRole('button', { name: 'It is meant' }).click();
  await expect(page.getByText('It has its place now')).toBeVisible();
  await expect(page.getByText(/An update changed what stands/)).toHaveCount(0);
});

test('a draft is copied, changed, brought into another, deleted and put back', async ({ page, last }) => {
  await page.goto(`${last.at}/release`);
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Flags out');
  await page.getByRole('button', { name: 'Make the copy' }).click();
  await expect(page.locator('.bar-draft')).toContainText('Flags out');
  await put(
    page,
    last,
    'pieces/tags.html',
    base('pieces/tags.html').replace('class="tags"', 'class="tags flags"'),
    'flags-out',
  );
  await put(
    page,
    last,
    'pieces/stock.html',
    '<takes name="variant" type="Variant" required>\n<p>theirs</p>\n',
    'flags-out',
  );
  await put(page, last, 'pieces/stock.html', '<takes name="variant" type="Variant" required>\n<p>mine</p>\n');
  await page.goto(`${last.at}/release?draft=spring`);
  await page.getByRole('listitem').filter({ hasText: 'Flags out' }).getByRole('button', { name: 'Compare' }).click();
  const bring = page.getByRole('group', { name: 'Bring in' });
  await expect(bring.getByRole('listitem').filter({ hasText: 'pieces/tags.html' })).toContainText('taken over');
  await expect(bring.getByRole('listitem').filter({ hasText: 'pieces/stock.html' })).toContainText(
    'changed on both sides',
  );
  await bring.getByRole('button', { name: 'Bring in 1 file' }).click();
  await expect(page.getByText('1 file came in, as one change')).toBeVisible();
  await bring.getByText('Take theirs, in the place of mine').click();
  await bring.getByRole('button', { name: 'Bring in 1 file' }).click();
  await expect(bring).toContainText('All that it changed is here already');

  // Undone as one change.
  await page.getByRole('tab', { name: 'History' }).click();
  await page.getByRole('button', { name: /^Brought in from Flags out: pieces\/stock/ }).click();
  await page.getByRole('button', { name: 'Undo it' }).click();
  await expect(page.getByText('Undone: Brought in from Flags out: pieces/stock.html').first()).toBeVisible();
  const file = await page.request
    .get(`${last.at}/api/drafts/spring/file?path=pieces/stock.html`)
    .then((one) => one.json());
  expect((file as { text: string }).text).toContain('mine');

  await page.getByRole('button', { name: 'Delete Flags out' }).click();
  await expect(page.getByText('“Flags out” is deleted.')).toBeVisible();
  expect((await last.visit('/', { origin: last.draft('flags-out') })).status()).toBe(404);
  await page.getByRole('button', { name: 'Put it back' }).first().click();
  await expect(page.locator('.draft-cards li')).toHaveCount(2);
  expect((await last.visit('/', { origin: last.draft('flags-out') })).status()).toBe(200);
});

test('of two who publish at once the second is told what changed', async ({ page, last, context }) => {
  await put(page, last, 'pieces/stock.html', '<takes name="variant" type="Variant" required>\n<p>one</p>\n');
  await page.goto(`${last.at}/release`);
  await expect(page.getByRole('button', { name: 'Publish' })).toBeEnabled();
  const other = await context.newPage();
  await other.goto(`${last.at}/release`);
  // Both look at once which pages differ: neither ends what the other asked for.
  for (const one of [page, other])
    await one.getByRole('button', { name: 'See which pages come out different' }).click();
  for (const one of [page, other])
    await expect(one.getByRole('status')).toContainText(/^\d+ of 1\d\d pages come out different\.$/, {
      timeout: 60_000,
    });
  await other.getByRole('button', { name: 'Publish' }).click();
  await expect(other.getByText('Release 2 is live')).toBeVisible();
  // The first window has not been in front since: it still shows what was live before.
  const compared = await last.api.get(`${last.at}/api/compare?a=live&b=draft/spring`);
  const { revision } = (await compared.json()) as { revision: number };
  const answer = await last.api.post(`${last.at}/api/drafts/spring/publish`, { data: { revision, turn: 1 } });
  expect([answer.status(), ((await answer.json()) as { message: string }).message]).toEqual([
    409,
    'Not published: Release 2 went live meanwhile. It changed pieces/stock.html. Look at what differs now, then decide again.',
  ]);
  await other.close();
});

test('files are dropped in, renamed, looked at beside each other, deleted and restored', async ({ page, last }) => {
  await page.goto(`${last.at}/theme`);
  await expect(page.getByRole('row', { name: /article\/default\.html/ })).toBeVisible();
  // Rows out of sight come by the keyboard too.
  await page.getByRole('link', { name: 'article/default.html' }).focus();
  for (let row = 0; row < 40; row++) await page.keyboard.press('ArrowDown');
  await expect(page.locator('.file-name:focus')).toHaveAttribute('data-path', /^pieces\//);
  const picture = readFileSync('themes/quay-1.0/assets/img/mark.svg');
  const dropped = await page.evaluateHandle(
    (bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], 'anchor mark.svg', { type: 'image/svg+xml' }));
      return data;
    },
    [...picture],
  );
  await page.locator('.theme').dispatchEvent('dragenter', { dataTransfer: dropped });
  await expect(page.getByText('Let go: the files come into the shop’s layer.')).toBeVisible();
  await page.locator('.theme').dispatchEvent('drop', { dataTransfer: dropped });
  await expect(page.getByRole('row', { name: /assets\/img\/anchor-mark\.svg/ })).toContainText('the shop’s alone');
  // A new name is taken over by what names it.
  await put(page, last, 'content/default.html', `<img src={asset('img/anchor-mark.svg')} alt="">`);
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New path').fill('assets/img/anchor.svg');
  await page.keyboard.press('Enter');
  await expect(
    page.getByText('It is assets/img/anchor.svg now, and so it is called in content/default.html.'),
  ).toBeVisible();
  const named = await last.api.get(`${last.at}/api/drafts/spring/file?path=content/default.html`);
  expect(((await named.json()) as { text: string }).text).toBe(`<img src={asset('img/anchor.svg')} alt="">`);
  await expect(page.getByRole('row', { name: /assets\/img\/anchor\.svg/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /anchor-mark/ })).toHaveCount(0);

  // An icon, chosen from a list of files instead of dropped.
  await page.getByLabel('Where files go').click();
  await page.locator('.ant-select-item-option', { hasText: 'assets/icons' }).click();
  await page.getByLabel('Files for the shop’s layer').setInputFiles('themes/quay-1.0/assets/img/mark.svg');
  await expect(page.getByRole('row', { name: /assets\/icons\/mark\.svg/ })).toContainText('the shop’s alone');
  const sprite = await last.visit('/assets/icons.svg', { origin: last.draft('spring') });
  expect(await sprite.text()).toContain('<symbol id="mark"');

  await put(
    page,
    last,
    'pieces/stock.html',
    base('pieces/stock.html').replace('variant.stock < 6', 'variant.stock < 9'),
  );
  await page.reload();
  await page.getByLabel('Find a file').fill('stock');
  await page.getByRole('link', { name: 'pieces/stock.html' }).click();
  await expect(page.locator('.difference')).toContainText('variant.stock < 9');
  await page.getByRole('button', { name: 'Fall back to what is below' }).click();
  await expect(page.getByRole('row', { name: /pieces\/stock\.html/ })).not.toContainText('override');
  await page.getByRole('tab', { name: /^History/ }).click();
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('row', { name: /pieces\/stock\.html/ })).toContainText('override');
});

test('an existing file is shown before anything replaces it, and one click undoes it', async ({ page, last }) => {
  const text = async (path: string) =>
    ((await (await last.api.get(`${last.at}/api/drafts/spring/file?path=${path}`)).json()) as { text: string }).text;
  await page.goto(`${last.at}/theme`);
  // A new file at a path that the base has.
  await page.getByRole('button', { name: 'New file' }).click();
  const dialog = page.getByRole('dialog', { name: 'New file' });
  await dialog.getByLabel('Path').fill('layouts/shop.html');
  await expect(dialog.getByRole('status')).toContainText('Quay (base), changed by Quick find (add-on)');
  await expect(dialog.getByRole('button', { name: 'Make it' })).toBeDisabled();
  await page.keyboard.press('Enter');
  await expect(dialog).toBeVisible();
  await dialog.getByLabel('as a copy of the file of Quay').check();
  await dialog.getByRole('button', { name: 'Make it' }).click();
  await expect(page).toHaveURL(/\/bench\?.*file=layouts%2Fshop\.html/);
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  expect(await text('layouts/shop.html')).toBe(base('layouts/shop.html'));
  // The shop has it now.
  await page.goto(`${last.at}/theme`);
  await page.getByRole('button', { name: 'New file' }).click();
  await dialog.getByLabel('Path').fill('layouts/shop.html');
  await expect(dialog.getByRole('status')).toHaveText('The shop has layouts/shop.html already: open it to change it.');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();

  // Files that come in: one whose place the shop's own has, one of the base's, one that is new.
  const before = await text('pieces/tile.html');
  await page.getByLabel('Where files go').click();
  await page.locator('.ant-select-item-option', { hasText: 'pieces' }).click();
  const files = ['tile.html', 'berth.html'].map((name) => ({
    name,
    mimeType: 'text/html',
    buffer: Buffer.from(`<p>${name}</p>`),
  }));
  await page.getByLabel('Files for the shop’s layer').setInputFiles(files);
  const asked = page.getByRole('dialog', { name: 'This file is there already' });
  await expect(asked.getByRole('listitem')).toHaveText(/^pieces\/tile\.html is in Quay \(base\)/);
  expect(await text('pieces/tile.html')).toBe(before);
  await asked.getByRole('button', { name: 'Take the 1 new only' }).click();
  await expect(page.getByText('pieces/berth.html is in the shop’s layer.')).toBeVisible();
  expect(await text('pieces/tile.html')).toBe(before);
  await page.getByLabel('Files for the shop’s layer').setInputFiles(files);
  await asked.getByRole('button', { name: 'Put them in their place' }).click();
  const said = page.locator('.done-message', { hasText: '2 files are in the shop’s layer.' });
  await expect(said).toBeVisible();
  expect(await text('pieces/tile.html')).toBe('<p>tile.html</p>');
  await said.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => text('pieces/tile.html')).toBe(before);
});

test('the look is set by its form and seen as it is set; a font that is dropped in can be chosen', async ({
  page,
  last,
}) => {
  const form = new FormData();
  form.append(
    'file',
    new File(
      [readFileSync('node_modules/@fontsource/commit-mono/files/commit-mono-latin-400-normal.woff2')],
      'Sail-Mono.woff2',
    ),
  );
  const dropped = await fetch(`${last.at}/api/drafts/spring/drop`, {
    method: 'POST',
    body: form,
    headers: last.headers,
  });
  expect(((await dropped.json()) as { paths: string[] }).paths).toEqual(['assets/fonts/Sail-Mono.woff2']);
  await page.goto(`${last.at}/bench?page=/listing/all&file=look.json`);
  const look = page.getByRole('form', { name: 'The look' });
  await look.getByLabel('Accent', { exact: true }).fill('#802020');
  const accent = () =>
    shown(page)
      .locator('h1')
      .evaluate((one) => getComputedStyle(one).color);
  await expect.poll(accent).toBe('rgb(128, 32, 32)');
  // With the keyboard, as one drags.
  await look.getByRole('slider', { name: 'Width of the page' }).focus();
  for (let step = 0; step < 3; step++) await page.keyboard.press('ArrowRight');
  await expect.poll(() => shown(page).locator('html').getAttribute('style')).toContain('--width: 1220px');
  await look.getByRole('combobox', { name: 'Font of the text' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'Sail Mono' }).click();
  const known = () =>
    shown(page)
      .locator('html')
      .evaluate((one) => [getComputedStyle(one).fontFamily.split(',')[0], document.fonts.check('16px "Sail Mono"')]);
  await expect.poll(known).toEqual(['"Sail Mono"', true]);
  await look.getByLabel('columns of tag listings').fill('2');
  await page.keyboard.press('Control+s');
  await expect(page.locator('.bar-fine')).toHaveText('No problems');
  const file = async () =>
    (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=look.json`)).json()) as {
      text: string;
      hash: string | null;
    };
  await expect.poll(async () => (await file()).text).toContain('#802020');
  expect(JSON.parse((await file()).text)).toEqual({
    settings: [
      { name: 'accent', value: '#802020' },
      { name: 'width', value: 1220 },
      { name: 'font', value: 'Sail Mono' },
    ],
    listings: {
      category: { split_by: 'colour', pictures: 1 },
      filtered: { split_by: 'colour', pictures: 1 },
      tag: { columns: 2 },
    },
  });
  await look.getByRole('button', { name: 'Accent: as below' }).click();
  await expect.poll(accent).toBe('rgb(23, 50, 74)');
  await page.keyboard.press('Control+s');
  await expect.poll(async () => (await file()).text).not.toContain('#802020');
  await page.getByRole('tab', { name: 'History' }).click();
  await page.getByRole('button', { name: 'Restore' }).first().click();
  await expect.poll(accent).toBe('rgb(128, 32, 32)');
});

test('a ZIP that is not a theme is refused with the reason, and nothing of it comes in', async ({ page, last }) => {
  await page.goto(`${last.at}/theme`);
  const zip = join(mkdtempSync(join(tmpdir(), 'zip-')), 'evil.zip');
  const script =
    'import sys,zipfile\nz=zipfile.ZipFile(sys.argv[1],"w")\nz.writestr("about.json","{}")\nz.writestr("../evil.html","x")';
  execFileSync('python3', ['-c', script, zip]);
  await page.getByLabel('Version of a base or add-on').setInputFiles(zip);
  await expect(
    page.getByText('Nothing was brought in: the path “../evil.html” leads out of the folder.'),
  ).toBeVisible();
  await page.getByLabel('The shop’s own files').setInputFiles(zip);
  await expect(page.getByText('Nothing was brought in')).toBeVisible();
  const versions = await last.api.get(`${last.at}/api/versions`).then((one) => one.json());
  expect(versions).toHaveLength(2);
});

test('while releases go live no visitor is refused, and none gets a mixture', async ({ last }) => {
  const api = `${last.at}/api/drafts/spring`;
  const hashes = new Map<string, string | null>();
  const release = async (number: number) => {
    const texts = {
      'pieces/stock.html': `<takes name="variant" type="Variant" required>\n<p data-turn="${number}">x</p>\n`,
      'pieces/tags.html': `<takes name="tags" type="List of Tag" required>\n<p data-turn="${number}">x</p>\n`,
      'assets/css/own.css': `:root { --turn: ${number}; }\n`,
    };
    const files = Object.entries(texts).map(([path, text]) => ({ path, text, expected: hashes.get(path) ?? null }));
    const saved = await last.api.put(`${api}/files`, { data: { files } });
    for (const { path, own } of (await saved.json()) as { path: string; own: string | null }[]) hashes.set(path, own);
    expect((await last.publish()).status()).toBe(200);
  };
  await release(0);
  let over = false;
  const seen = new Set<string>();
  const visitor = async (): Promise<string[]> => {
    const wrong: string[] = [];
    while (!over) {
      const answer = await last.visit('/product/deck-oil');
      const html = await answer.text();
      const sheet = /href="(\/assets\/css\/own\.css\?v=[^"]+)"/.exec(html)?.[1] ?? '';
      const css = await (await last.visit(sheet)).text();
      const turns = [...html.matchAll(/data-turn="(\d+)"/g), ...css.matchAll(/--turn: (\d+)/g)].map(([, turn]) => turn);
      if (answer.status() !== 200 || turns.length !== 3 || new Set(turns).size !== 1)
        wrong.push(`${answer.status()}: ${turns.join(', ')}`);
      seen.add(turns[0] ?? '');
    }
    return wrong;
  };
  const visitors = Promise.all([visitor(), visitor(), visitor(), visitor()]);
  for (let number = 1; number <= 15; number++) await release(number);
  over = true;
  expect((await visitors).flat()).toEqual([]);
  // They were there all along.
  expect(seen.size).toBeGreaterThan(5);
});

test('before its scripts have come to life the Theme screen shows its files, and each is a link', async ({
  browser,
  last,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  // A server that has only just started takes longer to read a theme than the screen waits for it.
  await expect(async () => {
    await page.goto(`${last.at}/theme?draft=spring`);
    await expect(page.getByRole('link', { name: 'look.json' })).toBeVisible({ timeout: 300 });
  }).toPass({ timeout: 20_000 });
  await page.getByRole('link', { name: 'look.json' }).click();
  await expect(page).toHaveURL(/file=look\.json/);
  // What does not come with the page, since the server had other work, comes at the next try.
  await expect(async () => {
    if (!(await page.locator('.file-head').isVisible())) await page.reload();
    await expect(page.locator('.file-head')).toContainText('look.json', { timeout: 300 });
  }).toPass({ timeout: 20_000 });
  await context.close();
});
