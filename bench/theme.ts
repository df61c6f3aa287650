import { chromium } from '@playwright/test';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { draftOf } from '@/server/shop/states';
import { publish } from '@/server/drafts/release';
import { Shop } from '@/server/shop/shop';
import { copyState } from '@/server/shop/states';
import type { Report } from './live';
import { seeded, serve, type Served } from './server';

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

/** In the page: clicks the first file of a folder once it stands there, and notes when it is shown, in milliseconds. */
function clickFirst(folder: string): void {
  const noted = window as { rowsAt?: number; shownAt?: number };
  // A click may be followed to another page: the time goes on from the one that was opened first.
  const opened = (sessionStorage.opened ??= String(performance.timeOrigin)) as string;
  let clicked = 'clicked' in sessionStorage;
  const look = () => {
    if (!clicked) {
      const row = [...document.querySelectorAll('.file-folder')].find((one) => one.textContent?.trim() === folder);
      const file = row?.nextElementSibling?.querySelector<HTMLElement>('.file-name');
      clicked = file?.checkVisibility() === true;
      if (clicked) {
        sessionStorage.clicked = 'yes';
        sessionStorage.rowsAt = performance.timeOrigin + performance.now() - Number(opened);
        file?.click();
      }
    } else if (document.querySelector('.file-head')?.checkVisibility()) {
      requestAnimationFrame(() => {
        noted.rowsAt = Number(sessionStorage.rowsAt);
        noted.shownAt = performance.timeOrigin + performance.now() - Number(opened);
      });
      return;
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}

/** A save until the draft's page with it is there, and the first publish after the screen that leads to it was looked at. */
async function saveAndPublish(server: Served, figure: Report['figure']): Promise<void> {
  const api = `${server.at}/api`;
  const send = async (method: string, path: string, body?: unknown): Promise<Record<string, unknown>> => {
    const answer = await fetch(`${api}/${path}`, {
      method,
      ...(body ? { body: JSON.stringify(body) } : {}),
      headers: { ...server.headers, 'Content-Type': 'application/json' },
    });
    if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`);
    return (await answer.json()) as Record<string, unknown>;
  };
  const path = 'pieces/stock.html';
  const opened = await send('GET', `drafts/spring/file?path=${path}`);
  let { hash } = opened;
  const saves: number[] = [];
  for (let number = 0; number < 21; number++) {
    const begin = performance.now();
    ({ hash } = await send('PUT', 'drafts/spring/file', {
      path,
      text: `${opened.text}<!-- ${number} -->`,
      expected: hash,
    }));
    await server.visit('/product/deck-oil', 'spring');
    saves.push(performance.now() - begin);
  }
  const sorted = saves.slice(1).sort((a, b) => a - b);
  figure(
    'theme.save',
    sorted[sorted.length >> 1] ?? 0,
    'ms',
    `a save of one file until its page is there, the middle of twenty, at most ${sorted.at(-1)?.toFixed(0)}, the first ${saves[0]?.toFixed(0)}; at most 150`,
  );
  await send('GET', 'drafts/spring/changes');
  const { revision, turn } = await send('GET', 'compare?a=live&b=draft/spring');
  const begin = performance.now();
  await send('POST', 'drafts/spring/publish', { note: '', revision, turn });
  figure(
    'theme.publish.first',
    performance.now() - begin,
    'ms',
    'the first publish after the start, its checks looked at before; at most 500',
  );
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
  if (asked('theme.screen', 'theme.screen.rows', 'theme.save', 'theme.publish.first')) {
    say('A theme of 1,000 files on a server: its screen in headless Chromium, a save, the first publish');
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
    const rows: number[] = [];
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      // tsx names functions by a helper that the page lacks.
      await page.addInitScript('globalThis.__name = (one) => one');
      await page.addInitScript(clickFirst, 'article');
      for (let number = 0; number < 11; number++) {
        // Each time as in a new window.
        await page.evaluate(() => location.origin === 'null' || sessionStorage.clear());
        await page.goto('about:blank');
        await page.goto(`${server.at}/theme`, { waitUntil: 'commit' });
        await page.waitForFunction(() => (window as { shownAt?: number }).shownAt !== undefined);
        times.push(await page.evaluate(() => (window as { shownAt?: number }).shownAt ?? Number.NaN));
        rows.push(await page.evaluate(() => (window as { rowsAt?: number }).rowsAt ?? Number.NaN));
      }
      await saveAndPublish(server, figure);
    } finally {
      await browser.close();
      server.end();
    }
    const [firstRows, ...otherRows] = rows;
    figure(
      'theme.screen.rows',
      otherRows.sort((a, b) => a - b)[otherRows.length >> 1] ?? 0,
      'ms',
      `at most 500, until its rows are to be seen and can be clicked; the middle of ten; the first after the server's start ${firstRows?.toFixed(0)}, at most 1,000`,
    );
    const later = times.slice(1).sort((a, b) => a - b);
    figure(
      'theme.screen',
      later[later.length >> 1] ?? 0,
      'ms',
      `at most 500, until a file that was clicked is shown; the middle of ten, ${later[0]?.toFixed(0)} to ${later.at(-1)?.toFixed(0)}; the first after the server's start ${times[0]?.toFixed(0)}, at most 1,000`,
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
