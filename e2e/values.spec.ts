import { expect, openBench, pick, pointAt, shown, test } from './last';

test('a printed value and one in reach are changed where they stand, and the page follows', async ({ page, last }) => {
  await openBench(page, last, '/product/shock-cord');
  await expect(shown(page).locator('h1')).toHaveText('Shock cord');
  // Pointed at on the page: its name.
  const bar = page.locator('.place-bar');
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  await pointAt(page, shown(page).locator('h1'), 'h1');
  await pick(page, shown(page).locator('h1'));
  await bar.getByRole('button', { name: 'Change its value…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Name of Shock cord' });
  await dialog.getByLabel('Name, British English').fill('Bungee');
  await page.keyboard.press('Enter');
  await expect(dialog).toHaveCount(0);
  await expect(shown(page).locator('h1')).toHaveText('Bungee');
  expect(await last.visit('/product/shock-cord').then((answer) => answer.text())).toMatch(/<h1[^>]*>Bungee/);

  // A row of In reach, by keyboard: a custom field that is empty here.
  await page.getByLabel('Find in reach').fill('lead_time');
  const row = page.getByRole('treeitem', { name: /^product\.fields\.lead_time/ });
  await expect(row).toBeVisible();
  await row.focus();
  await page.keyboard.press('F2');
  const field = page.getByRole('dialog', { name: 'Lead time of Bungee' });
  await field.getByLabel('Lead time').fill('soon');
  await page.keyboard.press('Enter');
  await expect(field.getByRole('alert')).toContainText('soon');
  await field.getByLabel('Lead time').fill('12');
  await page.keyboard.press('Enter');
  await expect(field).toHaveCount(0);
  await expect(shown(page).getByText('12 days')).toBeVisible();
  await expect(row).toContainText('12');
});
