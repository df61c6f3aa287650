import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import getPort from 'get-port';
import { type Page } from '@playwright/test';
import { expect, test } from './last';

/** Orders a tin of deck oil, as a customer does. */
async function order(page: Page, shop: string, email: string): Promise<string> {
  await page.goto(`${shop}/product/deck-oil`);
  await page.getByRole('button', { name: 'Put in the cart' }).click();
  await expect(page.getByRole('status')).toHaveText('It is in your cart.');
  await page.getByLabel('Where may we write to?').fill(email);
  await page.getByRole('button', { name: 'Order', exact: true }).click();
  const thanks = page.getByRole('status');
  await expect(thanks).toHaveText(/^Thank you\. Order \d+ /);
  return /Order (\d+)/.exec((await thanks.textContent()) ?? '')?.[1] ?? '';
}

test('an order comes to staff, and signed to the shop’s own system after two refusals, once by its id', async ({
  page,
  last,
}) => {
  await page.goto(`${last.at}/orders`);
  await expect(page.getByText('Nobody has ordered yet.')).toBeVisible();

  // The owner says where orders go, wrongly at first.
  const port = await getPort();
  await page.getByRole('button', { name: 'What orders do…' }).click();
  await page.getByLabel('Address').fill('stock.example.org');
  await page.getByRole('button', { name: 'Send orders there' }).click();
  await expect(page.getByText('The address is to begin with https:// or http://.')).toBeVisible();
  await page.getByLabel('Address').fill(`http://127.0.0.1:${port}/orders`);
  await page.getByRole('button', { name: 'Send orders there' }).click();
  const secret = await page.getByLabel('Secret').inputValue();
  expect(secret).toMatch(/^[\w+/]{43}=$/);
  await page.keyboard.press('Escape');

  // The stand-in of that system refuses what comes twice.
  const standIn = spawn('node', [
    ...['scripts/last-shop.mjs', 'receiver', '--secret', secret, '--port', String(port), '--refuse', '2'],
  ]);
  let heard = '';
  standIn.stdout.on('data', (text: Buffer) => (heard += text.toString()));
  await expect.poll(() => heard).toContain('Waiting for orders');
  try {
    const customer = await page.context().newPage();
    const number = await order(customer, last.shop, 'skipper@boat.example');
    await customer.close();

    // It comes to the list by itself; a click shows it.
    await expect(page.getByText('One message about orders could not be sent yet. It answered 503.')).toBeVisible({
      timeout: 40_000,
    });
    await page.getByRole('button', { name: `Order ${number}` }).click();
    const sheet = page.getByRole('article', { name: `Order ${number}` });
    await expect(sheet.getByText('skipper@boat.example')).toBeVisible();
    await expect(sheet.getByRole('cell', { name: /Deck oil/ })).toBeVisible();
    await expect(sheet.getByText(/Not sent yet, after (?:one try|2 tries): It answered 503\./)).toBeVisible();
    // What waits can be hurried.
    await expect
      .poll(async () => {
        await last.api.post(`${last.at}/api/orders/send`);
        return heard;
      })
      .toContain('"what":"made"');
    await expect(sheet.getByText(/^Sent .*, at the .* try\. It answered 204\.$/)).toBeVisible({ timeout: 40_000 });
    const lines = () => heard.split('\n').filter((line) => line.startsWith('{'));
    expect(lines().length).toBe(1);
    expect(JSON.parse(lines()[0] ?? '')).toMatchObject({
      what: 'made',
      order: { number: Number(number), email: 'skipper@boat.example' },
    });

    // Two at one order: the second is told what the first did.
    const other = await page.context().newPage();
    await other.goto(`${last.at}/orders?order=${number}`);
    await expect(other.getByRole('button', { name: 'Take it' })).toBeVisible();
    // It hears nothing of the first.
    await other.route(/\/api\/orders\/\d+$/, (route) => route.abort());
    await sheet.getByRole('button', { name: 'Take it' }).click();
    await expect(sheet.locator('.order-state')).toContainText('Taken by');
    await other.getByRole('button', { name: 'Cancel the order' }).click();
    await expect(other.getByText(`Order ${number} is taken since`)).toBeVisible();
    await other.unrouteAll();
    await expect(other.locator('.order-state')).toContainText('Taken by');
    await other.close();
    await expect
      .poll(() => lines().map((line) => (JSON.parse(line) as { what: string }).what))
      .toEqual(['made', 'taken']);

    // Sent again by hand, it comes under the id that it had: the receiver knows it.
    await sheet.getByRole('button', { name: 'Send again' }).first().click();
    await expect.poll(() => heard).toContain('came again');
    expect(lines().length).toBe(2);

    // Paper has the order alone.
    await page.emulateMedia({ media: 'print' });
    await expect(page.getByRole('region', { name: 'Orders' })).toBeHidden();
    await expect(sheet.getByRole('button', { name: 'Print' })).toBeHidden();
    await expect(sheet.getByText('skipper@boat.example')).toBeVisible();
    await page.emulateMedia({ media: null });

    // The status has all of it.
    await page.goto(`${last.at}/people?tab=status`);
    await expect(page.getByText('All is well.')).toBeVisible();
    await expect(page.getByText('0 new, 1 taken, 0 cancelled')).toBeVisible();
    await expect(page.getByRole('row', { name: /^The shop/ })).toBeVisible();
  } finally {
    standIn.kill();
  }
});

test('orders are found, exported, and there after the server was killed', async ({ page, last }) => {
  const customer = await page.context().newPage();
  const first = await order(customer, last.shop, 'first@boat.example');
  const second = await order(customer, last.shop, 'second@boat.example');
  await page.goto(`${last.at}/orders`);
  await expect(page.locator('.orders-number')).toHaveText([second, first]);
  // By keyboard alone: to an order, and what becomes of it.
  await page.getByRole('button', { name: `Order ${first}` }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Cancel the order' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.order-state')).toContainText('Cancelled by');
  await page.getByText('Cancelled 1').click();
  await expect(page.locator('.orders-number')).toHaveText([first]);
  await page.getByText('All 2').click();
  await page.getByLabel('Words in orders').fill('second@');
  await expect(page.locator('.orders-number')).toHaveText([second]);
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export as CSV' }).click();
  const rows = readFileSync((await (await coming).path()) ?? '', 'utf8')
    .trim()
    .split('\r\n');
  expect(rows.length).toBe(2);
  expect(rows[1]).toContain(`${second},`);
  await page.getByLabel('Words in orders').fill('nobody');
  await expect(page.getByText('No order is so.')).toBeVisible();

  await last.kill();
  await page.getByLabel('Words in orders').fill('');
  await last.start();
  await page.reload();
  await expect(page.locator('.orders-number')).toHaveText([second, first]);
  await expect(page.locator('.order-state')).toContainText('Cancelled by');
});
