import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import getPort from 'get-port';
import {
  test as base,
  expect,
  request as requests,
  type APIRequestContext,
  type APIResponse,
  type FrameLocator,
  type Locator,
  type Page,
} from '@playwright/test';

import { askServer } from '../src/server/commands/ask';

type Visit = { origin?: string } & Parameters<APIRequestContext['fetch']>[1];

/** A server of the built workbench on a data folder of its own, with the demo in it. */
export class Server {
  #process: ChildProcess | null = null;
  /** Its data folder. */
  readonly folder: string;
  at = '';
  port = 0;
  /** Port of the shop and its drafts. */
  sitePort = 0;
  /** Origin of the live shop. */
  shop = '';
  /** Asks the workbench as its own pages do. */
  api!: APIRequestContext;
  /** What the workbench's own pages send with what they ask. */
  headers: Record<string, string> = {};

  constructor(seeded: string) {
    this.folder = mkdtempSync(join(tmpdir(), 'last-e2e-'));
    cpSync(seeded, this.folder, { recursive: true });
  }

  /** What it wrote on its console since it started. */
  said = '';

  /** `more`: settings of this start besides the usual ones. */
  async start(more: Record<string, string> = {}): Promise<void> {
    this.port ||= await getPort();
    this.sitePort ||= await getPort();
    this.at = `http://127.0.0.1:${this.port}`;
    this.shop = `http://shop.localhost:${this.sitePort}`;
    const env = {
      ...process.env,
      PORT: String(this.port),
      LAST_SITE_PORT: String(this.sitePort),
      LAST_DATA: this.folder,
      LAST_WARM: '0',
      NODE_ENV: 'production' as const,
      LAST_CHECK_ANSWERS: '1',
      ...more,
    };
    this.said = '';
    const child = spawn('node', builtServer, {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.#process = child;
    await new Promise<void>((resolve, reject) => {
      child.stdout?.on('data', (text: Buffer) => {
        this.said += text.toString();
        if (this.said.includes('Last is ready')) resolve();
      });
      child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
    });
    const token = readFileSync(join(this.folder, 'token'), 'utf8').trim();
    await this.api?.dispose();
    this.headers = { Origin: this.at, 'X-Last-Token': token };
    this.api = await requests.newContext({ extraHTTPHeaders: this.headers });
  }

  /** Origin of a draft's pages. */
  draft(name: string): string {
    return `http://${name}.localhost:${this.sitePort}`;
  }

  /** Fetches a page of the shop (or of another origin's) without a browser, by its host name whatever this machine knows of it. */
  async visit(address: string, { origin = this.shop, ...options }: Visit = {}): Promise<APIResponse> {
    const headers = { ...options.headers, Host: new URL(origin).host };
    return this.#plain().then((context) =>
      context.fetch(`http://127.0.0.1:${this.sitePort}${address}`, { maxRedirects: 0, ...options, headers }),
    );
  }

  #visitor: APIRequestContext | null = null;
  async #plain(): Promise<APIRequestContext> {
    return (this.#visitor ??= await requests.newContext());
  }

  /** Publishes a draft as it is now, as one who has just looked at it. */
  async publish(draft = 'spring'): Promise<APIResponse> {
    const answer = await this.api.get(`${this.at}/api/compare?a=live&b=draft/${draft}`);
    const { revision, turn } = (await answer.json()) as { revision: number; turn: number };
    return this.api.post(`${this.at}/api/drafts/${draft}/publish`, { data: { revision, turn } });
  }

  /** Brings back what it began with, while it runs. False: its process was another meanwhile, or has ended. */
  async reset(seeded: string): Promise<boolean> {
    if (this.#wasKilled || this.#process?.exitCode !== null) return false;
    await Promise.all([this.api.dispose(), this.#visitor?.dispose()]);
    this.#visitor = null;
    await askServer(this.folder, 'restore', { file: join(seeded, 'last.sqlite') });
    for (const name of readdirSync(this.folder))
      if (!inUse.test(name) && !existsSync(join(seeded, name))) rmSync(join(this.folder, name), { recursive: true });
    this.api = await requests.newContext({ extraHTTPHeaders: this.headers });
    return true;
  }

  #wasKilled = false;

  /** Ends it at once, as a power cut would. */
  async kill(): Promise<void> {
    const child = this.#process;
    this.#process = null;
    this.#wasKilled = true;
    if (!child) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.removeAllListeners('exit');
    child.once('exit', () => {});
    child.kill('SIGKILL');
    await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 500))]);
  }

  get pid(): number {
    return this.#process?.pid ?? 0;
  }

  /** Runs the installed command on this server's data; gives what it said. */
  command(...args: string[]): string {
    const { status, stdout, stderr } = spawnSync('node', [resolve('scripts/last-shop.mjs'), ...args], {
      env: { ...process.env, LAST_DATA: this.folder },
      // As it is installed, it works in any folder.
      cwd: tmpdir(),
      encoding: 'utf8',
    });
    expect(status, stderr).toBe(0);
    return stdout;
  }

  async end(): Promise<void> {
    await this.kill();
    await Promise.all([this.api?.dispose(), this.#visitor?.dispose()]);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** What a running server has in its folder besides its data. */
const inUse = /^(?:command\.sock|owner\..*|token|last\.sqlite-(?:wal|shm))$/;

/** The built server, as Node.js is to start it. */
export const builtServer = ['--enable-source-maps', '.bundle/server.mjs'];
export const builtCommand = ['--enable-source-maps', '.bundle/last.mjs'];

/** What a browser says where a page does what its policy forbids. */
const violation = /Content[- ]Security[- ]Policy/i;

export const test = base.extend<
  { last: Server; policy: { forbidden: string[]; expected: boolean } },
  { seeded: string; kept: { server: Server | null } }
>({
  /** No page of any test does what its policy forbids, but where that is what is tried (`expected`). */
  policy: [
    async ({ context }, use) => {
      const policy = { forbidden: [] as string[], expected: false };
      context.on('console', (message) => violation.test(message.text()) && policy.forbidden.push(message.text()));
      await use(policy);
      if (!policy.expected) expect(policy.forbidden).toEqual([]);
    },
    { auto: true },
  ],
  seeded: [
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'last-seed-'));
      const { status } = spawnSync('node', [...builtCommand, 'seed', '--no-work'], {
        env: { ...process.env, LAST_DATA: folder },
        stdio: 'inherit',
      });
      expect(status).toBe(0);
      await use(folder);
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  // A server takes seconds to start, and seconds more until its code is warm: one serves all tests, each with the data of the first.
  kept: [
    async ({}, use) => {
      const kept: { server: Server | null } = { server: null };
      await use(kept);
      await kept.server?.end();
    },
    { scope: 'worker' },
  ],
  last: async ({ kept, seeded }, use) => {
    let server = kept.server;
    kept.server = null;
    if (!(await server?.reset(seeded))) {
      await server?.end();
      server = new Server(seeded);
      await server.start();
    }
    await use(server as Server);
    kept.server = server;
  },
});

export { expect };

/** The page that the Bench shows. */
export function shown(page: Page): FrameLocator {
  return page.frameLocator('iframe[data-front=true]');
}

/** Waits until colours have faded into one another: what is seen is looked at after that. */
export async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
    const ending = document.getAnimations().filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity);
    await Promise.allSettled(ending.map(({ finished }) => finished));
  });
}

/** Moves the pointer onto the page that the Bench shows, as one does on the way to something in it. */
export async function goOver(page: Page): Promise<void> {
  // Where something opens beside it, the page moves: who misses it moves on.
  await expect(async () => {
    const box = await page.locator('iframe[data-front=true]').boundingBox();
    if (!box) throw new Error('No page is shown.');
    // Half-way down its edge: at the top the hint of the button that was just pressed lies over it.
    const y = box.y + box.height / 2;
    await page.mouse.move(box.x + 3, y);
    await page.mouse.move(box.x + 4, y + 1);
    // A browser finds what is under the pointer in what it last painted: the veil must be gone from there.
    await expect(page.locator('.frame-veil')).toBeHidden({ timeout: 1000 });
  }).toPass();
  await page.evaluate(() => new Promise((seen) => requestAnimationFrame(() => requestAnimationFrame(seen))));
}

/** Points at something on the page that the Bench shows, and waits until the bar says what it is. */
export async function pointAt(page: Page, target: Locator, told: string | RegExp): Promise<void> {
  await goOver(page);
  await target.hover();
  await expect(page.locator('.place-what')).toContainText(told);
}

/** Chooses something on the page that the Bench shows, while it points. */
export async function pick(page: Page, target: Locator): Promise<void> {
  await goOver(page);
  await target.click();
}

/** Opens the Bench on a page of the shop, and waits until page and source are there. */
export async function openBench(page: Page, last: Server, address: string, file?: string): Promise<void> {
  const query = new URLSearchParams({ page: address, ...(file ? { file } : {}) });
  await page.goto(`${last.at}/bench?${query}`);
  await expect(page.locator('.cm-content')).toBeVisible();
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  await narrow(page);
}

/** Shows the page at its own size: Playwright's clicks do not follow a frame that is scaled down. */
export async function narrow(page: Page): Promise<void> {
  await page.getByLabel('Width of the page').click();
  await page.locator('.ant-select-item-option', { hasText: '360' }).click();
  await expect(page.locator('iframe[data-front=true]')).toHaveCSS('width', '360px');
  await expect(page.locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden)')).toHaveCount(0);
}

/** Chooses from a list that opens: again, where it was still moving as it was clicked. */
export async function choose(page: Page, select: Locator, wanted: string): Promise<void> {
  const open = page.locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden)');
  await expect(async () => {
    if ((await select.getAttribute('aria-expanded')) !== 'true') await select.click();
    await open.locator('.ant-select-item-option', { hasText: wanted }).first().click({ timeout: 3000 });
    await expect(select).toHaveAttribute('aria-expanded', 'false', { timeout: 3000 });
  }).toPass();
}

/** Presses a key, and tells where that led: what is not yet seen to follow would be passed unread. */
export async function step(page: Page, key: string, told: () => Promise<string>): Promise<string> {
  const before = await told();
  await page.keyboard.press(key);
  await expect
    .poll(told, { timeout: 3_000, intervals: [20] })
    .not.toBe(before)
    .catch(() => undefined);
  return told();
}

/** Goes down a list by keys to the entry that is active with this text; the nth of that text. */
export async function downTo(page: Page, active: Locator, wanted: string, nth = 0): Promise<void> {
  const told = async () => ((await active.count()) ? await active.first().innerText() : '');
  for (let steps = 0, met = 0; steps < 30; steps++)
    if ((await step(page, 'ArrowDown', told)).includes(wanted) && met++ === nth) return;
  throw new Error(`${wanted} is not come to by going down`);
}

/** Puts the caret at the end of the first line of the source that holds this text. */
export async function caretBehind(page: Page, text: string): Promise<void> {
  const line = page.locator('.cm-line', { hasText: text }).first();
  // Only what is in view is there: further down it is come by page by page.
  for (let pages = 0; pages < 20 && !(await line.isVisible()); pages++) {
    if (!pages) {
      await page.locator('.cm-content').click();
      await page.keyboard.press('Control+Home');
    }
    await page.keyboard.press('PageDown');
  }
  await line.click();
  // A line that is wrapped has two ends: the first press goes to that of the row.
  await page.keyboard.press('End');
  await page.keyboard.press('End');
}

/** Replaces the whole source by hand: select all, write. */
export async function writeSource(page: Page, text: string): Promise<void> {
  await expect(page.locator('.cm-content')).not.toHaveAttribute('aria-readonly', 'true');
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(text);
}

/** Waits for the banner to say so. */
export async function expectStatus(page: Page, text: string): Promise<void> {
  await expect(page.locator('.banner [role=status]')).toHaveText(text);
}

export async function save(page: Page): Promise<void> {
  await page.keyboard.press('Control+s');
  await expectStatus(page, 'Saved.');
}

/** Quay with other texts, as a ZIP of a later version. */
export function changedBase(version: string, changes: Record<string, (text: string) => string>): string {
  const folder = join(mkdtempSync(join(tmpdir(), 'quay-')), 'quay');
  cpSync('themes/quay-1.0', folder, { recursive: true });
  const all = {
    'about.json': (text: string) => text.replace('"version": "1.0"', `"version": "${version}"`),
    ...changes,
  };
  for (const [path, change] of Object.entries(all)) {
    const text = readFileSync(join(folder, path), 'utf8');
    expect(change(text)).not.toBe(text);
    writeFileSync(join(folder, path), change(text));
  }
  const zip = `${folder}.zip`;
  execFileSync('python3', ['-m', 'zipfile', '-c', zip, folder]);
  return zip;
}
