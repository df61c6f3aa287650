import { expect, openBench, save, shown, test, writeSource } from './last';

// A trace would look into the frame that does not answer.
test.use({ trace: 'off' });

test('a theme script without end holds up nothing but its page', async ({ page, last, policy }) => {
  // Without its scripts a page is shown by a policy that forbids them.
  policy.expected = true;
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await shown(page)
    .locator('html')
    .evaluate(() => {
      setTimeout(() => {
        throw new Error('thrown by the theme');
      });
      setTimeout(() => {
        for (;;);
      }, 50);
    });
  await page.waitForTimeout(300);
  await writeSource(page, '<p class="stock">typed meanwhile</p>');
  await save(page);
  await expect(page.getByText('The page does not answer')).toBeVisible({ timeout: 15_000 });
  await page.getByRole('button', { name: 'Show it without scripts' }).click();
  await expect(page.getByText('The theme’s scripts do not run.')).toBeVisible();
  await expect(shown(page).locator('.stock')).toHaveText('typed meanwhile', { timeout: 20_000 });
});
