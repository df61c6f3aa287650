import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AxiosError, AxiosResponse } from 'axios';
import { OpenAPIClientAxios } from 'openapi-client-axios';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Shop } from '@/server/shop';
import { callListener } from '@/server/testing/call-listener';
import { demoShop } from '@/server/testing/demo-shop';
import { OrderHolds } from '@/store';

/**
 * Another back end, by a client that is made from the OpenAPI document alone (openapi-client-axios), as the server gives it. Conditions as RFC 9110, 13.1
 * and 15.5.13 have them; a request that is sent again under its Idempotency-Key.
 */
interface Answer {
  record: Record<string, unknown>;
  etag: string;
  taken: boolean;
  cursor: number;
  changes: { kind: string; slug: string; what: string; cursor: number }[];
  refused: { line: number; code: string; message: string }[];
}
type Call = (
  parameters: Record<string, string | number> | null,
  body?: unknown,
  config?: { headers?: Record<string, string> },
) => Promise<AxiosResponse<Answer>>;

const global = globalThis as { lastShop?: unknown };
let shop: Shop;
let server: Server;
let client: Record<string, Call>;
const call = (name: string, ...given: Parameters<Call>) => (client[name] as Call)(...given);
/** What a call is refused with. */
const refusal = async (asked: Promise<unknown>): Promise<{ status?: number; code?: string; message?: string }> => {
  const { response } = (await asked.then(
    () => {
      throw new Error('It was not refused');
    },
    (error: unknown) => error,
  )) as AxiosError<{ code: string; message: string }>;
  return { status: response?.status ?? 0, ...response?.data };
};

beforeAll(async () => {
  shop = demoShop([], 'themes/withy-quay', new Shop(mkdtempSync(join(tmpdir(), 'client-'))));
  global.lastShop = shop;
  server = createServer(callListener).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const api = new OpenAPIClientAxios({ definition: `${at}/api/openapi.json`, withServer: { url: at } });
  client = (await api.init()) as unknown as Record<string, Call>;
});
afterAll(() => {
  server.close();
  delete global.lastShop;
});

const brand = (slug: string) => ({ kind: 'brand', slug });

describe('a client made from the OpenAPI document', () => {
  it('puts, reads, patches and removes a record', async () => {
    const put = await call('feed.put', brand('hollow-oak'), { name: 'Hollow Oak' });
    expect([put.data.taken, put.headers.etag]).toEqual([true, put.data.etag]);
    const read = await call('feed.record', brand('hollow-oak'));
    expect(read.data).toMatchObject({ record: { slug: 'hollow-oak', name: 'Hollow Oak' }, etag: put.data.etag });
    const patched = await call('feed.patch', brand('hollow-oak'), { name: 'Hollow Oak & Sons' });
    expect(patched.data.etag).not.toBe(put.data.etag);
    // What was read can be put as it is, and changes nothing.
    const whole = (await call('feed.record', brand('hollow-oak'))).data;
    const again = await call('feed.put', brand('hollow-oak'), whole.record);
    expect(again.data).toEqual({ taken: false, etag: whole.etag });
    expect((await call('feed.remove', brand('hollow-oak'))).data).toEqual({ taken: true, etag: null });
    expect(await refusal(call('feed.record', brand('hollow-oak')))).toMatchObject({ status: 404, code: 'gone' });
    expect((await call('feed.remove', brand('hollow-oak'))).data).toEqual({ taken: false, etag: null });
    expect(await refusal(call('feed.patch', brand('hollow-oak'), { name: 'x' }))).toMatchObject({ status: 404 });
    expect(await refusal(call('feed.put', brand('hollow-oak'), { nonsense: 1 }))).toMatchObject({ status: 422 });
    expect(await refusal(call('feed.record', { kind: 'boat', slug: 'x' }))).toMatchObject({ status: 400 });
  });

  it('writes only where its conditions hold', async () => {
    const make = (headers: Record<string, string>, name = 'Reed') =>
      call('feed.put', brand('reed'), { name }, { headers });
    expect(await refusal(make({ 'If-Match': '*' }))).toMatchObject({ status: 412, code: 'match' });
    const { etag } = (await make({ 'If-None-Match': '*' })).data;
    expect(await refusal(make({ 'If-None-Match': '*' }, 'Other'))).toMatchObject({
      ...{ status: 412, message: `It is there already: its entity tag is ${etag}.` },
    });
    const next = (await make({ 'If-Match': `"other", ${etag}` }, 'Reed & Rush')).data;
    expect(await refusal(make({ 'If-Match': etag }, 'Late'))).toMatchObject({
      ...{ status: 412, message: `It was changed since: its entity tag is ${next.etag} now. Read it again.` },
    });
    expect(await refusal(make({ 'If-Match': 'no tag' }))).toMatchObject({ status: 400, code: 'condition' });
    expect((await call('feed.record', brand('reed'))).data.record.name).toBe('Reed & Rush');
    const stale = call('feed.remove', brand('reed'), undefined, { headers: { 'If-Match': etag } });
    expect((await refusal(stale)).status).toBe(412);
  });

  it('does so line by line, a line after another about the same record too', async () => {
    const { etag } = (await call('feed.put', brand('sedge'), { name: 'Sedge' })).data;
    const lines = [
      { ...brand('sedge'), patch: { name: 'One' }, ifMatch: etag },
      // It is another by then.
      { ...brand('sedge'), patch: { name: 'Two' }, ifMatch: etag },
      { ...brand('sedge'), patch: { name: 'Three' } },
      { ...brand('fen'), put: { name: 'Fen' }, ifNoneMatch: '*' },
      { ...brand('fen'), put: { name: 'Fen 2' }, ifNoneMatch: '*' },
    ];
    const body = lines.map((one) => JSON.stringify(one)).join('\n');
    const headers = { 'Content-Type': 'application/octet-stream', 'Idempotency-Key': 'conditions' };
    const { data } = await call('feed.take', null, body, { headers });
    expect(data.refused.map(({ line, code }) => [line, code])).toEqual([
      [2, 'match'],
      [5, 'match'],
    ]);
    expect((await call('feed.record', brand('sedge'))).data.record.name).toBe('Three');
    expect((await call('feed.take', null, body, { headers })).data).toEqual(data);
    expect((await call('feed.record', brand('fen'))).data.record.name).toBe('Fen');
  });

  it('finds a product unchanged although orders hold some of its stock', async () => {
    const product = { kind: 'product', slug: 'deck-oil' };
    const before = (await call('feed.record', product)).data;
    const [variant] = before.record.variants as { sku: string; stock: number }[];
    if (!variant) throw new Error('It has no variants');
    const holds = new OrderHolds(shop.sql);
    holds.setRule('taken');
    const line = {
      product: 'deck-oil',
      variant: variant.sku,
      sku: variant.sku,
      name: 'Deck oil',
      quantity: 2,
      price: 1,
    };
    shop.themes.transaction(() => holds.hold(999, [line] as never, new Date().toISOString()));
    expect((await call('feed.record', product)).data).toEqual(before);
    // Sent as it is known there, with the condition: the hold stays off.
    const headers = { 'If-Match': before.etag };
    const put = await call('feed.put', product, { ...before.record, name: 'Oil for decks' }, { headers });
    expect(put.data.taken).toBe(true);
    const stock = () => shop.sql.get<{ stock: number }>('SELECT stock FROM variant WHERE sku = ?', variant.sku)?.stock;
    expect(stock()).toBe(variant.stock - 2);
    shop.themes.transaction(() => holds.letGo(999, true));
    expect(stock()).toBe(variant.stock);
  });

  it('reads on from a cursor what was changed', async () => {
    const { cursor } = (await call('feed.changes', { after: 0, most: 10_000 })).data;
    await call('feed.put', brand('alder'), { name: 'Alder' });
    await call('feed.remove', brand('alder'));
    const { changes } = (await call('feed.changes', { after: cursor })).data;
    expect(changes.map(({ kind, slug, what }) => [kind, slug, what])).toEqual([
      ['brand', 'alder', 'added'],
      ['brand', 'alder', 'removed'],
    ]);
  });
});
