import type { Browser, BrowserContext, Frame, Page } from '@playwright/test';
import { expect, goOver, Server, test as base } from '../last';
import { attacks, type Attack, type Defence, type Targets } from './theme';

/** One server for all: what an attack does is looked at, and each begins in a browser of its own. */
const test = base.extend<object, { server: Server }>({
  server: [
    async ({ seeded }, use) => {
      const server = new Server(seeded);
      await server.start();
      const made = await server.api.post(`${server.at}/api/drafts`, {
        data: { from: 'draft/spring', name: 'Autumn', note: '' },
      });
      expect(made.status()).toBe(200);
      await use(server);
      await server.end();
    },
    { scope: 'worker' },
  ],
});
test.use({ trace: 'off' });

const typed = '<p class="stock">what is not saved</p>';

interface Guess {
  revision: number;
  turn: number;
}

async function guessOf(server: Server): Promise<Guess> {
  const { revision, turn } = (await (
    await server.api.get(`${server.at}/api/compare?a=live&b=draft/spring`)
  ).json()) as Guess;
  return { revision, turn };
}

/** Removes one defence in a context, and nothing else. */
async function without(defence: Defence, context: BrowserContext, targets: Targets, server: Server): Promise<void> {
  if ('sandbox' in defence)
    await context.addInitScript((token) => {
      const set = Element.prototype.setAttribute;
      Element.prototype.setAttribute = function (name, value) {
        set.call(this, name, name === 'sandbox' ? `${value} ${token}` : value);
      };
    }, defence.sandbox);
  if ('headers' in defence)
    await context.route(`${targets[defence.of]}/**`, async (route) => {
      const { port, pathname } = new URL(route.request().url());
      // A screen's scripts are let in as they come.
      if (pathname.startsWith('/_next/static/')) return route.continue();
      const answer = await route.fetch({
        url: route
          .request()
          .url()
          .replace(/^http:\/\/[^/]+/, `http://127.0.0.1:${port}`),
        headers: { ...(await route.request().allHeaders()), host: new URL(route.request().url()).host },
        maxRedirects: 0,
      });
      const headers = Object.fromEntries(
        Object.entries(answer.headers()).filter(([name]) => !defence.headers.includes(name)),
      );
      await route.fulfill({ response: answer, headers });
    });
  if ('gate' in defence)
    await context.route(`${targets.workbench}/api/**`, async (route) => {
      const request = route.request();
      const origin = (await request.allHeaders()).origin ?? '*';
      if (origin === '*' || origin === targets.workbench) return route.continue();
      const answer = await server.api.fetch(request.url(), {
        method: request.method(),
        headers: { 'Content-Type': 'application/json' },
        ...(request.postData() === null ? {} : { data: request.postData() as string }),
      });
      await route.fulfill({
        response: answer,
        headers: {
          ...answer.headers(),
          'access-control-allow-origin': origin,
          'access-control-allow-credentials': 'true',
        },
      });
    });
  if ('origin' in defence) {
    // As the workbench was when it served drafts, and let itself be framed by itself.
    await context.route(`${targets.workbench}/**`, async (route) => {
      if (route.request().resourceType() !== 'document') return route.continue();
      const served = new URL(route.request().url()).pathname.startsWith('/draft/');
      const answer = served
        ? await server.visit('/product/deck-oil', { origin: targets.own })
        : await route.fetch({ maxRedirects: 0 });
      const headers = Object.fromEntries(
        Object.entries(answer.headers()).filter(([name]) => !/policy|x-frame/.test(name)),
      );
      await route.fulfill({ response: answer, headers });
    });
  }
}

/** Where the attacks aim on a server. */
const targetsOf = (server: Server): Targets => ({
  workbench: server.at,
  shop: server.shop,
  own: server.draft('spring'),
  other: server.draft('autumn'),
});

/** A browser in which someone has a text that is not saved. */
async function atWork(browser: Browser, targets: Targets): Promise<BrowserContext> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    // A page whose answer a test gives has no address of its own: Chromium would ask whether it may reach this machine.
    permissions: ['local-network-access'],
  });
  await context.addInitScript(
    ({ other, workbench, typed }) => {
      if (location.origin === other)
        addEventListener(
          'message',
          ({ data, source }) => data === 'who' && (source as Window).postMessage('here', '*'),
        );
      // As a window that is closed left it: the Bench offers it to the next.
      if (location.origin === workbench && window === top)
        localStorage.setItem(
          'last:unsaved:spring:pieces/stock.html:closed',
          JSON.stringify({ text: typed, from: null, at: '2026-01-01T00:00:00Z' }),
        );
    },
    { ...targets, typed },
  );
  return context;
}

/** A Bench at which someone types, for one attack after another, and what the present one reached by its dialogs and files. */
interface Bench {
  page: Page;
  reached: string[];
}

async function openBench(context: BrowserContext, { workbench }: Targets, first: string | null): Promise<Bench> {
  const page = await context.newPage();
  const bench: Bench = { page, reached: [] };
  page.on('dialog', (dialog) => {
    bench.reached.push('a dialog');
    void dialog.dismiss();
  });
  page.on('download', () => bench.reached.push('a file on the disk'));
  if (first) await page.goto(`${workbench}${first}`);
  await page.goto(`${workbench}/bench?page=/product/deck-oil&file=pieces/stock.html`);
  await expect(page.locator('.cm-content')).toContainText('not saved');
  return bench;
}

/** What the window showed before, for an attack that goes back to it. */
const firstOf = ({ script }: Attack): string | null => (script.includes('history') ? '/theme' : null);

/** The page of the draft in a Bench's frame. */
const inside = ({ page }: Bench, { own }: Targets): Frame | undefined =>
  page.frames().find((one) => one.url().startsWith(own));

/** Whether the next attack finds what this one did: what is typed after each makes the page again, but not to a frame that went elsewhere. */
async function isIntact(bench: Bench, targets: Targets): Promise<boolean> {
  const { page } = bench;
  if (page.isClosed() || !page.url().startsWith(`${targets.workbench}/bench`)) return false;
  const editor = page.getByLabel('Source of pieces/stock.html');
  if (!(await page.locator('.frame-room').count()) || !(await editor.count())) return false;
  if (!bare(await editor.textContent()).includes('what is not saved')) return false;
  if (await page.locator('.ant-select-dropdown:visible').count()) return false;
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  return inside(bench, targets) !== undefined;
}

/** The Bench of the attack before, or a new one where that left it changed or this one goes back in the window's history. */
async function benchFor(
  attack: Attack,
  before: Bench | null,
  context: BrowserContext,
  targets: Targets,
): Promise<Bench> {
  const first = firstOf(attack);
  if (before && !first && (await isIntact(before, targets))) return before;
  await before?.page.close();
  return openBench(context, targets, first);
}

/** A text without what was typed after each attack. */
const bare = (text: string | null): string => (text ?? '').replace(/![\d!]*/g, '');

/** Runs an attack while someone types on the Bench; what it reached, '' for nothing. */
async function run(
  context: BrowserContext,
  server: Server,
  attack: Attack,
  defended: boolean,
  bench: Bench,
): Promise<string> {
  const targets = targetsOf(server);
  const { defence } = attack;
  const { page, reached } = bench;
  reached.length = 0;
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  await page.locator('.cm-content').click();
  const front = page.locator('iframe[data-front=true]');
  const attended = !defended && 'attended' in defence;

  let at: Page | Frame = page;
  let windows = 1;
  if (attack.from === 'preview') {
    await expect.poll(() => inside(bench, targets) !== undefined).toBe(true);
    at = inside(bench, targets) as Frame;
    if (!defended && 'origin' in defence) {
      const came = page.waitForEvent('framenavigated', (one) => one.url().includes('/draft/spring/'));
      await front.evaluate((frame) => frame.setAttribute('src', '/draft/spring/product/deck-oil'));
      at = await came;
      await at.waitForLoadState();
    }
    if (attended) await goOver(page);
  } else {
    const tab = await context.newPage();
    windows++;
    await tab.goto(`${attack.from === 'tab' ? targets.own : targets.shop}/product/deck-oil`);
    at = tab;
  }
  const guess = await guessOf(server);
  if (attack.script.includes('tellSaved'))
    await page.evaluate(() => {
      setInterval(() => new BroadcastChannel('last:saved').postMessage({ draft: 'none', path: 'none' }), 200);
    });
  const held = await Promise.race([
    at
      .evaluate(
        async ({ script, targets, guess }) => {
          Object.assign(window, { guess });
          const AsyncFunction = Object.getPrototypeOf(async () => {}).constructor as new (
            ...text: string[]
          ) => (t: unknown) => Promise<string>;
          try {
            return await new AsyncFunction('t', script)(targets);
          } catch {
            return '';
          }
        },
        { script: attack.script, targets, guess },
      )
      .catch(() => ''),
    new Promise<string>((resolve) => setTimeout(() => resolve(''), 8000)),
  ]);
  if (held) reached.push(held);
  await page.waitForTimeout(600);

  const after = await guessOf(server);
  if (after.turn !== guess.turn) reached.push('published');
  if (after.revision !== guess.revision) reached.push('the draft was written');
  if (!page.url().startsWith(`${targets.workbench}/bench`)) reached.push('the window');
  else {
    const inner = context
      .pages()
      .flatMap((one) => one.frames().filter((frame) => frame !== one.mainFrame()))
      .filter((one) => one.url().startsWith(targets.workbench));
    for (const one of inner)
      if (await one.evaluate(() => document.body.innerText.length > 0).catch(() => false))
        reached.push('the workbench in a frame');
    if (context.pages().some((one) => one.url().endsWith('?taken'))) reached.push('a window of the workbench');
    const editor = page.locator('.cm-content');
    const label = await editor.getAttribute('aria-label', { timeout: 2000 }).catch(() => 'gone');
    if (label !== 'Source of pieces/stock.html') reached.push('the file in the editor');
    if (await page.locator('.ant-select-dropdown:visible').count()) reached.push('the list of files');
    // What is typed now goes into the editor, and the text is as it was: unless someone went into the page.
    if (attended) return ended();
    const mark = `!${attacks.indexOf(attack)}!`;
    await page.keyboard.type(mark);
    const text = (await editor.textContent({ timeout: 2000 }).catch(() => '')) ?? '';
    if (!text.includes(mark)) reached.push('what is typed');
    if (!bare(text).includes('what is not saved')) reached.push('the unsaved text');
  }
  return ended();

  async function ended(): Promise<string> {
    if (attack.from === 'preview' && context.pages().length > windows) reached.push('a window');
    await Promise.all(context.pages().map((one) => (one === page ? null : one.close())));
    return [...new Set(reached)].join(', ');
  }
}

test.describe('a hostile theme', () => {
  test(`tries ${attacks.length} ways, and reaches neither the workbench, nor another draft, nor what is not saved`, async ({
    browser,
    server,
    policy,
  }) => {
    test.setTimeout(600_000);
    policy.expected = true;
    const reached: string[] = [];
    const context = await atWork(browser, targetsOf(server));
    let bench: Bench | null = null;
    for (const attack of attacks) {
      bench = await benchFor(attack, bench, context, targetsOf(server));
      const got = await run(context, server, attack, true, bench);
      if (got) reached.push(`${attack.name}: ${got}`);
    }
    await context.close();
    expect(reached).toEqual([]);
  });

  test('would succeed in each with its one defence off', async ({ browser, server, policy }) => {
    test.setTimeout(900_000);
    policy.expected = true;
    const failed: string[] = [];
    const defences = new Set(attacks.map(({ defence }) => JSON.stringify(defence)));
    for (const key of defences) {
      const context = await atWork(browser, targetsOf(server));
      await without(JSON.parse(key) as Defence, context, targetsOf(server), server);
      let bench: Bench | null = null;
      for (const attack of attacks.filter(({ defence }) => JSON.stringify(defence) === key)) {
        let got = '';
        // Some wait for the workbench to come, and not for long: where the machine is busy they try again.
        for (let tries = 0; !got && tries < 3; tries++) {
          bench = await benchFor(attack, bench, context, targetsOf(server));
          got = await run(context, server, attack, false, bench);
        }
        if (!got) failed.push(attack.name);
      }
      await context.unrouteAll({ behavior: 'ignoreErrors' });
      await context.close();
    }
    expect(failed).toEqual([]);
  });
});
