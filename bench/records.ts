import type { Report } from './live';
import { seeded, serve } from './server';

const products = 100_000;

/** The value of a sorted list that so many of 100 do not pass. */
const percentile = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor((times.length * share) / 100))] ?? 0;

/** Figures of the table of products and of records, in a shop of 100,000 products, over HTTP. */
export async function goodsFigures({ asked, say, figure }: Report): Promise<void> {
  if (
    !asked(
      ...['catalogue.table', 'catalogue.sort', 'catalogue.find', 'catalogue.used', 'catalogue.save', 'catalogue.page'],
      'catalogue.paste',
    )
  )
    return;
  say('The table of a shop of 100,000 products, cells that are written, and the page of a record as it is edited');
  const folder = seeded(products);
  const server = await serve(folder);
  const post = async <T>(path: string, body: unknown): Promise<{ ms: number; answer: T }> => {
    const begin = performance.now();
    const response = await fetch(`${server.at}/api/${path}`, {
      method: 'POST',
      headers: { ...server.headers, 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(`${path}: ${response.status} ${text.slice(0, 300)}`);
    return { ms: performance.now() - begin, answer: JSON.parse(text) as T };
  };
  interface Rows {
    rows: { slug: string; cells: Record<string, { text: string; locked: string | null }> }[];
  }
  const columns = ['name', 'price', 'stock', 'brand', 'tags', 'pictures', 'field:lead_time'];
  const table = (more: object) => post<Rows>('goods/table', { columns, count: 100, ...more });
  try {
    // The server prepares what it will need for some seconds after its start.
    await new Promise((resolve) => setTimeout(resolve, 8000));
    const first = await table({});
    figure(
      'catalogue.table',
      first.ms,
      'ms',
      'at most 300: the first rows of the table, the first time after the start',
    );
    const worst = async (asks: object[]) => {
      const times: number[] = [];
      for (const ask of asks) times.push((await table(ask)).ms);
      return { most: Math.max(...times), of: times.map((one) => one.toFixed(0)).join(', ') };
    };
    const sort = (column: string, down = false) => ({ sort: { column, down } });
    const sorts = await worst([
      sort('name'),
      sort('name', true),
      sort('price'),
      sort('field:lead_time', true),
      sort('attribute:Core'),
    ]);
    figure(
      'catalogue.sort',
      sorts.most,
      'ms',
      `at most 300: the slowest of five sorts, each by its column for the first time but the second (${sorts.of})`,
    );
    const finds = await worst([
      { search: 'rope' },
      { search: 'r' },
      { search: 'rope', ...sort('name') },
      { where: { fact: 'field', name: 'lead_time', test: 'empty' } },
      { where: { fact: 'description', test: 'empty' } },
      {
        where: {
          all: [
            { fact: 'tag', test: 'filled' },
            { fact: 'price', test: 'at-most', value: 2000 },
          ],
        },
      },
    ]);
    figure('catalogue.find', finds.most, 'ms', `at most 300: the slowest of six searches and filters (${finds.of})`);

    const used: number[] = [];
    for (const part of [
      'fields.lead_time',
      'summary',
      'description',
      'attributes',
      'tags',
      'media',
      'variants',
      'options',
    ]) {
      const began = performance.now();
      const answer = await fetch(`${server.at}/api/drafts/spring/field-uses?kind=product&part=${part}`, {
        headers: server.headers,
      });
      const uses = (await answer.json()) as { all: number; templates: unknown[] };
      if (uses.all !== products || !Array.isArray(uses.templates)) throw new Error(`What uses ${part} is not known`);
      used.push(performance.now() - began);
    }
    figure(
      'catalogue.used',
      Math.max(...used),
      'ms',
      `at most 200: the slowest of what uses eight parts of products, each for the first time (${used.map((one) => one.toFixed(0)).join(', ')})`,
    );

    const saves: number[] = [];
    for (let at = 0; at < 40; at++) {
      const row = first.answer.rows[at];
      if (!row) break;
      const was = row.cells['field:lead_time']?.text ?? '';
      const text = was === '7' ? '8' : '7';
      saves.push((await post('goods/cells', { cells: [{ slug: row.slug, column: 'field:lead_time', was, text }] })).ms);
      const page = await server.visit(`/product/${row.slug}`);
      if (page.status !== 200) throw new Error(`A visitor was answered ${page.status}`);
    }
    figure(
      'catalogue.save',
      percentile(saves, 95),
      'ms',
      `at most 100: what 95 of 100 saved cells take; the longest ${Math.max(...saves).toFixed(0)} ms`,
    );

    const slug = first.answer.rows[50]?.slug ?? '';
    const name = first.answer.rows[50]?.cells.name?.text ?? '';
    const keys: number[] = [];
    for (let at = 0; at < 60; at++) {
      const changes = [{ kind: 'product', slug, before: { name }, after: { name: `${name} ${'x'.repeat(at + 1)}` } }];
      const origin = new URL(`http://${server.host('spring')}`).origin;
      const made = await post<{ html: string | null }>('drafts/spring/record-page', {
        view: null,
        shown: null,
        origin,
        address: `/product/${slug}`,
        changes,
      });
      if (!made.answer.html?.includes('x'.repeat(at + 1))) throw new Error('The page does not show what was written');
      keys.push(made.ms);
    }
    figure(
      'catalogue.page',
      percentile(keys, 95),
      'ms',
      `at most 150: what 95 of 100 keystrokes in a record take until its page is made; the first ${(keys[0] ?? 0).toFixed(0)} ms`,
    );

    const cells: { slug: string; column: string; was: string; text: string }[] = [];
    for (let from = 0; cells.length < 5000; from += 500) {
      const { rows } = (await post<Rows>('goods/table', { columns: ['summary'], from, count: 500 })).answer;
      for (const row of rows)
        cells.push({
          slug: row.slug,
          column: 'summary',
          was: row.cells.summary?.text ?? '',
          text: `Pasted ${cells.length}`,
        });
    }
    const paste = await post<{ count: number }>('goods/cells', { cells: cells.slice(0, 5000) });
    figure(
      'catalogue.paste',
      paste.ms / 1000,
      's',
      `at most 3: a block of 5,000 cells as one change of ${paste.answer.count} products`,
    );
  } finally {
    server.end();
  }
}
