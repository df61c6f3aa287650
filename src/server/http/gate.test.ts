import { describe, expect, it } from 'vitest';
import { Addresses, setupFrom } from './addresses';
import { siteGate, soundAddress, workbenchGate, type Knock } from './gate';

const token = 'abcdefghijklmnopqrstuvwxyz012345';
const ports = { port: 4170, sitePort: 4171, draftPort: 4172 };
const addresses = new Addresses(setupFrom({}, ports));
const proxied = new Addresses(setupFrom({ LAST_PROXY: '1', LAST_HOST: 'bench.example.org' }, ports));

const knock = (method: string, url: string, headers: Record<string, string>, hosts = 1): Knock => ({
  method,
  url,
  headers,
  hosts,
});

type Row = [name: string, method: string, url: string, headers: Record<string, string>, status: number | null];

/** What the Fetch Standard says a browser sends: `Origin` with everything but GET and HEAD, `Sec-Fetch-Site` by where it comes from. */
describe('the gate of the workbench', () => {
  const host = { host: '127.0.0.1:4170' };
  const own = { ...host, origin: 'http://127.0.0.1:4170', 'sec-fetch-site': 'same-origin', 'x-last-token': token };
  const without = (name: string) => Object.fromEntries(Object.entries(own).filter(([key]) => key !== name));
  const table: Row[] = [
    ['its own host', 'GET', '/bench', host, null],
    ['localhost', 'GET', '/bench', { host: 'localhost:4170' }, null],
    ['someone else’s name', 'GET', '/bench', { host: 'evil.example:4170' }, 421],
    ['no host', 'GET', '/bench', {}, 421],
    ['another port', 'GET', '/bench', { host: '127.0.0.1:4171' }, 421],
    ['a draft’s name', 'GET', '/bench', { host: 'spring.localhost:4170' }, 421],
    ['a link from elsewhere', 'GET', '/bench', { ...host, 'sec-fetch-site': 'cross-site' }, null],
    ['an address that someone typed', 'GET', '/api/drafts', { ...host, 'sec-fetch-site': 'none' }, null],
    ['data for another site', 'GET', '/api/drafts', { ...host, 'sec-fetch-site': 'cross-site' }, 403],
    ['data for a draft’s page', 'GET', '/api/drafts', { ...host, 'sec-fetch-site': 'same-site' }, 403],
    ['a write from its own page', 'PUT', '/api/x', own, null],
    ['a write without a token', 'PUT', '/api/x', without('x-last-token'), 403],
    ['a write with another token', 'PUT', '/api/x', { ...own, 'x-last-token': token.toUpperCase() }, 403],
    ['a write with part of the token', 'PUT', '/api/x', { ...own, 'x-last-token': token.slice(1) }, 403],
    ['a write without an origin', 'POST', '/api/x', without('origin'), 403],
    [
      'a write from another site',
      'POST',
      '/api/x',
      { ...own, origin: 'http://evil.example', 'sec-fetch-site': 'cross-site' },
      403,
    ],
    ['a write from a sandboxed frame', 'POST', '/api/x', { ...own, origin: 'null' }, 403],
    ['a write that hides its origin', 'DELETE', '/api/x', { ...own, 'sec-fetch-site': 'cross-site' }, 403],
    ['a write from a draft', 'PUT', '/api/x', { ...own, origin: 'http://spring.localhost:4171' }, 403],
    ['a write from the shop', 'PUT', '/api/x', { ...own, origin: 'http://shop.localhost:4171' }, 403],
    ['a write by another of its names', 'PUT', '/api/x', { ...own, origin: 'http://localhost:4170' }, 403],
    ['a write by HTTPS to a server without', 'PUT', '/api/x', { ...own, origin: 'https://127.0.0.1:4170' }, 403],
    ['a method of its own', 'PROPFIND', '/api/x', own, 405],
    ['TRACE', 'TRACE', '/', host, 405],
    ['through a front server', 'GET', '/bench', { ...host, 'x-forwarded-for': '192.0.2.1' }, 400],
    ['through a front server, by the standard', 'GET', '/bench', { ...host, forwarded: 'for=192.0.2.1' }, 400],
    ['a long query', 'GET', `/bench?${'x'.repeat(2048)}`, host, 414],
    ['a query as long as may be', 'GET', `/bench?${'x'.repeat(2047)}`, host, null],
  ];
  for (const [name, method, url, headers, status] of table)
    it(name, () => expect(workbenchGate(knock(method, url, headers), addresses, token)?.status ?? null).toBe(status));
  it('two hosts', () => expect(workbenchGate(knock('GET', '/', host, 2), addresses, token)?.status).toBe(400));
  it('behind a front server of one’s own', () => {
    const by = { host: 'bench.example.org', 'x-forwarded-proto': 'https' };
    const write = { ...by, origin: 'https://bench.example.org', 'x-last-token': token };
    expect([
      workbenchGate(knock('GET', '/bench', by), proxied, token),
      workbenchGate(knock('PUT', '/api/x', write), proxied, token),
      workbenchGate(knock('PUT', '/api/x', { ...write, origin: 'http://bench.example.org' }), proxied, token)?.status,
    ]).toEqual([null, null, 403]);
  });
});

describe('the gate of the shop and its drafts', () => {
  const host = { host: 'spring.localhost:4171' };
  const table: Row[] = [
    ['a page', 'GET', '/product/deck-oil', host, null],
    ['its head', 'HEAD', '/', host, null],
    [
      'a form of its own',
      'POST',
      '/cart',
      { ...host, origin: 'http://spring.localhost:4171', 'sec-fetch-site': 'same-origin' },
      null,
    ],
    ['a form from a program', 'POST', '/cart', host, null],
    ['a form of another draft', 'POST', '/cart', { ...host, origin: 'http://autumn.localhost:4171' }, 403],
    ['a form of another site', 'POST', '/cart', { ...host, 'sec-fetch-site': 'cross-site' }, 403],
    ['a form of no origin', 'POST', '/cart', { ...host, origin: 'null' }, 403],
    ['a write', 'PUT', '/cart', host, 405],
    ['a question of what is allowed', 'OPTIONS', '/', host, 405],
    ['a service worker', 'GET', '/assets/js/sw.js', { ...host, 'service-worker': 'script' }, 403],
    ['a long query', 'GET', `/listing/search?q=${'x'.repeat(3000)}`, host, 414],
    ['through a front server', 'GET', '/', { ...host, 'x-forwarded-host': 'x' }, 400],
  ];
  for (const [name, method, url, headers, status] of table)
    it(name, () => expect(siteGate(knock(method, url, headers), addresses)?.status ?? null).toBe(status));
});

describe('an address that is written wrongly', () => {
  const table: [given: string, sound: string][] = [
    ['/product/deck-oil?q=%', '/product/deck-oil?q=%'],
    ['/product/%C3%A9', '/product/%C3%A9'],
    ['/product/%E0%A4%A', '/product/%25E0%25A4%25A'],
    ['/100%?page=2', '/100%25?page=2'],
    ['/%', '/%25'],
  ];
  for (const [given, sound] of table) it(given, () => expect(soundAddress(given)).toBe(sound));
});
