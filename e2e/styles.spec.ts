import { expect, openBench, save, test, writeSource } from './last';

test('a style sheet is checked as it is typed, in its file and in the Styles drawer', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'assets/css/own.css');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(page, '.stock {\n  colr: red;\n  color: var(--acent);\n}\n');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  const problems = page.getByRole('tabpanel', { name: /^Problems/ });
  await expect(problems).toContainText('There is no property “colr”; did you mean “color”?');
  await expect(problems).toContainText('Nothing sets “--acent”; did you mean “--accent”?');
  await expect(page.getByRole('tab', { name: 'Problems2' })).toBeVisible();
  // A block without its end is all that is said: the rest is anybody's guess.
  await writeSource(page, '.stock {\n  color: red;\n\n.price {\n  colr: red;\n}\n');
  await expect(problems).toContainText('“.stock {” is never closed: its “}” is missing');
  await expect(page.getByRole('tab', { name: 'Problems1' })).toBeVisible();
  await writeSource(page, '.stock {\n  color: red;\n}\n');
  await expect(page.getByRole('tab', { name: 'Problems', exact: true })).toBeVisible();
  await save(page);

  await page.goto(`${last.at}/bench?page=/product/deck-oil&file=pieces/stock.html`);
  await expect(page.locator('.frame-room')).toHaveAttribute('aria-busy', 'false');
  await page.locator('.cm-line', { hasText: 'class="stock"' }).first().click();
  await page.getByRole('tab', { name: 'Styles' }).click();
  await page.getByRole('button', { name: 'New rule for it' }).click();
  await page.getByRole('textbox', { name: 'Property' }).fill('dsplay');
  const value = page.getByRole('combobox', { name: 'Value' });
  await value.fill('block');
  await expect(value).toHaveAccessibleDescription('There is no property “dsplay”; did you mean “display”?');
  await page.getByRole('textbox', { name: 'Property' }).fill('padding');
  await value.fill('12');
  await expect(value).toHaveAccessibleDescription('“padding” does not take “12” without a unit, as in “12px”');
  await value.fill('12px');
  await expect(value).toHaveAccessibleDescription('');
  await value.press('Enter');
  await expect(page.getByRole('button', { name: 'padding: 12px' })).toBeVisible();
  await page.getByRole('button', { name: 'padding: 12px' }).click();
  await page.getByRole('combobox', { name: 'Value of padding' }).fill('12pxx');
  await expect(page.getByRole('combobox', { name: 'Value of padding' })).toHaveAccessibleDescription(
    '“padding” does not take “12pxx”; did you mean “12px”?',
  );
});
