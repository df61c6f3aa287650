import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Addresses, setAddresses, setupFrom } from '@/server/http';
import { OrderSender } from '@/server/orders';
import { Shop } from '@/server/shop';
import { siteListener } from '@/server/storefront';
import { callListener } from '@/server/testing/call-listener';

/** For tests only: a process that serves a shop, takes goods and orders, and sends orders on, until it is killed. */
const [folder = ''] = process.argv.slice(2);
const shop = new Shop(folder);
(globalThis as { lastShop?: unknown }).lastShop = shop;
const server = createServer().listen(0, '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  const addresses = new Addresses(setupFrom({}, { port: 1, sitePort: port, draftPort: port }));
  setAddresses(addresses);
  const site = siteListener(() => shop, addresses);
  server.on('request', (request, response) =>
    request.url?.startsWith('/api/') ? callListener(request, response) : site(request, response),
  );
  process.stdout.write(`${port}\n`);
});
const sender = new OrderSender(shop.sql);
const tellOrders = async (): Promise<void> => {
  await sender.round();
  setTimeout(() => void tellOrders(), 20);
};
void tellOrders();
