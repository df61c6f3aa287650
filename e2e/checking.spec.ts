import { expect, openBench, save, shown, test, writeSource } from './last';

test('a style sheet is checked as it is typed, in its file and in the Styles drawer', async ({ page, last }) => {
  await openBench(page, last, '/product/deck-oil', 'assets/css/own.css');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(page, '.stock {\n  colr: red;\n  color: var(--acent);\n}\n');
  await page.getByRole('tab', { name: /^Problems/ }).click();
  const problems = page.getByRole('tabpanel', { name: /^Problems/ });
  await expect(problems).toContainText('There is no property “colr”; did you mean “color”?');
  await expect(problems).toContainText('Nothing sets “--acent”; did you mean “--accent”?');
  await expect(page.getByRole('tab', { name: 'Problems2' })).toBeVisible();
  // An unclosed block is the only problem told: what follows it cannot be judged.
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

test('a text that is written out is made a phrase, and a phrase that is not there is added, in each language', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/product/deck-oil', 'pieces/stock.html');
  await page.getByRole('button', { name: 'Change this for the shop' }).click();
  await writeSource(
    page,
    '<takes name="variant" type="Variant">\n<p class="stock">Ready to ship {variant.sku}</p>\n<p>{t(\'stock.soon\')}</p>\n',
  );
  await page.getByRole('tab', { name: /^Problems/ }).click();
  const problems = page.getByRole('tabpanel', { name: /^Problems/ });
  await expect(problems).toContainText('“Ready to ship” is written out');
  await expect(problems).toContainText('stock.soon');
  const at = async (text: string) => {
    await page.locator('.cm-line', { hasText: text }).getByText(text).click();
    await page.keyboard.press('Alt+Enter');
  };
  await at('Ready to ship');
  await expect(page.locator('.cm-content')).toContainText("{t('stock.ready_to_ship')}");
  await expect(problems).not.toContainText('is written out');
  await at('stock.soon');
  await expect(page.getByRole('tab', { name: 'Problems', exact: true })).toBeVisible();
  await expect(shown(page).locator('body')).toContainText('Ready to ship');
  await expect(page.getByText('Not saved either:')).toContainText('words/fr.json');
  await page.keyboard.press('Control+Shift+s');
  await expect(page.getByText('Not saved either:')).toBeHidden();
  for (const language of ['en', 'fr']) {
    const answer = await last.api.get(`${last.at}/api/drafts/spring/file?path=words/${language}.json`);
    expect(await answer.text()).toContain('ready_to_ship');
  }
});

test('a file of words is seen with the phrases of all layers, and one of them is changed for the shop', async ({
  page,
  last,
}) => {
  await openBench(page, last, '/product/deck-oil', 'words/fr.json');
  await page.getByRole('tab', { name: 'In reach' }).click();
  const words = page.getByRole('table', { name: 'Phrases of all layers' });
  await expect(words).toContainText('Quay');
  await page.getByLabel('Find a phrase').fill('listing.offer');
  const row = words.getByRole('row', { name: /listing\.offer/ });
  await expect(row).toContainText('En promotion');
  await row.getByRole('button', { name: 'Change here' }).click();
  await expect(row).toContainText('the shop’s');
  await expect(page.locator('.cm-activeLine')).toContainText('"offer": "En promotion"');
  await save(page);
});
