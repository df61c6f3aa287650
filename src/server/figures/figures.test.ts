import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import parse from 'parse-prometheus-text-format';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { counted, watchListener } from '@/server/health';
import type { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { makeOrder } from '@/server/testing/orders';
import { answersSoFar, metricsOf, tellAnswers } from '.';

let shop: Shop;
const closing: (() => void)[] = [];
beforeEach(() => {
  shop = demoShop();
});
afterEach(() => {
  for (const close of closing.splice(0)) close();
});
async function listening(listener: RequestListener): Promise<string> {
  const server = createServer(listener).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  closing.push(() => server.close());
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

describe('figures', () => {
  it('are given on a port of their own, as a parser of Prometheus’ format reads', async () => {
    makeOrder(shop, 'a@example.org', '2026-11-30T10:00:00.000Z', [['Deck oil', 'OIL-1', 2, 1450]]);
    const { registry, answers } = metricsOf(() => shop);
    const site = await listening(counted('shop', answers, (_, response) => void response.writeHead(404).end()));
    for (let times = 0; times < 3; times++) await fetch(site);
    const found: string[] = [];
    const text = async () => ({ type: registry.contentType, text: await registry.metrics() });
    const at = await listening(watchListener(text, () => found));
    const answer = await fetch(`${at}/metrics`);
    expect(answer.headers.get('content-type')).toMatch(/^text\/plain; version=0\.0\.4/);
    const exposed = await answer.text();
    const families = new Map(parse(exposed).map((one) => [one.name, one]));
    expect(families.get('last_orders')?.metrics).toContainEqual({ value: '1', labels: { state: 'new' } });
    expect(families.get('last_live_release')?.metrics).toEqual([{ value: '1' }]);
    const times = families.get('last_answer_seconds');
    expect([times?.type, times?.metrics[0]?.buckets?.['+Inf']]).toEqual(['HISTOGRAM', '3']);
    expect(exposed).toContain('last_answer_seconds_count{part="shop",status="4xx"} 3');
    expect(families.has('process_cpu_seconds_total')).toBe(true);
    // The status tells the same, in the bounds of the histogram.
    tellAnswers(answers);
    const [told] = await answersSoFar();
    expect(told).toMatchObject({ part: 'shop', count: 3, failed: 0 });
    expect([1, 3, 10, 30, 100]).toContain(told?.p95Ms);

    expect(await (await fetch(`${at}/readyz`)).json()).toEqual({ ready: true, faults: [] });
    found.push('Nothing is live: publish a draft.');
    const ready = await fetch(`${at}/readyz`);
    expect([ready.status, await ready.json()]).toEqual([503, { ready: false, faults: found }]);
    expect((await fetch(`${at}/healthz`)).status).toBe(200);
    expect((await fetch(`${at}/other`)).status).toBe(404);
    expect((await fetch(`${at}/metrics`, { method: 'POST' })).status).toBe(405);
  });

  it('count an answer that was broken off', async () => {
    const { registry, answers } = metricsOf(() => shop);
    const site = await listening(counted('shop', answers, (_, response) => void response.destroy()));
    await expect(fetch(site)).rejects.toThrow();
    await expect.poll(async () => registry.metrics()).toContain('status="broken off"');
  });

  it('of a render node are those of what it serves, and of no orders', async () => {
    const families = parse(await metricsOf(() => shop, { isNode: true }).registry.metrics()).map(({ name }) => name);
    expect(families).toEqual(
      expect.arrayContaining(['last_answer_seconds', 'last_pages_total', 'last_goods_revision']),
    );
    expect(families.filter((name) => /order|job/.test(name))).toEqual([]);
  });
});
