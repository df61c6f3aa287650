import { networkInterfaces } from 'node:os';
import getPort from 'get-port';
import type { Browser, Page } from '@playwright/test';
import { StandIn } from '../src/server/accounts/testing/stand-in';
import { expect, narrow, openBench, pick, save, shown, test, type Server } from './last';

const password = 'three quiet lamps';

/** Another address of this machine than the one that only it can reach; where it has none, the same by another name. */
const other =
  Object.values(networkInterfaces())
    .flat()
    .find((one) => one?.family === 'IPv4' && !one.internal)?.address ?? '127.0.0.2';

/** Starts the server where others can reach it, by its address alone. */
async function exposed(
  last: Server,
  more: Record<string, string> = {},
): Promise<{ at: string; code: string; drafts: string }> {
  const draftPort = await getPort();
  await last.kill();
  await last.start({
    LAST_BIND: '0.0.0.0',
    LAST_HOST: other,
    LAST_DRAFT_PORT: String(draftPort),
    ...more,
  });
  const code = /with this code:\s+(\S+)/.exec(last.said)?.[1] ?? '';
  return { at: `http://${other}:${last.port}`, code, drafts: `http://${other}:${draftPort}` };
}

/** A window of someone else. */
const windowOf = async (browser: Browser): Promise<Page> => (await browser.newContext()).newPage();

async function signIn(page: Page, at: string, name: string, path = '/bench'): Promise<void> {
  await page.goto(`${at}${path}`);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

/** Invites someone, who then comes in by the link. */
async function invite(owner: Page, guest: Page, name: string, called: string, role: string): Promise<void> {
  await owner.getByRole('button', { name: 'Invite someone…' }).click();
  const dialog = owner.getByRole('dialog', { name: 'Invite someone' });
  await dialog.getByLabel('Name to sign in with').fill(name);
  await dialog.getByLabel('What colleagues call them').fill(called);
  await dialog.getByRole('combobox', { name: 'Role' }).click();
  await owner.locator('.ant-select-item-option', { hasText: role }).last().click();
  await dialog.getByRole('button', { name: 'Make the link' }).click();
  const link = await owner.getByLabel(`The link for ${called}`).inputValue();
  await owner.getByRole('button', { name: 'Done' }).click();
  await guest.goto(link);
  await guest.getByLabel('New password').fill(password);
  await guest.getByRole('button', { name: 'Set it and come in' }).click();
  await expect(guest.getByRole('navigation', { name: 'Places' })).toBeVisible();
}

test('an owner lets others in: staff arrange without a line of source, a developer publishes, the log tells it', async ({
  page,
  last,
  browser,
}) => {
  test.setTimeout(150_000);
  const { at, code, drafts } = await exposed(last);
  expect(code).not.toBe('');
  // Nothing but the way in, for whoever comes.
  await page.goto(`${at}/theme`);
  await expect(page.getByRole('heading', { name: 'The first owner' })).toBeVisible();
  await page.getByLabel('Code from the console').fill(code);
  await page.getByLabel('Name to sign in with').fill('robin');
  await page.getByLabel('What colleagues call you').fill('Robin');
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('button', { name: 'Robin' })).toBeVisible();
  await page.goto(`${at}/people`);

  const staff = await windowOf(browser);
  await invite(page, staff, 'ash', 'Ash', 'staff');
  const developer = await windowOf(browser);
  await invite(page, developer, 'kim', 'Kim', 'developer');
  await expect(page.getByRole('row', { name: /Ash/ })).toContainText('arranges pages, changes words and goods');

  // Staff: no source, no way to publish, and shelves to fill.
  await staff.bringToFront();
  await staff.goto(`${at}/bench?page=/category/lamps`);
  await expect(shown(staff).locator('h1')).toHaveText('Lamps');
  await expect(staff.getByRole('navigation', { name: 'Places' }).getByRole('link')).toHaveText([
    ...['Bench', 'Words', 'Catalogue', 'Orders'],
  ]);
  await expect(staff.locator('.cm-editor')).toHaveCount(0);
  await expect(staff.getByText('Review & publish')).toHaveCount(0);
  const shelf = staff.getByRole('region', { name: 'Below the products' });
  await shelf.getByRole('button', { name: 'Add a piece…' }).click();
  await staff
    .getByRole('list', { name: 'Pieces for Below the products' })
    .getByRole('button', { name: /^Notice/ })
    .click();
  await staff.getByRole('form', { name: 'Notice' }).getByLabel('Text, en-GB').fill('Closed on Monday');
  await expect(shown(staff).getByText('Closed on Monday')).toBeVisible();
  await staff.keyboard.press('Control+s');
  await expect(staff.getByText('Saved.')).toBeVisible();
  // What is pointed at opens its form.
  await shelf.getByRole('button', { name: /^Notice/ }).click();
  await narrow(staff);
  await staff.getByRole('button', { name: 'Point' }).click();
  await pick(staff, shown(staff).getByText('Closed on Monday'));
  await expect(staff.getByRole('form', { name: 'Notice' })).toBeVisible();
  // Words, and what the server says to who asks for more than is shown.
  await staff.getByRole('link', { name: 'Words' }).click();
  await expect(staff.getByRole('region', { name: 'Phrases of the theme' })).toBeVisible();
  const asked = (one: Page, path: string) => one.evaluate(async (to) => (await fetch(to)).status, path);
  for (const [path, status] of [
    ['/api/drafts/spring/file?path=product/default.html', 403],
    ['/api/drafts/spring/theme', 403],
    ['/api/people', 403],
    ['/api/drafts/spring/shelves', 200],
  ] as const)
    expect([path, await asked(staff, path)]).toEqual([path, status]);

  // Handed over; given back with what is to be done, done, approved.
  await staff.getByRole('button', { name: 'Ask for a review…' }).click();
  const handing = staff.getByRole('dialog', { name: 'Ask for a review' });
  await handing.getByLabel('What was done, and what to look at').fill('A notice below the lamps');
  await handing.getByRole('button', { name: 'Hand it over' }).click();
  await expect(staff.getByRole('button', { name: 'Being reviewed' })).toBeVisible();
  await developer.bringToFront();
  await developer.goto(`${at}/bench`);
  await developer.getByRole('button', { name: 'Ash asks for a review' }).click();
  const review = developer.getByRole('region', { name: 'Review' });
  await expect(review).toContainText('“A notice below the lamps”');
  await expect(developer.getByRole('list', { name: 'Files that differ' })).toContainText('shelves.json');
  // A comment at a place on the page: it is pointed at, and said.
  await openBench(developer, { at } as Server, '/category/lamps');
  await developer.getByRole('button', { name: 'Point' }).click();
  await pick(developer, shown(developer).getByText('Closed on Monday'));
  await expect(developer.getByRole('status').filter({ hasText: 'Also here: Ash' })).toBeVisible();
  await developer.getByRole('button', { name: 'Comment…' }).click();
  await developer
    .getByRole('textbox', { name: /^Comment on <\w+.* in pieces\/notice\.html, line \d/ })
    .fill('Which Monday?');
  await developer.keyboard.press('Enter');
  const said = developer.getByRole('listitem', { name: 'Comment 1' });
  await expect(said).toContainText('Which Monday?');
  const sign = (of: Page) => shown(of).locator('button[data-last-sign]', { hasText: '1' });
  await expect(sign(developer)).toBeVisible();
  // It stays with its place while that moves in its file.
  const place = said.getByRole('button', { name: /^pieces\/notice\.html, line/ });
  const line = Number(/line (\d+)/.exec((await place.textContent()) ?? '')?.[1]);
  await developer.getByRole('button', { name: 'Change this for the shop' }).click();
  await developer.locator('.cm-content').click();
  await developer.keyboard.press('Control+Home');
  await developer.keyboard.insertText('<!--: one\ntwo\nthree :-->\n');
  await save(developer);
  await expect(place).toHaveText(`pieces/notice.html, line ${line + 3}`);
  await expect(sign(developer)).toBeVisible();
  await developer.goto(`${at}/release?draft=spring`);
  await expect(developer.getByRole('region', { name: 'Open comments' })).toContainText('Which Monday?');
  await review.getByLabel('What to say to it').fill('Say which Monday');
  await review.getByRole('button', { name: 'Give back' }).click();
  await expect(developer.getByText(/Given back by Kim, asked by Ash/)).toBeVisible();
  await staff.bringToFront();
  await staff.reload();
  await staff.getByRole('button', { name: 'Given back by Kim' }).click();
  await expect(handing).toContainText('Say which Monday');
  await handing.getByRole('button', { name: 'Cancel' }).click();
  // Staff see where it stands on the page, and nothing of the source.
  await staff.goto(`${at}/bench?page=/category/lamps`);
  await expect(staff.getByRole('status').filter({ hasText: 'Also here: Kim' })).toBeVisible();
  await sign(staff).click();
  const heard = staff.getByRole('listitem', { name: 'Comment 1' });
  await expect(heard).toHaveClass(/is-chosen/);
  await expect(heard).toContainText('on /category/lamps');
  expect(await staff.content()).not.toContain('pieces/notice.html');
  await heard.getByRole('button', { name: 'Answer…' }).click();
  await heard.getByLabel('Answer to comment 1').fill('Every one');
  await heard.getByRole('button', { name: 'Answer it' }).click();
  await expect(heard).toContainText('Ash');
  await heard.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(sign(staff)).toHaveCount(0);
  await staff.getByRole('button', { name: 'Given back by Kim' }).click();
  await handing.getByLabel('What was done, and what to look at').fill('Every Monday: it is said so');
  await handing.getByRole('button', { name: 'Hand it over' }).click();
  await expect(staff.getByRole('button', { name: 'Being reviewed' })).toBeVisible();
  await developer.bringToFront();
  await developer.reload();
  await review.getByRole('button', { name: 'Approve' }).click();
  await expect(developer.getByText(/Approved by Kim, asked by Ash/)).toBeVisible();

  // The developer publishes it, under their own name.
  await developer.goto(`${at}/release?draft=spring`);
  await expect(developer.getByLabel('Your name')).toHaveCount(0);
  await developer.getByLabel('Note').fill('A notice');
  await developer.getByRole('button', { name: 'Publish' }).click();
  await expect(developer.getByText('Release 2 is live')).toBeVisible();
  await expect(developer.locator('.releases li').first()).toContainText('Kim');
  const live = await page.request.get(`http://${other}:${last.sitePort}/category/lamps`);
  expect(await live.text()).toContain('Closed on Monday');

  // A draft is for those who work here; the shop is for everyone.
  const stranger = await windowOf(browser);
  await stranger.goto(`${drafts}/draft/spring/category/lamps`);
  await expect(stranger.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await stranger.getByLabel('Name').fill('kim');
  await stranger.getByLabel('Password').fill(password);
  await stranger.getByRole('button', { name: 'Sign in' }).click();
  await expect(stranger.getByRole('heading', { name: 'Lamps', level: 1 })).toBeVisible();
  expect(stranger.url()).toBe(`${drafts}/draft/spring/category/lamps`);
  const sent = await fetch(`${drafts}/draft/spring/`, { redirect: 'manual' });
  expect([sent.status, sent.headers.get('location')?.startsWith(`${at}/look?`)]).toEqual([303, true]);

  // Who loses a role while they work keeps what they typed; who is signed out has to come in again.
  await staff.bringToFront();
  await staff.goto(`${at}/bench?page=/category/lamps`);
  await shelf.getByRole('button', { name: /^Notice/ }).click();
  await page.getByRole('combobox', { name: 'Role of Ash' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'reader' }).last().click();
  await expect(page.getByRole('row', { name: /Ash/ })).toContainText('changes nothing');
  await staff.getByRole('form', { name: 'Notice' }).getByLabel('Text, en-GB').fill('Closed on Tuesday');
  await staff.keyboard.press('Control+s');
  await expect(staff.getByText(/Not saved\. A reader may not do this/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Role of Ash' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'staff' }).last().click();
  await staff.keyboard.press('Control+s');
  await expect(staff.getByText('Saved.')).toBeVisible();
  // Where an owner lets them, staff publish what is content alone.
  await expect(staff.getByRole('button', { name: 'Publish…' })).toHaveCount(0);
  await page.getByRole('switch', { name: /Staff may publish by themselves/ }).click();
  await expect(page.getByRole('switch', { name: /Staff may publish by themselves/ })).toBeChecked();
  await staff.reload();
  await staff.getByRole('button', { name: 'Publish…' }).click();
  const publishing = staff.getByRole('dialog', { name: 'Publish this draft' });
  await expect(publishing.getByRole('list', { name: 'What changes' })).toHaveText('Piece Notice changed');
  await publishing.getByRole('button', { name: 'Publish' }).click();
  await expect(staff.getByText('Release 3 is live')).toBeVisible();
  const then = await page.request.get(`http://${other}:${last.sitePort}/category/lamps`);
  expect(await then.text()).toContain('Closed on Tuesday');
  await expect(staff.getByRole('button', { name: 'Publish…' })).toHaveCount(0);
  await page.getByRole('button', { name: 'What to do with Ash' }).click();
  await page.getByRole('menuitem', { name: 'Sign out on every device' }).click();
  await expect(page.getByText('Signed out on every device.')).toBeVisible();
  await staff.reload();
  await expect(staff.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  // The only owner stays one.
  await page.getByRole('combobox', { name: 'Role of Robin' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'reader' }).last().click();
  await expect(page.getByText(/only owner who can sign in/)).toBeVisible();

  // The log tells all of it.
  await page.getByRole('tab', { name: 'Log' }).click();
  const log = page.getByRole('region', { name: 'Log' });
  for (const one of [
    'robin is the first owner',
    'ash as staff',
    'ash: staff → reader',
    'Spring fit-out: A notice',
    'Spring fit-out: Say which Monday',
    'Spring fit-out: Which Monday?',
    'Spring fit-out: Every one',
    'staff may publish pieces and words',
  ])
    await expect(log.getByRole('cell', { name: one })).toBeVisible();
  await log.getByRole('combobox', { name: 'Who' }).click();
  await page.locator('.ant-select-item-option', { hasText: 'Kim' }).click();
  await expect(log.getByRole('cell', { name: 'ash as staff' })).toHaveCount(0);
  await expect(log.getByRole('cell', { name: 'published' })).toBeVisible();
  const csv = await page.evaluate(async () => (await fetch('/api/log/sheet?what=role')).text());
  expect(csv.split('\r\n')[1]).toMatch(/^20\d\d-.*,Robin,role,ash: reader → staff$/);

  // Out again.
  await page.getByRole('button', { name: 'Robin' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await signIn(page, at, 'robin', '/people?tab=log');
  await expect(page.getByRole('region', { name: 'Log' })).toBeVisible();
});

test('a reader signs in by another provider, looks at pages and goods, and is shown nothing to change', async ({
  page,
  last,
  browser,
}) => {
  const standIn = new StandIn();
  standIn.subject = { sub: 'sam', email: 'sam@example.org', email_verified: true };
  await standIn.start(`http://${other}:${last.port}`);
  last.command('account', 'add', 'sam@example.org', '--called', 'Sam', '--role', 'reader');
  const link = /\/come-in\S+/.exec(last.command('account', 'add', 'robin', '--called', 'Robin'))?.[0] ?? '';
  const { at } = await exposed(last, {
    LAST_OIDC_ISSUER: standIn.issuer,
    LAST_OIDC_CLIENT: standIn.clientId,
    LAST_OIDC_SECRET: standIn.clientSecret,
    LAST_OIDC_NAME: 'the quay’s own',
  });
  // The first owner comes in by the link of the command line; the code of the console is for nobody any more.
  const owner = await windowOf(browser);
  await owner.goto(at + link);
  await owner.getByLabel('New password').fill(password);
  await owner.getByRole('button', { name: 'Set it and come in' }).click();
  await expect(owner.getByRole('button', { name: 'Robin' })).toBeVisible();

  await page.bringToFront();
  await page.goto(`${at}/bench?page=/category/lamps`);
  await page.getByRole('link', { name: 'Sign in by the quay’s own' }).click();
  await expect(page.getByRole('button', { name: 'Sam' })).toBeVisible();
  await expect(page).toHaveURL(/\/bench\?page=\/category\/lamps/);
  await expect(shown(page).locator('h1')).toHaveText('Lamps');
  await expect(page.getByRole('region', { name: 'Arrange' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Point' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Catalogue' }).click();
  await expect(page.getByRole('grid')).toContainText('Anchor lamp');
  await expect(page.getByRole('button', { name: 'Import, export, history' })).toHaveCount(0);
  await page.goto(`${at}/catalogue?view=categories&record=lamps`);
  const record = page.getByRole('region', { name: 'Record of Lamps' });
  await expect(record.getByRole('textbox').first()).toBeDisabled();
  await expect(record.getByRole('button', { name: 'Save' })).toHaveCount(0);
  await expect(page.frameLocator('.record-page iframe[data-front=true]').locator('h1')).toHaveText('Lamps');

  await page.goto(`${at}/catalogue?view=pictures`);
  await expect(page.getByRole('region', { name: 'Pictures' }).getByRole('listitem').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bring in pictures' })).toHaveCount(0);

  // What stands in a template's source comes with no screen.
  const canary = 'canary-in-a-comment';
  const files = await owner.evaluate(
    async ({ canary: text }) => {
      const token = document.querySelector<HTMLMetaElement>('meta[name=last-token]')?.content ?? '';
      const saved = await fetch('/api/drafts/spring/file', {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json', 'X-Last-Token': token },
        body: JSON.stringify({ path: 'pieces/stock.html', text: `<!--: ${text} :-->`, expected: null }),
      });
      return saved.status;
    },
    { canary },
  );
  expect(files).toBe(200);
  const found = (one: Page) =>
    one.evaluate(
      async ({ text }) => {
        const places = ['/bench', '/theme?show=own&file=pieces/stock.html', '/alternates', '/catalogue', '/release'];
        const pages = await Promise.all(places.map(async (place) => (await fetch(place)).text()));
        return places.filter((_, place) => pages[place]?.includes(text));
      },
      { text: canary },
    );
  expect(await found(page)).toEqual([]);
  await standIn.stop();
});
