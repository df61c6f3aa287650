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

test('which colours get a tile is chosen by name, and for one product, in the look', async ({ page, last }) => {
  await page.goto(`${last.at}/bench?page=/category/synthetic-rope&file=look.json`);
  const tiles = (slug: string) =>
    shown(page).locator(`.tiles a[href*="/product/${slug}"] h3, .tiles h3 a[href*="/product/${slug}"]`);
  const looks = page.getByRole('button', { name: 'values of category listings' });
  await expect(looks).toHaveText('all');
  await expect.poll(() => tiles('polyester-braid').count()).toBe(6);
  await looks.click();
  const pick = async (list: string, value: string) => {
    const box = page.getByRole('combobox', { name: list });
    await box.fill(value);
    await box.press('Enter');
    await box.press('Escape');
  };
  await pick('Values of colour that get a tile', 'navy');
  await expect.poll(() => tiles('polyester-braid').count()).toBe(1);
  const add = page.getByRole('combobox', { name: 'Add a product' });
  await add.fill('polyester braid');
  await page.locator('.ant-select-item-option', { hasText: 'Polyester braid' }).first().click();
  await pick('Values of polyester-braid', 'ochre');
  await expect.poll(() => tiles('polyester-braid').count()).toBe(2);
  await expect(looks).toHaveText('navy; 1 product');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+s');
  const asked = `${last.at}/api/drafts/spring/file?path=look.json`;
  const category = async () => {
    const { text } = (await (await last.api.get(asked)).json()) as { text: string };
    return (JSON.parse(text) as { listings: { category: unknown } }).listings.category;
  };
  await expect.poll(category).toEqual({
    split_by: 'colour',
    pictures: 1,
    values: ['navy'],
    values_of: { 'polyester-braid': ['navy', 'ochre'] },
  });
  await looks.click();
  await page.getByRole('button', { name: 'polyester-braid: like the others' }).click();
  await expect.poll(() => tiles('polyester-braid').count()).toBe(1);
});
