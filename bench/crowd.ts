import { chromium, type Page } from '@playwright/test';
import { networkInterfaces } from 'node:os';
import getPort from 'get-port';
import { roles } from '@/contract/roles';
import { People } from '@/server/accounts';
import { SignIn } from '@/server/accounts/sign-in';
import { Shop } from '@/server/shop';
import type { Report } from './live';
import { share } from './painted';
import { seeded, serve, type Served } from './server';

const many = 50;
const saving = 10;
/** Each of those who save does so this often, and each window says as often who is here, in milliseconds. */
const savesEvery = 4000;
const saysEvery = 20_000;

/**
 * What an edit takes while others work: 50 people are signed in and have the same draft open, ten of them save a file of their own in it. Against the
 * same edit on the same server while they rest.
 */
export async function crowdFigures(
  { say, figure }: Report,
  edited: (page: Page, at: string) => Promise<number[]>,
): Promise<void> {
  say(`An edit while ${many} people are signed in and ${saving} of them save, in milliseconds`);
  const folder = seeded(null);
  const shop = new Shop(folder);
  const people = new People(shop.sql);
  const signIn = new SignIn(people);
  const cookies = Array.from({ length: many }, (_, at) => {
    const role = at <= saving ? 'developer' : (roles[at % roles.length] ?? 'reader');
    const { account } = people.invite({ name: `person-${at}`, called: `Person ${at}`, role }, 'bench');
    return signIn.openFor(account.id).map((one) => one.split(';')[0] ?? '');
  });
  shop.sql.db.close();
  const host = Object.values(networkInterfaces())
    .flat()
    .find((one) => one?.family === 'IPv4' && !one.internal)?.address;
  const server = await serve(folder, {
    ...{ LAST_BIND: '0.0.0.0', LAST_HOST: host ?? '127.0.0.2', LAST_DRAFT_PORT: String(await getPort()) },
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  try {
    // Each time a browser of its own: what was typed is not there any more.
    const measured = async (): Promise<number> => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      await context.addCookies(
        (cookies[0] ?? []).map((one) => {
          const at = one.indexOf('=');
          return { name: one.slice(0, at), value: one.slice(at + 1), url: server.at };
        }),
      );
      const values = await edited(await context.newPage(), server.at);
      await context.close();
      return share(values, 0.95);
    };
    const alone = await measured();
    const crowd = new Crowd(
      server,
      cookies.map((one) => one.join('; ')),
    );
    crowd.start();
    const amid = await measured();
    const { saves, said, wrong } = await crowd.end();
    if (wrong) throw new Error(`The crowd was refused: ${wrong}`);
    figure(
      'bench.crowd',
      amid / alone,
      '×',
      `at most 1.5; 95 of 100 edits within ${amid.toFixed(0)} ms, alone ${alone.toFixed(0)}; ${saves} saves and ${said} times who is here meanwhile`,
    );
  } finally {
    await browser.close();
    server.end();
  }
}

/** People who work in the draft that is measured. */
class Crowd {
  saves = 0;
  said = 0;
  wrong = '';
  readonly #timers: NodeJS.Timeout[] = [];
  readonly #open = new Set<Promise<void>>();
  readonly #hashes = new Map<number, string>();

  constructor(
    private readonly server: Served,
    private readonly cookies: string[],
  ) {}

  start(): void {
    for (const [at, cookie] of this.cookies.entries()) {
      if (at === 0) continue;
      const every = (ms: number, work: () => Promise<void>) => {
        // Not all in the same moment.
        const begin = () => {
          void this.#waits(work());
          this.#timers.push(setInterval(() => void this.#waits(work()), ms));
        };
        this.#timers.push(setTimeout(begin, (ms * at) / this.cookies.length));
      };
      if (at <= saving) every(savesEvery, () => this.#save(at, cookie));
      every(saysEvery, () => this.#say(at, cookie));
    }
  }

  async end(): Promise<{ saves: number; said: number; wrong: string }> {
    for (const timer of this.#timers) clearInterval(timer);
    await Promise.all(this.#open);
    return this;
  }

  async #waits(work: Promise<void>): Promise<void> {
    this.#open.add(work);
    await work;
    this.#open.delete(work);
  }

  async #save(at: number, cookie: string): Promise<void> {
    const body = {
      path: `pieces/own-${at}.html`,
      text: `<p>${this.saves}</p>\n`,
      expected: this.#hashes.get(at) ?? null,
    };
    const answer = await this.#ask('PUT', 'file', cookie, body);
    this.#hashes.set(at, ((await answer.json()) as { hash: string }).hash);
    this.saves++;
  }

  async #say(at: number, cookie: string): Promise<void> {
    const answer = await this.#ask('POST', 'here', cookie, { window: `window-${at}`, file: null, shelf: null });
    // Readers do not say it: they change nothing.
    if (answer.ok) this.said++;
  }

  async #ask(method: string, path: string, Cookie: string, body: object): Promise<Response> {
    const { at, headers } = this.server;
    const answer = await fetch(`${at}/api/drafts/spring/${path}`, {
      method,
      headers: { ...headers, Cookie, 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok && path === 'file') this.wrong ||= await answer.clone().text();
    return answer;
  }
}
