import type { CoverLine } from '@/contract/alternates';
import { subjectKinds } from '@/core/address';
import type { Condition } from '@/core/alternates/condition';
import { Covers } from '@/server/alternates/coverage';
import { editAlternates, makeAlternate } from '@/server/alternates/alternates';
import { explainAt } from '@/server/alternates/explain';
import { draftOf } from '@/server/shop/states';
import { Shop } from '@/server/shop/shop';
import { retireTag } from '@/server/goods/retire-tag';
import type { Report } from './live';
import { seeded, serve } from './server';

const products = 100_000;
const rules = 100;

/** A hundred rules over everything that rules can ask of products: tags, types, categories, brands, prices, stock, days, attributes, fields; a third of them in groups. */
function conditions(shop: Shop): Condition[] {
  const texts = (sql: string) => shop.sql.all<{ v: string }>(sql).map(({ v }) => v);
  const [tags, types, categories, brands] = [
    texts('SELECT slug AS v FROM tag ORDER BY slug'),
    texts("SELECT DISTINCT type AS v FROM product WHERE type <> '' ORDER BY type"),
    texts('SELECT slug AS v FROM category ORDER BY slug'),
    texts('SELECT slug AS v FROM brand ORDER BY slug'),
  ];
  const pick = (list: string[], at: number) => list[at % list.length] as string;
  return Array.from({ length: rules }, (_, at): Condition => {
    const price: Condition = { fact: 'price', test: 'at-least', value: 90_000 + 500 * at };
    const leaves: Condition[] = [
      { all: [{ fact: 'tag', test: 'is', value: [pick(tags, at)] }, price] },
      {
        all: [
          { fact: 'type', test: 'is', value: [pick(types, at)] },
          { fact: 'stock', test: 'at-least', value: 150 + (at % 49) },
        ],
      },
      {
        all: [
          { fact: 'category', test: 'is', value: [pick(categories, at)] },
          { fact: 'added', test: 'since', value: `2026-0${1 + (at % 9)}-15` },
        ],
      },
      {
        any: [
          { fact: 'attribute', name: 'Lay', test: 'is', value: ['left-hand'] },
          { all: [{ fact: 'brand', test: 'is', value: [pick(brands, at)] }, price] },
        ],
      },
      {
        all: [
          { fact: 'field', name: 'breaking_load', test: 'at-least', value: 20 + at / 10 },
          { not: [{ fact: 'tag', test: 'is', value: [pick(tags, at + 3)] }] },
        ],
      },
      { fact: 'slug', test: 'contains', value: `-${1000 + at * 7}` },
    ];
    return leaves[at % leaves.length] as Condition;
  });
}

/** Figures of alternates at 100,000 products and 100 rules. */
export async function alternatesFigures({ asked, say, figure }: Report): Promise<void> {
  if (!asked('coverage.100k', 'coverage.kept', 'coverage.one', 'explain.one')) return;
  say(`Who gets what, for ${products.toLocaleString('en')} products and ${rules} rules`);
  const folder = seeded(products);
  const shop = new Shop(folder);
  const draft = () => draftOf(shop, 'spring');
  for (const name of ['a', 'b', 'c', 'd'])
    makeAlternate(shop, draft(), {
      kind: 'product',
      name,
      label: name,
      note: '',
      types: [],
      from: 'default',
      as: 'changes',
    });
  conditions(shop).forEach((when, at) =>
    editAlternates(shop, draft(), {
      do: 'put-rule',
      was: null,
      rule: {
        id: `r${at}`,
        kind: subjectKinds[1],
        alternate: 'abcd'[at % 4] as string,
        when,
        from: null,
        to: null,
        note: '',
      },
    }),
  );

  if (asked('explain.one')) {
    const slugs = shop.sql
      .all<{ slug: string }>('SELECT slug FROM product WHERE id % 2000 = 7')
      .map(({ slug }) => slug);
    explainAt(shop, draft(), `/product/${slugs[0]}`);
    const times = slugs.map((slug) => {
      const begin = performance.now();
      explainAt(shop, draft(), `/product/${slug}`);
      return performance.now() - begin;
    });
    times.sort((a, b) => a - b);
    const at = (share: number) => (times[Math.floor(share * (times.length - 1))] as number).toFixed(1);
    figure(
      'explain.one',
      times[times.length - 1] as number,
      'ms',
      `at most 50, the slowest of ${times.length} subjects with each of ${rules} rules told part by part; the median ${at(0.5)}`,
    );
  }
  if (asked('coverage.one')) {
    const covers = new Covers(shop);
    const look = () => {
      const steps = covers.coverage(draft(), { kind: 'product' }, null);
      for (;;) {
        const { done, value } = steps.next();
        if (done) return value;
      }
    };
    const before = look().computed;
    const one = shop.sql.get<{ id: number }>('SELECT id FROM product WHERE id % 9973 = 1') as { id: number };
    shop.sql.run("INSERT INTO tag (slug, name) VALUES ('bench-only', 'bench')");
    shop.sql.run(
      "INSERT INTO product_tag (product_id, tag_id) SELECT ?, id FROM tag WHERE slug = 'bench-only'",
      one.id,
    );
    retireTag(shop, 'bench-only', { at: '2026-11-28T10:00:00.000Z', by: 'bench' });
    const begin = performance.now();
    const again = look();
    const took = performance.now() - begin;
    figure(
      'coverage.one',
      took,
      'ms',
      `after a change to one product; ${again.computed - before} of ${products.toLocaleString('en')} worked out again`,
    );
  }
  shop.sql.db.close();

  if (asked('coverage.100k', 'coverage.kept')) {
    const server = await serve(folder);
    const target = { kind: 'product' };
    const ask = async (on: string | null) => {
      const begin = performance.now();
      const answer = await fetch(`${server.at}/api/drafts/spring/alternates/cover`, {
        method: 'POST',
        headers: { ...server.headers, 'Content-Type': 'application/json' },
        body: JSON.stringify({ target, on, by: 'category' }),
      });
      const reader = (answer.body as ReadableStream<Uint8Array>).getReader();
      const decoder = new TextDecoder();
      let text = '';
      let lines = 0;
      let first = 0;
      let known: CoverLine['coverage'] = null;
      let took = 0;
      for (;;) {
        const { done, value } = await reader.read();
        if (done) break;
        text += decoder.decode(value, { stream: true });
        const whole = text.split('\n');
        text = whole.pop() ?? '';
        for (const line of whole) {
          if (!known) lines++;
          if (!first) first = performance.now() - begin;
          const { coverage } = JSON.parse(line) as CoverLine;
          if (coverage) [known, took] = [coverage, performance.now() - begin];
        }
      }
      return { took, lines, first, known };
    };
    // Meanwhile the server is asked for a page now and then: it must not wait.
    let slowest = 0;
    let asking = true;
    const visits = (async () => {
      while (asking) {
        const begin = performance.now();
        await server.visit('/content/delivery');
        slowest = Math.max(slowest, performance.now() - begin);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    await (
      await fetch(`${server.at}/api/drafts/spring/alternates/match`, {
        method: 'POST',
        headers: { ...server.headers, 'Content-Type': 'application/json' },
        body: JSON.stringify({ target: { kind: 'content' }, on: null, when: { all: [] }, id: null }),
      })
    ).text();
    slowest = 0;
    const cold = await ask(null);
    const later: number[] = [];
    for (let day = 1; day <= 9; day++) later.push((await ask(`2031-01-0${day}`)).took);
    asking = false;
    await visits;
    await server.end();
    later.sort((a, b) => a - b);
    if (cold.known?.size !== products) throw new Error('not all products were covered');
    figure(
      'coverage.100k',
      cold.took,
      'ms',
      `at most 2,000, the first time after the server’s start, the catalogue read and the map grouped; ${cold.lines} lines of progress, the first after ${cold.first.toFixed(0)}; a visitor meanwhile waited at most ${slowest.toFixed(0)}`,
    );
    figure(
      'coverage.kept',
      later[4] as number,
      'ms',
      `the same for another day, the columns kept: the median of ${later.length}`,
    );
  }
}
