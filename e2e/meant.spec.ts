import { expect, shown, test } from './last';

test('an alternate that is meant for a type is tried on one of it, and begins its rule with that type', async ({
  page,
  last,
}) => {
  const made = { kind: 'product', name: 'by-the-reel', label: 'By the reel', from: 'default', types: ['rope'] };
  expect((await last.api.post(`${last.at}/api/drafts/spring/alternates`, { data: made })).ok()).toBe(true);
  await page.goto(`${last.at}/alternates`);
  const card = page.locator('.template-cards li', { hasText: 'By the reel' });
  // Nobody gets it yet.
  await card.getByRole('button', { name: 'What to do with By the reel' }).click();
  await page.getByRole('menuitem', { name: 'Try it on the Bench' }).click();
  await expect(page).toHaveURL(/\/bench\?.*try=by-the-reel/);
  await expect(shown(page).locator('h1')).toContainText(/rope|line|cord/i);
  await page.goto(`${last.at}/alternates`);
  await card.getByRole('button', { name: 'By a rule…' }).click();
  const holds = page.locator('.rule-matches');
  await expect(holds).toContainText(/Holds for \d+ of 61 products/);
  await expect(holds).not.toContainText('61 of 61');
  await page.getByRole('button', { name: 'Add the rule' }).click();
  await expect(page.locator('.assignment', { hasText: 'type is rope' })).toBeVisible();
});
