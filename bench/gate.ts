import { Addresses, setupFrom } from '@/server/http/addresses';
import { siteGate, workbenchGate, type Knock } from '@/server/http/gate';
import type { Report } from './live';

const calls = 200_000;

/** What it costs to hold a request to host, origin and token, before anything is done for it. */
export function gateFigures({ asked, say, figure }: Report): void {
  if (!asked('gate.write', 'gate.visit')) return;
  say('The gates');
  const addresses = new Addresses(setupFrom({}, { port: 4170, sitePort: 4171, draftPort: 4172 }));
  const token = 'x'.repeat(32);
  const host = '127.0.0.1:4170';
  const headers = { host, origin: `http://${host}`, 'sec-fetch-site': 'same-origin', 'x-last-token': token };
  const write: Knock = { method: 'PUT', url: '/api/drafts/spring/file', headers, hosts: 1 };
  const visit: Knock = { method: 'GET', url: '/product/deck-oil', headers: { host: 'shop.localhost:4171' }, hosts: 1 };
  const each = (gate: () => unknown): number => {
    if (gate() !== null) throw new Error('The gate refused what it measures');
    for (let call = 0; call < calls / 10; call++) gate();
    const from = performance.now();
    for (let call = 0; call < calls; call++) gate();
    return (performance.now() - from) / calls;
  };
  figure(
    'gate.write',
    each(() => workbenchGate(write, addresses, token)) * 1000,
    'µs',
    'a write of the workbench’s own page',
  );
  figure('gate.visit', each(() => siteGate(visit, addresses)) * 1000, 'µs', 'a visit of the shop');
}
