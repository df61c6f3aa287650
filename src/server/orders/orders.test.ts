import { createSigner, httpbis } from 'http-message-signatures';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { makeOrder } from '@/server/testing/orders';
import { type OrderEventKind, OrderEvents } from '@/store';
import { OrderSender, waitAfter } from './sender';
import { StandIn } from './stand-in';
import { digestOf, newSecret, tell } from './tell';
import { verified } from './verify';

const secret = newSecret();
let shop: Shop;
let events: OrderEvents;
let clock: number;
const closing: (() => void)[] = [];
beforeEach(() => {
  shop = demoShop();
  events = new OrderEvents(shop.sql);
  clock = Date.parse('2026-11-30T10:00:00.000Z');
});
afterEach(() => {
  for (const close of closing.splice(0)) close();
});

const now = () => new Date(clock);
const sender = (timeoutMs = 20_000) => new OrderSender(shop.sql, now, timeoutMs);
function order(email = 'a@example.org'): number {
  const number = makeOrder(shop, email, now().toISOString(), [['Deck oil', 'OIL-1', 2, 1450]]);
  events.add(number, 'made', now().toISOString(), '', false);
  return number;
}
const say = (number: number, what: OrderEventKind) => events.add(number, what, now().toISOString(), 'Ash', false);
async function standIn(refuse = 0): Promise<StandIn> {
  const one = await StandIn.open({ secret, port: 0, refuse });
  closing.push(() => one.close());
  events.setReceiver({ url: one.url, secret });
  return one;
}
/** A receiver that does something else. */
async function receiver(listener: RequestListener): Promise<void> {
  const server = createServer(listener).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  closing.push(() => {
    server.closeAllConnections();
    server.close();
  });
  events.setReceiver({ url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, secret });
}

describe('signatures', () => {
  it('are those of the example in RFC 9421, B.2.5: key, request and signature from memory, which agree', async () => {
    const shared = 'uzvJfB4u3N0Jy4T7NZ75MDVcr8zSTInedJtkgcu46YW4XByzNJjxBdtjUkdJPBtbmHhIDi6pcl8jsasjlTMtDQ==';
    const key = createSigner(Buffer.from(shared, 'base64'), 'hmac-sha256', 'test-shared-secret');
    const { headers } = await httpbis.signMessage(
      {
        ...{ key, name: 'sig-b25', fields: ['date', '@authority', 'content-type'], params: ['created', 'keyid'] },
        paramValues: { created: new Date(1618884473_000) },
      },
      {
        method: 'POST',
        url: 'https://example.com/foo?param=Value&Pet=dog',
        headers: { date: 'Tue, 20 Apr 2021 02:07:55 GMT', 'content-type': 'application/json' },
      },
    );
    expect(headers).toMatchObject({
      'Signature-Input': 'sig-b25=("date" "@authority" "content-type");created=1618884473;keyid="test-shared-secret"',
      Signature: 'sig-b25=:pxcQw6G3AjtMBQjwo8XzkZf/bws5LelbaMk5rGIGtE8=:',
    });
    // The digest of the example in RFC 9530 (appendix B), from memory.
    expect(digestOf('{"hello": "world"}')).toBe('sha-256=:X48E9qOokqqrvdts8nOJRJN3OWDUoyWxBf7kbu9DBPE=:');
  });

  it('are believed for what was signed with the secret, a moment ago, and for nothing else', async () => {
    const number = order();
    const [event] = events.of(number);
    const body = events.body(number);
    let seen: { method: string; url: string; headers: Record<string, string>; body: string } | null = null;
    await receiver((request, response) => {
      let text = '';
      request.on('data', (part: Buffer) => (text += part.toString()));
      request.on('end', () => {
        const url = events.receiver()?.url ?? '';
        seen = { method: 'POST', url, headers: request.headers as Record<string, string>, body: text };
        response.end();
      });
    });
    const to = events.receiver();
    if (!event || !body || !to) throw new Error('There is no order');
    await tell(to, event, body);
    const request = seen as unknown as { method: string; url: string; headers: Record<string, string>; body: string };
    expect(await verified(request, secret)).toBe(true);
    expect(JSON.parse(request.body)).toMatchObject({
      id: event.key,
      what: 'made',
      order: { number, email: 'a@example.org' },
    });
    expect(request.headers['idempotency-key']).toBe(`"${event.key}"`);
    const { signature: _, ...unsigned } = request.headers;
    for (const [what, changed] of [
      ['another secret', request],
      ['another body', { ...request, body: request.body.replace('made', 'taken') }],
      ['another address', { ...request, url: `${request.url}x` }],
      ['another method', { ...request, method: 'PUT' }],
      ['another id', { ...request, headers: { ...request.headers, 'idempotency-key': '"x"' } }],
      ['no signature', { ...request, headers: unsigned }],
      [
        'fewer parts signed',
        {
          ...request,
          headers: {
            ...request.headers,
            'signature-input': String(request.headers['signature-input']).replace(' "content-digest"', ''),
          },
        },
      ],
    ] as const)
      expect([what, await verified(changed, what === 'another secret' ? newSecret() : secret)]).toEqual([what, false]);
  });
});

describe('orders that are told to the shop’s own system', () => {
  it('arrive once by their id, after two refusals, those of one order in their order', async () => {
    const one = await standIn(2);
    const first = order();
    say(first, 'taken');
    const second = order('b@example.org');
    // Both first messages are refused; what follows waits for them.
    expect(await sender().round()).toBe(0);
    expect(events.of(first).map(({ tries, said }) => [tries, said])).toEqual([
      [1, 'It answered 503.'],
      [0, ''],
    ]);
    expect(events.stuck()).toMatchObject({ count: 2, said: 'It answered 503.' });
    clock += 5000;
    expect(await sender().round()).toBe(0);
    clock += 5000;
    expect(await sender().round()).toBe(2);
    expect(await sender().round()).toBe(1);
    expect(await sender().round()).toBe(0);
    expect([...one.heard.values()].map(({ what, order: of }) => `${of.number} ${what}`).sort()).toEqual([
      `${first} made`,
      `${first} taken`,
      `${second} made`,
    ]);
    expect([...one.heard.values()].findIndex(({ what }) => what === 'taken')).toBeGreaterThan(
      [...one.heard.values()].findIndex(({ order: of }) => of.number === first),
    );
    expect([...one.times.values()]).toEqual([1, 1, 1]);
    expect(events.stuck()).toBeNull();
    // Sent once more when someone says so, under the id of before.
    const [made] = events.of(first);
    expect(events.again(first, made?.id ?? 0, now().toISOString())).toBe(true);
    expect(events.again(second, made?.id ?? 0, now().toISOString())).toBe(false);
    await sender().round();
    expect([one.heard.size, one.times.get(made?.key ?? '')]).toEqual([3, 2]);
  });

  it('are tried later and later, up to an hour, for a day of errors, and then arrive', async () => {
    let isWell = false;
    let came = 0;
    await receiver((request, response) => {
      came++;
      request.resume();
      response.writeHead(isWell ? 200 : 500).end();
    });
    const number = order();
    const until = clock + 86_400_000;
    while (clock < until) {
      await sender().round();
      clock += 60_000;
    }
    expect(came).toBeGreaterThan(24);
    expect(came).toBeLessThan(60);
    expect([waitAfter(0), waitAfter(1), waitAfter(50)]).toEqual([10_000, 20_000, 3_600_000]);
    isWell = true;
    events.hurry(now().toISOString());
    expect(await sender().round()).toBe(1);
    expect(events.of(number)[0]).toMatchObject({ dueAt: null, said: 'It answered 200.', tries: came });
  });

  it.each<[string, RequestListener, string | RegExp, boolean]>([
    ['hangs', () => {}, 'It did not answer within 0.2 seconds.', false],
    [
      'redirects',
      (_, response) => response.writeHead(302, { Location: 'https://other.example/' }).end(),
      'It answered 302 and leads to https://other.example/: give that address, if it is right.',
      false,
    ],
    ['closes the line', (request) => request.socket.destroy(), /^It cannot be reached: /, false],
    [
      'answers 200 and drops the line',
      (_, response) => {
        response.writeHead(200, { 'Content-Length': '1000' });
        response.write('half');
        setTimeout(() => response.destroy(), 20);
      },
      'It answered 200.',
      true,
    ],
    [
      'answers without end',
      (_, response) => {
        response.writeHead(200);
        const more = setInterval(() => response.write('x'.repeat(10_000)), 1);
        response.on('close', () => clearInterval(more));
      },
      'It answered 200.',
      true,
    ],
  ])('are kept, or taken as told, where the receiver %s', async (_, listener, said, taken) => {
    await receiver(listener);
    const number = order();
    // Who hangs is not waited for long here.
    expect(await sender(/0\.2/.test(String(said)) ? 200 : undefined).round()).toBe(taken ? 1 : 0);
    const [event] = events.of(number);
    if (typeof said === 'string') expect(event?.said).toBe(said);
    else expect(event?.said).toMatch(said);
    expect(event?.dueAt === null).toBe(taken);
  });

  it('are told to nobody where nobody is named, or they were tried in a draft', async () => {
    const number = order();
    expect(events.of(number)[0]?.dueAt).toBeNull();
    const one = await standIn();
    events.add(number, 'taken', now().toISOString(), 'Ash', true);
    expect(await sender().round()).toBe(0);
    expect(one.heard.size).toBe(0);
    events.setReceiver(null);
    expect(await sender().round()).toBe(0);
  });
});
