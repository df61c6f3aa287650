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
  // For the season of every year: it needs both of its days.
  await page.getByRole('checkbox', { name: 'Every year' }).check();
  await expect(page.getByText('What comes every year needs a first and a last day.')).toBeVisible();
  await page.getByLabel('From', { exact: true }).fill('2026-12-01');
  await page.getByLabel('to', { exact: true }).fill('2027-01-06');
  await page.getByRole('button', { name: 'Add the rule' }).click();
  const rule = page.locator('.assignment', { hasText: 'type is rope' });
  await expect(rule).toContainText('and so every year');
  for (const [day, serves] of [
    ['2026-11-30', 'default'],
    ['2027-01-06', 'by-the-reel'],
    ['2030-12-24', 'by-the-reel'],
    ['2031-02-01', 'default'],
  ] as const) {
    const asked = `address=/product/tarred-hemp-rope&on=${day}`;
    const answer = await last.api.get(`${last.at}/api/drafts/spring/alternates/explain?${asked}`);
    const { explanations } = (await answer.json()) as { explanations: { template: string }[] };
    expect([day, explanations[0]?.template]).toEqual([day, `product/${serves}`]);
  }
});
