import { chromium, type Page } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { draftOf } from '@/server/shop/states';
import { Shop } from '@/server/shop/shop';
import type { Report } from './live';
import { painted, share } from './painted';
import { seeded, serve } from './server';

const phrases = 5000;
const languages = ['en', 'fr', 'de', 'nl', 'pl', 'it'];

const spread = (values: number[], goal: string): string =>
  `${goal}; median ${share(values, 0.5).toFixed(0)}, worst ${Math.max(...values).toFixed(0)}, of ${values.length}`;

/** Arrange, and the table of phrases, in a real headless Chromium. */
export async function arrangeFigures(report: Report): Promise<void> {
  const { asked, say } = report;
  if (!asked('arrange.open', 'arrange.gallery', 'arrange.edit', 'words.table')) return;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
  const newPage = async () => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // tsx names functions by a helper that the page lacks.
    await page.addInitScript('globalThis.__name = (one) => one');
    return page;
  };
  try {
    if (asked('arrange.open', 'arrange.gallery', 'arrange.edit')) {
      say('Arrange in headless Chromium, demo shop, in milliseconds');
      const server = await serve(seeded(null));
      try {
        await arrange(report, await newPage(), server.at);
      } finally {
        server.end();
      }
    }
    if (asked('words.table')) {
      say(
        `The table of ${phrases.toLocaleString('en')} phrases in ${languages.length} languages, scrolled in headless Chromium`,
      );
      const server = await serve(manyPhrases());
      try {
        await table(report, await newPage(), server.at);
      } finally {
        server.end();
      }
    }
  } finally {
    await browser.close();
  }
}

async function arrange({ figure, asked }: Report, page: Page, at: string): Promise<void> {
  const opens: number[] = [];
  for (let count = 0; count < 11; count++) {
    await page.goto(`${at}/bench?page=/category/lamps`);
    await page.locator('.frame-room[aria-busy=false]').waitFor();
    await page.evaluate(() => {
      const state = { clicked: 0, shown: 0 };
      (window as unknown as { lastOpen: typeof state }).lastOpen = state;
      window.addEventListener('click', (event) => (state.clicked = event.timeStamp), { capture: true, once: true });
      const look = () => {
        if (state.clicked && document.querySelector('.arrange .placement')) state.shown = performance.now();
        else requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
    });
    await page.getByRole('button', { name: 'Arrange' }).click();
    const times = () =>
      page.evaluate(() => (window as unknown as { lastOpen: { clicked: number; shown: number } }).lastOpen);
    while (!(await times()).shown) await page.waitForTimeout(20);
    const { clicked, shown } = await times();
    opens.push(shown - clicked);
  }
  if (asked('arrange.open'))
    figure(
      'arrange.open',
      share(opens.slice(1), 0.5),
      'ms',
      spread(
        opens.slice(1),
        `at most 400, from the click until the shelves are there; the first after the start ${opens[0]?.toFixed(0)}`,
      ),
    );
  if (asked('arrange.gallery')) await gallery(page, figure);
  if (!asked('arrange.edit')) return;
  const shelf = page.getByRole('region', { name: 'Above the products' });
  await shelf.getByRole('button', { name: 'Add a piece…' }).click();
  await page
    .getByRole('list', { name: 'Pieces for Above the products' })
    .getByRole('button', { name: 'Banner' })
    .click();
  await page.getByLabel('Heading, en-GB').fill('Light');
  await page.waitForTimeout(1000);
  await page.getByLabel('Heading, en-GB').focus();
  const values = await painted(page);
  figure(
    'arrange.edit',
    share(values, 0.95),
    'ms',
    spread(values, 'at most 150: 95 of 100 letters, from the key until the page shows them'),
  );
}

/** From the click until the pictures of all pieces in sight are there, the first time and again. */
async function gallery(page: Page, figure: Report['figure']): Promise<void> {
  const button = page.getByRole('region', { name: 'Above the products' }).getByRole('button', { name: 'Add a piece…' });
  const times: number[] = [];
  for (let count = 0; count < 5; count++) {
    await page.evaluate(() => {
      const state = { clicked: 0, loaded: 0, pictures: 0 };
      (window as unknown as { lastGallery: typeof state }).lastGallery = state;
      window.addEventListener('click', (event) => (state.clicked = event.timeStamp), { capture: true, once: true });
      document.addEventListener(
        'load',
        ({ target }) => {
          if (!(target instanceof Element) || !target.closest('.piece-picture')) return;
          state.loaded = performance.now();
          state.pictures++;
        },
        true,
      );
    });
    await button.click();
    await page.waitForTimeout(3000);
    const { clicked, loaded, pictures } = await page.evaluate(
      () => (window as unknown as { lastGallery: { clicked: number; loaded: number; pictures: number } }).lastGallery,
    );
    if (!pictures) throw new Error('The list of pieces has no pictures');
    times.push(loaded - clicked);
    await page.keyboard.press('Escape');
    await page.waitForTimeout(500);
  }
  const [first = 0, ...again] = times;
  figure(
    'arrange.gallery',
    first,
    'ms',
    `at most 1,000, from the click until the pictures of the pieces in sight are there, the first time after the start; again ${Math.max(...again).toFixed(0)} at most`,
  );
}

/** A shop with so many phrases in so many languages, in the shop's own layer. */
function manyPhrases(): string {
  const folder = mkdtempSync(join(tmpdir(), 'last-bench-'));
  const { status, stderr } = spawnSync(
    'npx',
    [
      ...['tsx', 'src/cli/main.ts', 'new', folder, '--name', 'Words', '--currency', 'EUR'],
      ...['--languages', languages.join(','), '--theme', 'quay'],
    ],
    { env: { ...process.env, PORT: '0' }, encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(`The shop could not be made: ${stderr}`);
  const shop = new Shop(folder);
  const draft = draftOf(shop, 'first');
  const have = shop.theme(draft).theme.phraseKeys().size;
  const group = 50;
  const words = (language: string) => {
    const all: Record<string, Record<string, string>> = {};
    for (let at = 0; at < phrases - have; at++)
      (all[`group${Math.floor(at / group)}`] ??= {})[`phrase${at}`] = `${language}: sample text ${at}, {name}`;
    return Buffer.from(JSON.stringify(all, null, 2));
  };
  const made = { title: 'Words', at: new Date().toISOString(), by: 'bench' };
  shop.themes.save(
    draft.id,
    languages.map((language) => ({ path: `words/${language}.json`, bytes: words(language) })),
    made,
  );
  shop.sql.db.close();
  return folder;
}

async function table({ figure }: Report, page: Page, at: string): Promise<void> {
  const begin = Date.now();
  await page.goto(`${at}/theme?draft=first&view=words`);
  await page.locator('.phrase-table tbody th').first().waitFor();
  const first = Date.now() - begin;
  await page.waitForTimeout(1500);
  const rows = Number(await page.locator('.phrase-table').getAttribute('aria-rowcount')) - 1;
  if (rows !== phrases) throw new Error(`The table has ${rows} phrases`);
  const box = await page.locator('.phrase-room').boundingBox();
  if (!box) throw new Error('There is no table');
  await page.mouse.move(box.x + 300, box.y + 300);
  await page.evaluate(() => {
    const frames: number[] = [];
    (window as unknown as { lastFrames: number[] }).lastFrames = frames;
    let before = performance.now();
    const next = (now: number) => {
      frames.push(now - before);
      before = now;
      requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
  });
  for (let turn = 0; turn < 240; turn++) {
    await page.mouse.wheel(0, turn < 200 ? 900 : -4000);
    await page.waitForTimeout(16);
  }
  const frames = (await page.evaluate(() => (window as unknown as { lastFrames: number[] }).lastFrames)).slice(5);
  figure(
    'words.table',
    Math.max(...frames),
    'ms',
    `at most 50: the longest of ${frames.length} frames while it is scrolled; 99 of 100 ${share(frames, 0.99).toFixed(0)}; the first rows came after ${first} ms`,
  );
}
