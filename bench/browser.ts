import { chromium, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import type { Report } from './live';
import { crowdFigures } from './crowd';
import { painted, share } from './painted';
import { seeded, serve, type Served } from './server';

/** Figures of the Bench in a real headless Chromium: how soon an edit is seen, whether typing waits, how pointing follows. */
export async function browserFigures(report: Report): Promise<void> {
  const { asked } = report;
  if (asked('bench.crowd')) await crowdFigures(report, edited);
  if (!asked('bench.edit', 'bench.key', 'bench.point')) return;
  report.say('The Bench in headless Chromium, demo shop, in milliseconds');
  const server = await serve(seeded(null));
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    if (asked('bench.edit')) await edit(report, page, server.at);
    if (asked('bench.key')) await key(report, page, server);
    if (asked('bench.point')) await point(report, page, server.at);
  } finally {
    await browser.close();
    server.end();
  }
}

const spread = (values: number[], goal: string): string =>
  `${goal}; median ${share(values, 0.5).toFixed(0)}, 95 of 100 ${share(values, 0.95).toFixed(0)}, 99 of 100 ${share(values, 0.99).toFixed(0)}, worst ${Math.max(...values).toFixed(0)}, of ${values.length}`;

async function open(page: Page, at: string, file: string): Promise<void> {
  await page.goto(`${at}/bench?page=/product/tarred-hemp-rope&file=${file}`);
  await page.locator('.cm-content').waitFor();
  await page.locator('.frame-room[aria-busy=false]').waitFor();
}

/** From the keystroke (the browser's own time of the event) to the frame's word that the changed page is painted. */
async function edit({ figure }: Report, page: Page, at: string): Promise<void> {
  const values = await edited(page, at);
  figure('bench.edit', share(values, 0.95), 'ms', spread(values, 'at most 100'));
}

/** Times from each keystroke to its page, in milliseconds. */
async function edited(page: Page, at: string): Promise<number[]> {
  await open(page, at, 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await page.locator('.cm-line', { hasText: 'do:otherwise' }).click();
  await page.keyboard.press('End');
  await page.keyboard.press('End');
  for (const _ of '</p>') await page.keyboard.press('ArrowLeft');
  return painted(page);
}

/** From the keystroke to the frame in which the letter is painted, in a template of 1,000 lines, 15 letters a second. */
async function key({ figure }: Report, page: Page, { at, headers }: Served): Promise<void> {
  const piece = readFileSync('themes/quay-1.0/pieces/tile.html', 'utf8').split('\n');
  const takes = piece.filter((line) => line.startsWith('<takes'));
  const lines = piece.filter((line) => !line.startsWith('<takes') && line);
  while (takes.length < 1000) takes.push(...lines);
  const text = `${takes.slice(0, 1000).join('\n')}\n`;
  const api = `${at}/api/drafts/spring/file`;
  const saved = await page.request.put(api, { headers, data: { path: 'pieces/long.html', text, expected: null } });
  if (!saved.ok()) throw new Error(`The long template was not saved: ${await saved.text()}`);
  await open(page, at, 'pieces/long.html');
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+Home');
  for (let down = 0; down < 480; down++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  const values = await typed(page);
  figure('bench.key', share(values, 0.99), 'ms', spread(values, 'at most 40'));
  // What the browser and the machine take by themselves: the same text in a bare field of a page without a script.
  await page.goto('about:blank');
  await page.setContent('<textarea style="width:560px;height:430px;font:13px/21px monospace"></textarea>');
  await page.locator('textarea').fill(text);
  await page.locator('textarea').click();
  const bare = await typed(page);
  figure('bench.key.bare', share(bare, 0.99), 'ms', spread(bare, 'a bare text field'));
}

/** Types 200 letters, 15 a second: for each the time to the end of the frame in which it is painted. */
async function typed(page: Page): Promise<number[]> {
  await page.evaluate(() => {
    const painted: number[] = [];
    (window as unknown as { lastKeys: number[] }).lastKeys = painted;
    window.addEventListener(
      'keydown',
      ({ timeStamp, key: pressed }) => {
        if (pressed.length !== 1) return;
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => painted.push(performance.now() - timeStamp);
          channel.port2.postMessage(null);
        });
      },
      true,
    );
  });
  for (let count = 0; count < 220; count++) {
    await page.keyboard.press(count % 9 === 8 ? 'Space' : String.fromCharCode(97 + (count % 26)));
    await page.waitForTimeout(66);
  }
  await page.waitForTimeout(500);
  const all = await page.evaluate(() => (window as unknown as { lastKeys: number[] }).lastKeys);
  return all.slice(20);
}

/** From a move of the pointer to the frame in which the outline stands at what is under it. */
async function point({ figure }: Report, page: Page, at: string): Promise<void> {
  await open(page, at, 'product/default.html');
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  await page.waitForTimeout(500);
  const frame = page.frames().find((one) => one.url().includes('//spring.localhost:')) ?? page.mainFrame();
  await frame.evaluate(() => {
    const followed: number[] = [];
    (window as unknown as { lastMoves: number[] }).lastMoves = followed;
    let moved = 0;
    window.addEventListener('mousemove', ({ timeStamp }) => (moved = timeStamp), true);
    new MutationObserver((records) => {
      const drawn = records.some(({ target }) => target instanceof Element && target.matches('html > [data-last-own]'));
      if (!drawn || !moved) return;
      const since = moved;
      moved = 0;
      const channel = new MessageChannel();
      channel.port1.onmessage = () => followed.push(performance.now() - since);
      channel.port2.postMessage(null);
    }).observe(document.documentElement, { childList: true, subtree: true });
  });
  const box = await page.locator('.frame-room').boundingBox();
  if (!box) throw new Error('There is no page to point at');
  for (let step = 0; step < 160; step++) {
    const part = (step % 40) / 40;
    await page.mouse.move(box.x + 40 + part * (box.width - 80), box.y + 30 + ((step * 37) % (box.height - 60)));
    await page.waitForTimeout(50);
  }
  const values = await frame.evaluate(() => (window as unknown as { lastMoves: number[] }).lastMoves);
  if (!values.length) throw new Error(`Nothing was pointed at in ${frame.url()}`);
  figure('bench.point', share(values, 0.95), 'ms', spread(values, 'a frame is 17'));
}
