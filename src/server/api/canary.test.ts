import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import type { Role } from '@/contract/roles';
import { type Asking, setGuarded, whoHeader, writeWho } from '@/server/http';
import { say } from '@/server/comments';
import { publish, writeText } from '@/server/drafts';
import { closeDraft, copyState, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { answerCall, calls } from './index';

/** Texts that stand in the source of templates alone: in what is not printed. Whoever sees no source gets them by no call. */
const canaries = ['canary-in-a-comment', 'canary-in-a-condition', 'canary-in-a-call', 'canary-in-a-mark'];
const source = `<!--: ${canaries[0]} :-->
<draw name="layouts/shop" title="{category.name}">
  <p do:when="category.slug == '${canaries[1]}'" do:mark="${canaries[3]}">no</p>
  <h1 do:let="none = products(tag: '${canaries[2]}')">{category.name}</h1>
  <shelf name="category-top" label="Above the products"></shelf>
</draw>
`;

/** A draft that is kept to developers, and what is said in it: of the draft nobody else gets its name either. */
const closedDraft = { from: 'draft/spring', name: 'Canary-in-a-draft-name', note: 'canary-in-a-note' };
const closedCanaries = ['anary-in-a-draft-name', 'canary-in-a-note', 'canary-in-something-said'];

const global = globalThis as { lastShop?: unknown };
beforeAll(() => {
  const shop = demoShop();
  global.lastShop = shop;
  const slug = copyState(shop, closedDraft, 'Kim');
  const closed = stateOf(shop, `draft/${slug}`);
  closeDraft(shop, closed, true);
  say(shop, closed, { by: 'Kim', text: 'canary-in-something-said', page: '/category/lamps' });
  // One that all see was copied from it, and what is live now came of it.
  const copied = copyState(shop, { from: `draft/${slug}`, name: 'Later', note: '' }, 'Kim');
  closeDraft(shop, stateOf(shop, `draft/${copied}`), false);
  publish(shop, closed, { note: '' }, 'Kim');
  writeText(shop, stateOf(shop, 'draft/spring'), 'category/default.html', source, null, 'Kim', undefined);
  setGuarded(true);
});
afterAll(() => {
  delete global.lastShop;
  setGuarded(false);
});

const as = (role: Role): Asking => ({ ...{ account: 1, name: 'kim', called: 'Kim', role, rights: null, session: '' } });

const query: Record<string, string> = {
  ...{ path: 'category/default.html', a: 'live', b: 'draft/spring', kind: 'category', slug: 'lamps', words: '' },
  ...{ key: 'home.more', of: 'category', part: 'name', hash: '', to: '1', layer: 'Withy Quay', from: 'live' },
};
const body = {
  ...{ view: null, address: '/category/lamps', try: null, on: null, unsaved: [], shown: null, open: null },
  ...{ origin: 'http://localhost:4171', fields: [{ object: 'Category', path: ['name'] }] },
};

/** Asks a call with all that any of them may want. */
async function asked(
  { method, path }: Endpoint,
  role: Role,
  draft = 'spring',
): Promise<{ status: number; text: string }> {
  const address = path.replace('{draft}', draft).replace(/\{\w+\}/g, '1');
  const given = method === 'GET' ? `?${new URLSearchParams(query).toString()}` : '';
  const answer = await answerCall(
    new Request(`http://127.0.0.1${address}${given}`, {
      method,
      headers: { [whoHeader]: writeWho(as(role)), 'Content-Type': 'application/json' },
      ...(method === 'GET' ? {} : { body: JSON.stringify(pick(path)) }),
    }),
  );
  return { status: answer.status, text: await answer.text() };
}
const pick = (path: string): object => {
  const { view, address, try: tried, on, unsaved, shown, open, origin, fields } = body;
  if (path.endsWith('/view')) return { view, address, try: tried, on, unsaved, shown, open, origin };
  if (path.endsWith('/arrange')) return { address, try: tried, on, unsaved };
  if (path.endsWith('/record-page')) return { view, address, shown, origin, changes: [] };
  return path.endsWith('/fact') ? { fields } : {};
};

const known = (text: string, of = canaries): string[] => of.filter((one) => text.includes(one));

describe('a draft that is kept to developers', () => {
  const draft = 'canary-in-a-draft-name';
  const all = calls.map(({ endpoint }) => endpoint);
  const reads = all.filter(({ method, path }) => method === 'GET' || /\/(?:view|arrange|record-page)$/.test(path));
  it('is listed to them with its name, and what is said in it', async () => {
    const texts = await Promise.all(reads.map(async (one) => (await asked(one, 'developer', draft)).text));
    expect(new Set(texts.flatMap((text) => known(text, closedCanaries)))).toEqual(new Set(closedCanaries));
  });
  it.each(reads.map((one) => [`${one.method} ${one.path}`, one] as const))(
    'reaches neither staff nor readers by %s',
    async (_, one) => {
      for (const role of ['staff', 'reader'] as const)
        for (const of of [draft, 'spring', 'later']) {
          const { status, text } = await asked(one, role, of);
          // A refusal names what was asked for, and nothing else.
          expect([role, of, known(status < 400 ? text : text.replaceAll(`“${draft}”`, ''), closedCanaries)]).toEqual([
            role,
            of,
            [],
          ]);
        }
    },
  );
  it('is changed by nobody else', async () => {
    for (const one of all.filter(({ path }) => path.includes('{draft}')))
      for (const role of ['staff', 'reader'] as const)
        expect([one.path, (await asked(one, role, draft)).status]).toEqual([
          one.path,
          expect.toBeOneOf([400, 403, 404, 409]),
        ]);
  });
});

describe('what stands in the source of a template', () => {
  const safe = calls
    .map(({ endpoint }) => endpoint)
    .filter(({ method, path }) => method === 'GET' || /\/(?:view|arrange|record-page)$/.test(path));
  it('reaches those who write it, by several calls', async () => {
    const by = await Promise.all(safe.map(async (one) => known((await asked(one, 'developer')).text).length));
    expect(by.filter((count) => count > 0).length).toBeGreaterThanOrEqual(3);
  });
  it.each(safe.map((one) => [`${one.method} ${one.path}`, one] as const))(
    'reaches neither staff nor readers by %s',
    async (name, one) => {
      for (const role of ['staff', 'reader'] as const)
        expect([name, role, known((await asked(one, role)).text)]).toEqual([name, role, []]);
    },
  );
  it('is on the page that staff arrange no more than on the shop’s', async () => {
    const view = calls.map(({ endpoint }) => endpoint).find(({ path }) => path.endsWith('/view')) as Endpoint;
    const { status, text } = await asked(view, 'staff');
    const { html, table } = JSON.parse(text) as {
      html: string;
      table: { shelves: unknown[]; sources: { file: string }[] };
    };
    expect([status, html.includes('<h1'), table.shelves.length]).toEqual([200, true, 1]);
    expect(new Set(table.sources.map(({ file }) => file))).toEqual(new Set(['']));
  });
});
