import { chromium, type Page } from '@playwright/test';

/**
 * Takes the pictures of a team: signing in, people, a review, the log. They come from a server that others can reach, seeded with `--no-work`, whose
 * first owner comes in by the link that `last account add robin --called Robin` gives: `LAST_TEAM_AT=http://… LAST_TEAM_LINK=/come-in?… npm run
 * shots:team`.
 */
const at = process.env.LAST_TEAM_AT ?? '';
const link = process.env.LAST_TEAM_LINK ?? '';
const folder = process.env.SHOTS ?? 'docs/screenshots';
const password = 'three quiet lamps';
const notice = 'Closed for stocktaking on the first Monday of each month';

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const take = async (page: Page, name: string) => {
  await page.waitForTimeout(1200);
  await page.screenshot({ path: `${folder}/${name}.png` });
};
const newPage = () => browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
const comeIn = async (to: string): Promise<Page> => {
  const page = await newPage();
  await page.goto(at + to);
  await page.getByLabel('New password').fill(password);
  await page.getByRole('button', { name: 'Set it and come in' }).click();
  await page.getByRole('navigation', { name: 'Places' }).waitFor();
  return page;
};
const ask = <Answer>(page: Page, method: string, path: string, body: object): Promise<Answer> =>
  page.evaluate(
    async ([how, to, given]) => {
      const token = document.querySelector<HTMLMetaElement>('meta[name=last-token]')?.content ?? '';
      const headers = { 'Content-Type': 'application/json', 'X-Last-Token': token };
      const answer = await fetch(to as string, { method: how as string, headers, body: JSON.stringify(given) });
      return (await answer.json()) as Answer;
    },
    [method, path, body] as const,
  );
const owner = await comeIn(link);
const guest = async (called: string, role: string): Promise<Page> => {
  const given = { name: called.toLowerCase(), called, role };
  const { link: made } = await ask<{ link: { path: string } }>(owner, 'POST', '/api/people', given);
  return comeIn(made.path);
};
const staff = await guest('Ash', 'staff');
const developer = await guest('Kim', 'developer');
await guest('Sam', 'reader');

await staff.goto(`${at}/bench?page=/category/lamps`);
const shelf = staff.getByRole('region', { name: 'Above the products' });
await shelf.getByRole('button', { name: 'Add a piece…' }).click();
await staff
  .getByRole('list', { name: 'Pieces for Above the products' })
  .getByRole('button', { name: /^Notice/ })
  .click();
await staff.getByLabel('Text, en-GB').fill(notice);
await staff.frameLocator('iframe[data-front=true]').getByText(notice).waitFor();
await staff.keyboard.press('Control+s');
await staff.getByText('Saved.').waitFor();
await ask(staff, 'POST', '/api/drafts/spring/review', {
  whom: 'Kim',
  note: 'A notice above the lamps, until spring',
});

await developer.goto(`${at}/bench?page=/category/lamps&file=pieces/notice.html`);
await developer.locator('.frame-room[aria-busy=false]').waitFor();
await developer.getByRole('tab', { name: 'Comments' }).click();
await developer.locator('.cm-line', { hasText: 'class=' }).first().click();
for (const said of ['Customers ask what stocktaking is: say “closed” alone', 'Does the first of the year count?']) {
  await developer.getByRole('textbox', { name: /^Comment on/ }).fill(said);
  await developer.keyboard.press('Enter');
  await developer.getByText(said).waitFor();
}
await developer.getByRole('button', { name: 'Ash asks for a review' }).click();
await developer.getByRole('region', { name: 'Open comments' }).waitFor();
await take(developer, 'review');

await owner.goto(`${at}/people?tab=log`);
await owner.getByRole('cell', { name: 'asked for a review' }).waitFor();
await take(owner, 'log');
await owner.goto(`${at}/people`);
await owner.getByRole('row', { name: /Sam/ }).waitFor();
await take(owner, 'people');

const stranger = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await stranger.goto(`${at}/bench`);
await stranger.getByLabel('Name').fill('ash');
await take(stranger, 'sign-in');
if (process.env.SHOTS_ALL) {
  await staff.goto(`${at}/bench?page=/category/lamps`);
  await staff.getByText('Also here').waitFor();
  await take(staff, 'staff');
  await staff.goto(`${at}/people?tab=mine`);
  await staff.waitForTimeout(1500);
  await take(staff, 'mine');
}
await browser.close();
