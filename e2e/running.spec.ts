import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import getPort from 'get-port';
import parse from 'parse-prometheus-text-format';
import { generate } from 'selfsigned';
import { nginxArgs } from '../src/server/testing/nginx';
import { expect, test, type Server } from './last';

/**
 * A shop as customers see it: HTTPS through nginx, a render node, and the workbench beside it. Goods come from another system, orders go to it, and the
 * status, the figures and the logs show all of that.
 */

test.use({ ignoreHTTPSErrors: true });

const children: ChildProcess[] = [];
const folders: string[] = [];
test.afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGTERM');
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

const newFolder = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'last-running-'));
  folders.push(folder);
  return folder;
};

/** A program that runs until it is told to end; `said` is what it says. */
function running(
  program: string,
  args: string[],
  env: Record<string, string> = {},
): { child: ChildProcess; said: () => string } {
  const child = spawn(program, args, { env: { ...process.env, ...env } });
  children.push(child);
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (text: Buffer) => (said += text.toString()));
  return { child, said: () => said };
}
const installed = (...args: string[]): string[] => ['scripts/last-shop.mjs', ...args];

/** nginx before the shop's node, as `last front` writes it, and before the workbench, as docs/running.md has it. */
async function nginx(last: Server, { port, node }: { port: number; node: number }): Promise<() => string> {
  const work = newFolder();
  const { cert, private: key } = await generate([{ name: 'commonName', value: 'shop.localhost' }]);
  const [certificate, keyFile] = [join(work, 'shop.pem'), join(work, 'shop.key')];
  writeFileSync(certificate, cert);
  writeFileSync(keyFile, key);
  mkdirSync(join(work, 'cache'));
  const front = last.command(
    ...['front', 'nginx', '--node', `127.0.0.1:${node}`, '--host', 'shop.localhost', '--port', String(port)],
    ...['--cache', join(work, 'cache'), '--certificate', certificate, '--key', keyFile],
  );
  const workbench = (name: string, to: number) => `server {
    listen ${port} ssl; server_name ${name}; ssl_certificate ${certificate}; ssl_certificate_key ${keyFile};
    location / {
      proxy_pass http://127.0.0.1:${to}; proxy_http_version 1.1; proxy_set_header Host $http_host;
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for; proxy_set_header X-Forwarded-Proto $scheme;
      proxy_set_header X-Request-Id $request_id;
    } }`;
  const bench = workbench('bench.localhost', last.port) + workbench('*.drafts.localhost', last.sitePort);
  return running('/usr/sbin/nginx', nginxArgs(work, `${front}\n${bench}`)).said;
}

interface Figure {
  sku: string;
  product: string;
  price: number;
  stock: number;
}

test('goods come from another system, a customer orders behind nginx, the order leaves, and all of it is told', async ({
  page,
  last,
}) => {
  test.setTimeout(300_000);
  const releases = newFolder();
  const nodeFolder = newFolder();
  const [port, node, metricsPort, nodeMetrics, receiverPort] = [
    ...[await getPort(), await getPort(), await getPort(), await getPort(), await getPort()],
  ] as [number, number, number, number, number];
  const logs = [join(newFolder(), 'workbench.log'), join(newFolder(), 'node.log')] as [string, string];
  await last.kill();
  await last.start({
    LAST_PROXY: '1',
    LAST_HOST: `bench.localhost:${port}`,
    LAST_SHOP_HOST: `shop.localhost:${port}`,
    LAST_DRAFT_HOST: `*.drafts.localhost:${port}`,
    LAST_RELEASES: releases,
    LAST_METRICS_PORT: String(metricsPort),
    LAST_LOG: logs[0],
  });
  await expect.poll(() => readdirSync(releases).filter((name) => name.endsWith('.release')).length).toBe(1);
  const serving = running(
    'node',
    installed(
      ...['serve', releases, '--host', `shop.localhost:${port}`, '--proxy', '--port', String(node), '--processes', '2'],
      ...['--data', nodeFolder, '--origin', `http://127.0.0.1:${last.sitePort}`, '--metrics', String(nodeMetrics)],
    ),
    { LAST_LOG: logs[1] },
  );
  await expect.poll(serving.said, { timeout: 60_000 }).toContain('Serving on');
  const front = await nginx(last, { port, node });
  const [shop, bench] = [`https://shop.localhost:${port}`, `https://bench.localhost:${port}`];

  // An owner comes in through nginx.
  const link = /\/come-in\S+/.exec(last.command('account', 'add', 'robin', '--called', 'Robin'))?.[0] ?? '';
  await page.goto(bench + link).catch((error: Error) => {
    throw new Error(`${error.message} ${front()}`);
  });
  await page.getByLabel('New password').fill('three quiet lamps');
  await page.getByRole('button', { name: 'Set it and come in' }).click();
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  /** A call of the workbench by its own page. */
  const call = <T>(method: string, path: string, body?: unknown): Promise<T> =>
    page.evaluate(
      async ([how, where, data]) => {
        const token = document.querySelector<HTMLMetaElement>('meta[name=last-token]')?.content ?? '';
        const headers = { 'Content-Type': 'application/json', 'X-Last-Token': token };
        const answer = await fetch(where, {
          method: how,
          headers,
          ...(data === undefined ? {} : { body: JSON.stringify(data) }),
        });
        const text = await answer.text();
        return text.includes('\n')
          ? text
              .split('\n')
              .filter(Boolean)
              .map((line) => JSON.parse(line) as unknown)
          : JSON.parse(text);
      },
      [method, path, body] as const,
    ) as Promise<T>;
  const { token } = await call<{ token: string }>('POST', '/api/tokens', {
    ...{ name: 'Stock system', rights: ['look', 'goods'], days: 7 },
  });
  const figureOf = async (sku: string) =>
    (await call<Figure[]>('GET', '/api/feed/figures')).find((one) => one.sku === sku) as Figure;
  const customer = await page.context().newPage();
  const shows = (text: string) =>
    expect(async () => {
      await customer.goto(`${shop}/product/deck-oil`);
      await expect(customer.locator('main')).toContainText(text, { timeout: 1000 });
    }).toPass();

  // The stand-in of the stock system changes prices, which customers see.
  const [oil] = (await call<Figure[]>('GET', '/api/feed/figures')).filter(({ product }) => product === 'deck-oil');
  if (!oil) throw new Error('There is no deck oil');
  const stock = running(
    'node',
    installed('stock-system', ...['--to', last.at, '--token', token, '--every', '50', '--some', '20']),
  );
  await expect.poll(async () => (await figureOf(oil.sku)).price, { timeout: 60_000 }).not.toBe(oil.price);
  stock.child.kill('SIGTERM');
  await new Promise((resolve) => stock.child.once('exit', resolve));
  const changed = await figureOf(oil.sku);
  await shows(`£${(changed.price / 100).toFixed(2)}`);
  // And a file of the night, with a line that names what is not there.
  const night = join(newFolder(), 'night.ndjson');
  writeFileSync(
    night,
    [
      { sku: oil.sku, price: 1234, stock: 40 },
      { sku: 'NO-SUCH', price: 1 },
    ]
      .map((line) => JSON.stringify(line))
      .join('\n'),
  );
  const fed = running('node', installed('feed', night, '--to', last.at, '--token', token));
  await new Promise((resolve) => fed.child.once('exit', resolve));
  expect(fed.said()).toContain('night.ndjson, line 2: No variant has the article number “NO-SUCH”.');
  expect(fed.said()).toContain('2 lines: 1 taken, 0 as it was, 1 refused.');
  await shows('£12.34');

  // Orders hold stock, and go to a system that refuses twice.
  await page.goto(`${bench}/orders`);
  await page.getByRole('button', { name: 'What orders do…' }).click();
  await page.getByLabel('Address').fill(`http://127.0.0.1:${receiverPort}/orders`);
  await page.getByRole('button', { name: 'Send orders there' }).click();
  const secret = await page.getByLabel('Secret').inputValue();
  await page.getByRole('combobox', { name: 'What is ordered is out of stock for others' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'Until the order is taken or cancelled' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  const receiver = running(
    'node',
    installed('receiver', '--secret', secret, '--port', String(receiverPort), '--refuse', '2'),
  );
  await expect.poll(receiver.said).toContain('Waiting for orders');
  await customer.goto(`${shop}/product/deck-oil`);
  await customer.getByRole('button', { name: 'Put in the cart' }).click();
  await expect(customer.getByRole('status')).toHaveText('It is in your cart.');
  await customer.getByLabel('Where may we write to?').fill('skipper@boat.example');
  await customer.getByRole('button', { name: 'Order', exact: true }).click();
  await expect(customer.getByRole('status')).toHaveText(/^Thank you\. Order \d+ /);
  const number = /Order (\d+)/.exec((await customer.getByRole('status').textContent()) ?? '')?.[1] ?? '';

  await page.getByRole('button', { name: `Order ${number}` }).click({ timeout: 40_000 });
  await expect(page.getByRole('article', { name: `Order ${number}` }).getByText('skipper@boat.example')).toBeVisible();
  // What it holds is off the goods, and not off what the stock system knows.
  type Read = { record: { variants: { sku: string; stock: number }[] } };
  const read = await call<Read>('GET', '/api/goods/record?kind=product&slug=deck-oil');
  expect(read.record.variants.find(({ sku }) => sku === oil.sku)?.stock).toBe(39);
  expect((await figureOf(oil.sku)).stock).toBe(40);
  const events = () =>
    receiver
      .said()
      .split('\n')
      .filter((line) => line.startsWith('{'))
      .map((line) => JSON.parse(line) as { what: string; order: { number: number } });
  await expect
    .poll(
      async () => {
        await call('POST', '/api/orders/send').catch(() => undefined);
        return events().length;
      },
      { timeout: 60_000 },
    )
    .toBe(1);
  expect(events()[0]).toMatchObject({ what: 'made', order: { number: Number(number) } });
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(() => events().map(({ what }) => what)).toEqual(['made', 'taken']);

  // The status, the figures and the logs have all of it.
  await page.goto(`${bench}/people?tab=status`);
  await expect(page.getByText('All is well.')).toBeVisible();
  await expect(page.getByText('0 new, 1 taken, 0 cancelled')).toBeVisible();
  const figures = async (at: number) =>
    new Map(parse(await (await fetch(`http://127.0.0.1:${at}/metrics`)).text()).map((one) => [one.name, one.metrics]));
  const revision = async (at: number) => (await figures(at)).get('last_goods_revision')?.[0]?.value;
  expect((await figures(metricsPort)).get('last_orders')).toContainEqual({ value: '1', labels: { state: 'taken' } });
  await expect.poll(() => revision(nodeMetrics)).toBe(await revision(metricsPort));
  const answered = (await figures(nodeMetrics)).get('last_answer_seconds')?.[0];
  expect(Number(answered?.buckets?.['+Inf'])).toBeGreaterThan(0);
  const lines = (file: string) =>
    readFileSync(file, 'utf8')
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line) as { id: string; method: string; path: string; status: number });
  const posts = (file: string) => lines(file).filter(({ method, path }) => method === 'POST' && path === '/cart');
  // One request has one id in both; lines are written now and then, by two processes of the node.
  const ids = (file: string) =>
    posts(file)
      .map(({ id }) => id)
      .sort();
  await expect.poll(() => [ids(logs[0]).length, ids(logs[1]).length]).toEqual([2, 2]);
  expect(ids(logs[0])).toEqual(ids(logs[1]));
  expect(readFileSync(logs[0], 'utf8') + readFileSync(logs[1], 'utf8')).not.toMatch(/skipper|robin|Robin/);

  // The doctor finds nothing wrong, and then five faults: a message that nobody takes, nothing live, half a release file, no packages, nothing built.
  expect(last.command('doctor', '--releases', releases)).not.toContain('✗');
  const gone = new Promise((resolve) => receiver.child.once('exit', resolve));
  receiver.child.kill('SIGKILL');
  await gone;
  await call('POST', `/api/orders/${number}/state`, { state: 'cancelled', was: 'taken' });
  await expect(async () => {
    await call('POST', '/api/orders/send');
    const { stuck } = await call<{ stuck: { count: number } | null }>('GET', '/api/orders');
    expect(stuck?.count).toBe(1);
  }).toPass();
  await last.kill();
  const db = new Database(join(last.folder, 'last.sqlite'));
  db.exec('DELETE FROM live');
  db.close();
  const file = readdirSync(releases).find((name) => name.endsWith('.release')) ?? '';
  // As a copy that was broken off leaves it.
  writeFileSync(join(releases, `${file}.part`), readFileSync(join(releases, file)).subarray(0, 40_000));
  renameSync(join(releases, `${file}.part`), join(releases, file));
  const empty = newFolder();
  writeFileSync(join(empty, 'package.json'), '{}');
  const doctor = running('node', ['.bundle/last.mjs', 'doctor', '--releases', releases], {
    LAST_DATA: last.folder,
    LAST_PROGRAM: empty,
  });
  await new Promise((resolve) => doctor.child.once('exit', resolve));
  const faults = doctor
    .said()
    .split('\n')
    .filter((line) => line.startsWith('✗'));
  expect(faults).toEqual([
    expect.stringMatching(/^✗ Packages: better-sqlite3 does not load .* run npm ci in /),
    expect.stringMatching(/^✗ Program: Last is not built in .*: run npm run build there\.$/),
    '✗ Shop: Nothing is live: publish a draft.',
    expect.stringMatching(/^✗ Orders: One message about orders could not be sent\. .* The next try is at /),
    expect.stringMatching(/^✗ Release files: .*\.release is not whole: delete it, and it is written again\.$/),
  ]);
  // What customers see goes on from the file that the node has open.
  expect((await customer.goto(`${shop}/product/bronze-bow-shackle`))?.status()).toBe(200);
});
