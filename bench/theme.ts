import { chromium } from '@playwright/test';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { draftOf } from '@/server/shop/states';
import { publish } from '@/server/drafts/release';
import { Shop } from '@/server/shop/shop';
import { copyState } from '@/server/shop/states';
import type { Report } from './live';
import { seeded, serve } from './server';

const files = 1000;
const made = (title: string) => ({ title, at: new Date().toISOString(), by: 'bench' });

/** A piece of the theme as one of many: the base's tile under another name, of about 2 KB. */
const piece = readFileSync('themes/quay-1.0/pieces/tile.html', 'utf8');

/** Fills the draft's own layer up to a theme of so many files. */
function fill(shop: Shop): void {
  const draft = draftOf(shop, 'spring');
  const have = shop.theme(draft).theme.paths().length;
  const writes = Array.from({ length: files - have }, (_, at) => ({
    path: at % 8 ? `pieces/many/piece-${at}.html` : `assets/css/many/sheet-${at}.css`,
    bytes: Buffer.from(at % 8 ? `${piece}<!-- ${at} -->\n` : `.many-${at} { color: red; }\n`),
  }));
  shop.themes.save(draft.id, writes, made('many'));
}

/** Figures of a theme of 1,000 files: its screen, publishing, a copy, what history takes, and visitors during publishes. */
export async function themeFigures({ asked, say, figure }: Report): Promise<void> {
  if (asked('theme.publish', 'theme.copy', 'theme.history')) {
    say('A theme of 1,000 files, as its services do it');
    const folder = seeded(null);
    const shop = new Shop(folder);
    fill(shop);
    const draft = () => draftOf(shop, 'spring');
    shop.theme(draft());
    const times: number[] = [];
    for (let number = 0; number < 12; number++) {
      shop.themes.save(
        draft().id,
        [{ path: 'pieces/many/piece-1.html', bytes: Buffer.from(`${piece}<!-- turn ${number} -->\n`) }],
        made('turn'),
      );
      const begin = performance.now();
      publish(shop, draft(), { note: '' });
      times.push(performance.now() - begin);
    }
    const spread = (list: number[], goal: string) =>
      `${goal}; ${list.length} times, ${Math.min(...list).toFixed(0)} to ${Math.max(...list).toFixed(0)}, the first ${list[0]?.toFixed(0)}`;
    figure(
      'theme.publish',
      Math.max(...times),
      'ms',
      spread(times, 'at most 2,000, one file changed, checks included'),
    );
    const copies: number[] = [];
    for (let number = 0; number < 20; number++) {
      const begin = performance.now();
      copyState(shop, { from: 'draft/spring', name: `Copy ${number}`, note: '' }, 'bench');
      copies.push(performance.now() - begin);
    }
    figure('theme.copy', Math.max(...copies), 'ms', spread(copies, 'at most 100'));
    const size = () => {
      shop.sql.db.pragma('wal_checkpoint(TRUNCATE)');
      return statSync(join(folder, 'last.sqlite')).size;
    };
    const before = size();
    const releases = 500;
    let written = 0;
    for (let number = 0; number < releases; number++) {
      const bytes = Buffer.from(`${piece}<!-- release ${number} -->\n`);
      written += bytes.length;
      shop.themes.save(draft().id, [{ path: `pieces/many/piece-${1 + (number % 7)}.html`, bytes }], made('one file'));
      shop.themes.transaction(() => shop.themes.publish(draft().id, '', new Date().toISOString(), 'bench'));
    }
    figure(
      'theme.history',
      (size() - before) / written,
      '×',
      `bytes on the disk for each byte that 500 releases changed (${(written / 1e6).toFixed(1)} MB, one file each; the theme has ${files})`,
    );
    const begin = performance.now();
    shop.theme(draft());
    figure('theme.history.read', performance.now() - begin, 'ms', 'the theme of the draft read after 500 releases');
    shop.sql.db.close();
  }
  if (asked('theme.screen')) {
    say('The Theme screen in headless Chromium, 1,000 files');
    const folder = seeded(null);
    const shop = new Shop(folder);
    fill(shop);
    shop.sql.db.close();
    const server = await serve(folder);
    const browser = await chromium.launch({
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
    });
    const times: number[] = [];
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      for (let number = 0; number < 11; number++) {
        await page.goto('about:blank');
        await page.goto(`${server.at}/theme`, { waitUntil: 'commit' });
        // Usable: files stand there, and a click on one is answered.
        await page.getByRole('button', { name: 'article/default.html' }).click();
        await page.locator('.file-head').waitFor();
        times.push(await page.evaluate(() => performance.now()));
        await page.getByLabel('Find a file').fill('piece-999');
        await page.getByRole('button', { name: 'pieces/many/piece-7.html' }).waitFor({ state: 'detached' });
      }
    } finally {
      await browser.close();
      server.end();
    }
    const later = times.slice(1).sort((a, b) => a - b);
    figure(
      'theme.screen',
      later[later.length >> 1] ?? 0,
      'ms',
      `at most 1,000, until a file that was clicked is shown; the middle of ten, ${later[0]?.toFixed(0)} to ${later.at(-1)?.toFixed(0)}; the first after the server's start ${times[0]?.toFixed(0)}`,
    );
  }
  if (asked('live.publishing')) {
    say('Visitors while releases go live');
    const folder = seeded(null);
    const server = await serve(folder);
    const api = `${server.at}/api/drafts/spring`;
    const send = (method: string, path: string, body: unknown) =>
      fetch(`${api}/${path}`, {
        method,
        body: JSON.stringify(body),
        headers: { ...server.headers, 'Content-Type': 'application/json' },
      });
    let over = false;
    let asked = 0;
    let failed = 0;
    let mixed = 0;
    const visitor = async () => {
      while (!over) {
        const { status, text: html } = await server.visit('/product/deck-oil');
        // The page's piece, another piece, and the sheet that it names: all of one release.
        const marks = [...html.matchAll(/data-turn="(\d+)"/g)].map(([, turn]) => turn);
        const sheet = /href="(\/assets\/css\/own\.css\?v=[^"]+)"/.exec(html)?.[1] ?? '';
        const css = await server.visit(sheet || '/none');
        marks.push(/--turn: (\d+)/.exec(css.text)?.[1] ?? 'none');
        asked += 2;
        if (status !== 200 || css.status !== 200) failed++;
        if (new Set(marks).size !== 1 || marks.length !== 3) mixed++;
      }
    };
    const releases = 60;
    const hashes = new Map<string, string | null>();
    try {
      for (let number = 0; number <= releases; number++) {
        const texts = {
          'pieces/stock.html': `<takes name="variant" type="Variant" required>\n<p data-turn="${number}">x</p>\n`,
          'pieces/tags.html': `<takes name="tags" type="List of Tag" required>\n<p data-turn="${number}">x</p>\n`,
          'assets/css/own.css': `:root { --turn: ${number}; }\n`,
        };
        const written = Object.entries(texts).map(([path, text]) => ({
          path,
          text,
          expected: hashes.get(path) ?? null,
        }));
        const saved = (await (await send('PUT', 'files', { files: written })).json()) as {
          path: string;
          own: string | null;
        }[];
        for (const { path, own } of saved) hashes.set(path, own);
        const looked = await (await fetch(`${server.at}/api/compare?a=live&b=draft/spring`)).json();
        const { revision, turn } = looked as { revision: number; turn: number };
        const answer = await send('POST', 'publish', { revision, turn });
        if (!answer.ok) throw new Error(await answer.text());
        if (number === 0) for (let count = 0; count < 8; count++) void visitor();
      }
    } finally {
      over = true;
      await new Promise((resolve) => setTimeout(resolve, 300));
      server.end();
    }
    figure(
      'live.publishing',
      failed + mixed,
      '',
      `none: ${asked} requests of 8 visitors during ${releases} publishes, ${failed} failed, ${mixed} mixed`,
    );
  }
}
