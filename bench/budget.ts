import { readFileSync, rmSync } from 'node:fs';
import { endless } from '@/core/language/testing/endless';
import type { Report } from './live';
import { seeded, serve } from './server';

/** Milliseconds between one request of a visitor’s and the next. */
const intervalMs = 25;
/** How long the usual waiting is measured. */
const usualMs = 6000;

/** Files of nothing but mistakes, and an icon of nothing but paths: saved and checked, they once held the server for seconds. */
const hostile: typeof endless = [
  { name: 'nothing but braces', piece: '{'.repeat(999_000) },
  { name: 'nothing but tags that end nowhere', piece: '<a '.repeat(330_000) },
  {
    name: 'an icon of 900 kB',
    piece: `<p>{icon('flag')}</p>`,
    files: {
      'assets/icons/flag.svg': `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">${'<path d="M0 0h24v24z"/>'.repeat(39_000)}</svg>`,
    },
  },
];

/**
 * What visitors of the live shop notice while a draft holds templates that never end: each is saved, checked, shown and asked for
 * as the Bench asks. Every request of the visitors' is for an address of its own, so that its page is made.
 */
export async function budgetFigures({ asked, say, figure }: Report): Promise<void> {
  if (!asked('budget.live', 'budget.page', 'budget.preview', 'budget.memory')) return;
  say('A visitor while templates without end are saved, checked and shown in a draft');
  const folder = seeded(null);
  const server = await serve(folder);
  const json = async (path: string, method = 'GET', body?: unknown): Promise<Record<string, unknown>> => {
    const answer = await fetch(server.at + path, {
      method,
      headers: { ...server.headers, 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return (await answer.json()) as Record<string, unknown>;
  };
  let visits = 0;
  let going = true;
  let waits: number[] = [];
  const visitor = async () => {
    while (going) {
      const from = performance.now();
      const answer = await server.visit(`/product/deck-oil?n=${visits++}`);
      if (answer.status !== 200) throw new Error(`The live page answered ${answer.status}`);
      waits.push(performance.now() - from);
      await new Promise((resolve) => setTimeout(resolve, intervalMs));
    }
  };
  /** Memory of the process in MB. */
  const memory = () =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const from = performance.now();
    await work();
    return performance.now() - from;
  };
  const showAsked = {
    view: null,
    address: '/',
    try: null,
    origin: server.at,
    unsaved: [],
    shown: null,
    open: 'home/default.html',
  };
  try {
    const visiting = visitor();
    // The threads for drafts are there before, as they are when someone works.
    await json('/api/drafts/spring/changes');
    await json('/api/drafts/spring/view', 'POST', showAsked);
    waits = [];
    await new Promise((resolve) => setTimeout(resolve, usualMs));
    const usual = waits;
    const before = memory();
    let [worst, page, preview, most] = [0, 0, 0, before];
    const publish = async () => {
      const { revision, turn } = await json('/api/compare?a=live&b=draft/spring');
      return json('/api/drafts/spring/publish', 'POST', { note: 'bench', revision, turn });
    };
    for (const { name, piece, files = {}, above = {} } of [...endless, ...hostile]) {
      const written = {
        'home/default.html': '<p>before</p><draw name="pieces/endless"/><p>after</p>',
        'pieces/endless.html': piece,
        ...files,
        ...above,
      };
      const watch = setInterval(() => (most = Math.max(most, memory())), 50);
      waits = [];
      const saved = await timed(async () => {
        for (const [path, text] of Object.entries(written)) {
          const now = await json(`/api/drafts/spring/file?path=${encodeURIComponent(path)}`).catch(() => ({}));
          const expected = (now as { hash?: string | null }).hash ?? null;
          await json('/api/drafts/spring/file', 'PUT', { path, text, expected });
        }
      });
      const shown = await timed(() => server.visit('/', 'spring'));
      const viewed = await timed(() => json('/api/drafts/spring/view', 'POST', showAsked));
      const checked = await timed(() => json('/api/drafts/spring/changes'));
      // With a page that never ends it is refused, after pages were made: what is live stays as it was.
      const published = await timed(publish);
      clearInterval(watch);
      const waited = Math.max(...waits);
      worst = Math.max(worst, waited);
      page = Math.max(page, shown);
      preview = Math.max(preview, viewed);
      const ms = (time: number) => time.toFixed(0).padStart(5);
      say(
        `  ${ms(saved)} saved ${ms(shown)} made ${ms(viewed)} shown ${ms(checked)} checked ${ms(published)} published; waited ${ms(waited)}  ${name}`,
      );
    }
    going = false;
    await visiting;
    const usually = Math.max(...usual);
    const middle = [...usual].sort((a, b) => a - b)[usual.length >> 1] as number;
    const against = `the longest wait at other times, ${usually.toFixed(0)} ms (in the middle ${middle.toFixed(0)}), of ${visits} visits`;
    figure('budget.live', worst - usually, 'ms', against);
    figure('budget.page', page, 'ms', 'a page without marks of the worst of them, in a draft');
    figure('budget.preview', preview, 'ms', 'a preview of the worst of them');
    figure('budget.memory', most - before, 'MB', `the server before, ${before.toFixed(0)} MB`);
  } finally {
    going = false;
    server.end();
    rmSync(folder, { recursive: true, force: true });
  }
}
