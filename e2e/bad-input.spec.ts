import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtServer, caretBehind, expect, expectStatus, openBench, save, shown, test, writeSource } from './last';

test('a mistake is reported where it is, the page keeps its last good state, and fixing it updates the page', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  const mistakes: [text: string, line: number, message: string][] = [
    [
      '<takes name="variant" type="Variant">\n<p>\n<b>open</p>',
      3,
      '</p> closes <b>, opened on line 3: its own end tag is missing',
    ],
    ['<takes name="variant" type="Variant">\n<p>{variant.}</p>', 2, 'A field’s name is missing after “.”'],
    [
      '<takes name="variant" type="Variant">\n<p>one</p>\n<draw name="pieces/prise"/>',
      3,
      'There is no template “pieces/prise” in this theme; did you mean “pieces/price”?',
    ],
    [
      '<takes name="variant" type="Variant">\n<draw name="pieces/stock"/>',
      2,
      'These templates draw one another without end: pieces/stock → pieces/stock',
    ],
  ];
  await page.getByRole('tab', { name: /^Problems/ }).click();
  for (const [text, line, message] of mistakes) {
    await writeSource(page, text);
    await save(page);
    await expect(page.getByRole('region', { name: 'Problems' })).toContainText(`line ${line}: ${message}`);
    await expect(page.locator('.frame-stale')).toContainText(
      'The page shows the last version that worked. pieces/stock.html, line',
    );
    await expect(shown(page).locator('.stock')).toHaveText('24 in stock');
    await expect(page.locator('.cm-lint-marker-error')).toHaveCount(1);
  }
  await page.getByRole('link', { name: 'Review & publish' }).click();
  await expect(page.getByText('One error keeps this draft from going live')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish' })).toBeDisabled();
  await page.goBack();
  await expect(page.locator('.cm-content')).toBeVisible();
  await writeSource(page, '<p class="stock">fixed</p>');
  await save(page);
  await expect(shown(page).locator('.stock')).toHaveText('fixed');
  await expect(page.locator('.frame-stale')).toHaveCount(0);
});

test('a mistake shows as it is typed, before it is saved', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await caretBehind(page, 'do:otherwise');
  await page.keyboard.insertText('{variant.stock +');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  await expect(page.getByRole('region', { name: 'Problems' })).toContainText('The expression ends early');
  await expect(page.locator('.cm-lintRange-error')).toHaveCount(1);
});

test('unsaved text survives a reload and a killed server', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(page, '<p class="stock">typed, not saved</p>');
  await page.reload();
  await expect(page.locator('.banner [role=status]')).toContainText('Unsaved text from');
  await expect(page.locator('.cm-content')).toContainText('typed, not saved');

  await last.kill();
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Not saved. The server does not answer.')).toBeVisible();
  await expect(page.locator('.cm-content')).toContainText('typed, not saved');
  await last.start();
  await save(page);
  await expect(shown(page).locator('.stock')).toHaveText('typed, not saved');
  await page.reload();
  await expectStatus(page, 'Saved.');
});

test('two tabs that edit one file never overwrite one another', async ({ page, context, last }) => {
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.bringToFront();
    await openBench(tab, last, '/product/deck-oil', 'pieces/stock.html');
    await tab.getByRole('button', { name: 'Change this for the shop' }).click();
  }
  const base = await page.locator('.cm-content').innerText();
  expect(base).toContain('do:otherwise');
  // One puts something at the top, the other at the end.
  await page.bringToFront();
  await caretBehind(page, '<takes');
  await page.keyboard.insertText('<p class="stock">first</p>');
  await other.bringToFront();
  await caretBehind(other, 'do:otherwise');
  await other.keyboard.insertText('<p class="stock">second</p>');
  await save(page);
  await other.bringToFront();
  await expect(other.getByText('was saved from elsewhere meanwhile. Your text is kept here')).toBeVisible();
  await expect(other.locator('.cm-content')).toContainText('second');
  await expect(other.locator('.cm-content')).not.toContainText('first');
  const text = async () =>
    (
      (await (await last.api.get(`${last.at}/api/drafts/spring/file?path=pieces/stock.html`)).json()) as {
        text: string;
      }
    ).text;
  await other.keyboard.press('Control+s');
  expect(await text()).not.toContain('second');
  await other.getByRole('button', { name: 'Look at both and merge' }).click();
  await expect(other.getByText('Nothing overlaps: the right side holds both.')).toBeVisible();
  await expect(other.getByRole('textbox', { name: 'Merged' })).toContainText('first');
  await other.getByRole('button', { name: 'Use the right side' }).click();
  await save(other);
  expect(await text()).toContain('first');
  expect(await text()).toContain('second');
  // The first, with nothing typed, takes over what is newer.
  await expect(page.locator('.cm-content')).toContainText('second');
  await expectStatus(page, 'Saved.');
});

test('two tabs keep their unsaved texts apart, and a closed tab’s is offered to the next', async ({
  page,
  context,
  last,
}) => {
  const other = await context.newPage();
  for (const [tab, text] of [
    [page, 'mine'],
    [other, 'hers'],
  ] as const) {
    await tab.bringToFront();
    await openBench(tab, last, '/product/deck-oil', 'pieces/stock.html');
    await tab.getByRole('button', { name: 'Change this for the shop' }).click();
    await writeSource(tab, `<p class="stock">${text}</p>`);
  }
  for (const [tab, text] of [
    [page, 'mine'],
    [other, 'hers'],
  ] as const) {
    await tab.bringToFront();
    await tab.reload();
    await expect(tab.locator('.cm-content')).toContainText(text);
  }
  await page.close({ runBeforeUnload: false });
  const third = await context.newPage();
  await openBench(third, last, '/product/deck-oil', 'pieces/stock.html');
  await expect(third.locator('.cm-content')).toContainText('mine');
});

test('a name that is taken, a slug that is gone, a body that does not fit, and two megabytes are refused in words', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}/alternates`);
  for (const again of [false, true]) {
    await page.getByRole('button', { name: 'New alternate' }).click();
    await page.getByLabel('Label').fill('Load-rated');
    await page.getByRole('button', { name: 'Make it' }).click();
    if (!again) await expect(page.locator('.template-cards li', { hasText: 'Load-rated' })).toBeVisible();
  }
  await expect(page.getByRole('dialog')).toContainText(
    '“product/load-rated” is taken by “Load-rated”: choose another name.',
  );
  await expect(page.getByLabel('Label')).toHaveValue('Load-rated');

  const api = `${last.at}/api/drafts/spring`;
  const said = async (answer: { status(): number; json(): Promise<unknown> }) =>
    `${answer.status()} ${((await answer.json()) as { message: string }).message}`;
  const request = last.api;
  expect(
    await said(
      await request.post(`${api}/alternates/edit`, {
        data: { edit: { do: 'pin', kind: 'product', slugs: ['gone'], alternate: 'load-rated' } },
      }),
    ),
  ).toBe('404 There is no product “gone” any more: it was removed or renamed.');
  expect(
    await said(await request.put(`${api}/file`, { data: { path: 'pieces/a.html', text: 7, expected: null } })),
  ).toMatch(/^400 “text”: /);
  expect(
    await said(await request.put(`${api}/file`, { data: '{', headers: { 'Content-Type': 'application/json' } })),
  ).toMatch(/^400 /);
  expect(
    await said(await request.put(`${api}/file`, { data: { path: '../a.html', text: '', expected: null } })),
  ).toMatch(/^400 “path”: a path of letters/);
  expect(
    await said(
      await request.put(`${api}/file`, {
        data: { path: 'pieces/a.html', text: 'x'.repeat(2_000_000), expected: null },
      }),
    ),
  ).toMatch(/^413 .*2\.0 MB/);
  expect(
    await said(
      await request.put(`${api}/file`, {
        data: { path: 'pieces/a.html', text: 'x'.repeat(7_000_000), expected: null },
      }),
    ),
  ).toMatch(/^413 /);
  expect(
    await said(await request.post(`${api}/publish`, { data: {}, headers: { Origin: 'http://evil.example' } })),
  ).toBe('403 Only the workbench’s own pages may change anything here.');
});

test('a template of two megabytes is not saved, and not lost', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  // As a paste does it: typing so much by hand is nobody's way.
  await page.locator('.cm-content').evaluate((content) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', '<!-- a line of a long file -->\n'.repeat(65_000));
    content.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  await expectStatus(page, 'Not saved yet.');
  await page.locator('.cm-content').focus();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('“pieces/stock.html” would be 2.0 MB; a file of text may have 1 MB.')).toBeVisible();
  await page.reload();
  await expect(page.locator('.banner [role=status]')).toContainText('Unsaved text from');
});

test('a port in use and a data folder that cannot be written are said in a sentence', async ({ last }) => {
  const start = (env: Record<string, string>) =>
    spawnSync('node', builtServer, {
      env: { ...process.env, NODE_ENV: 'production', ...env },
      encoding: 'utf8',
      timeout: 30_000,
    });
  const inUse = start({ PORT: String(last.port), LAST_DATA: join(tmpdir(), 'last-unused') });
  expect([inUse.status, inUse.stderr]).toEqual([
    1,
    expect.stringContaining(`Port ${last.port} is in use: stop what uses it`),
  ]);
  const file = join(tmpdir(), `last-file-${process.pid}`);
  writeFileSync(file, '');
  const unwritable = start({ PORT: '1', LAST_DATA: file });
  expect([unwritable.status, unwritable.stderr]).toEqual([
    1,
    expect.stringContaining(`The data folder ${file} cannot be written`),
  ]);
});

test('the preview can neither read nor change the workbench, nor take its place', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil');
  await page.evaluate(() => localStorage.setItem('last:secret', 'x'));
  const reached = await shown(page)
    .locator('html')
    .evaluate(async (_, at) => {
      const attempt = async (work: () => unknown) => {
        try {
          return String(await work());
        } catch (error) {
          return (error as Error).name;
        }
      };
      const send = (url: string, mode: RequestMode) =>
        fetch(url, { method: 'POST', body: '{}', mode, credentials: 'include' }).then((answer) => answer.status);
      return {
        document: await attempt(() => window.parent.document.title),
        storage: await attempt(() => localStorage.getItem('last:secret')),
        here: await attempt(() => send('/api/drafts/spring/publish', 'cors')),
        there: await attempt(() => send(`${at}/api/drafts/spring/publish`, 'no-cors')),
        read: await attempt(() => fetch(`${at}/api/drafts`).then((answer) => answer.text())),
        file: await attempt(() => fetch('/api/drafts/spring/file?path=look.json').then((answer) => answer.status)),
        away: await attempt(() => {
          (window.top as Window).location.href = 'about:blank';
          return 'went';
        }),
        popup: await attempt(() => window.open('about:blank')),
      };
    }, last.at);
  expect(reached).toMatchObject({
    document: 'SecurityError',
    here: '405',
    there: 'TypeError',
    read: 'TypeError',
    file: '404',
    popup: 'null',
  });
  // A private window may keep a frame from storage altogether.
  expect(['null', 'SecurityError']).toContain(reached.storage);
  await expect(page).toHaveURL(/\/bench/);
  await expect(page.locator('.cm-content')).toBeVisible();
  const { turn } = (await (await last.api.get(`${last.at}/api/releases`)).json()) as { turn: number };
  expect(turn).toBe(1);
});

test('a lost connection is said, typing goes on, and the page follows when it is back', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await last.kill();
  await writeSource(page, '<p class="stock">typed while it was away</p>');
  await expect(page.locator('.frame-stale')).toContainText('The server does not answer. Go on typing');
  await expect(page.locator('.cm-content')).toContainText('typed while it was away');
  await last.start();
  await expect(page.locator('.frame-stale')).toHaveCount(0, { timeout: 15_000 });
  await expect(shown(page).locator('.stock')).toHaveText('typed while it was away');
});

test('a file that is removed elsewhere is offered back', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(page, '<p class="stock">ours</p>');
  await save(page);
  const api = `${last.at}/api/drafts/spring/file`;
  const { hash } = (await (await last.api.get(`${api}?path=pieces/stock.html`)).json()) as { hash: string };
  await last.api.delete(api, { data: { path: 'pieces/stock.html', expected: hash } });
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await expect(page.getByText('was taken out of the shop’s layer elsewhere')).toBeVisible();
  await page.getByRole('button', { name: 'Save mine again' }).click();
  await expectStatus(page, 'Saved.');
  await expect(page.locator('.cm-content')).toContainText('ours');
});
