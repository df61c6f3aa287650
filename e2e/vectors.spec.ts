import { expect, test, type Page } from '@playwright/test';
import { hostilePages } from '../src/core/language/testing/differential';
import { places, placesPiece, vectors } from '../src/core/language/testing/places';
import { pageOf, themeOf } from '../src/core/language/testing/theme-of';

// A trace would look into every frame, and take longer than the frames.
test.use({ trace: 'off' });

/** So many documents stand in the page at a time. */
const atOnce = 50;

/** Every place in one document for each vector: parse5 looks at each place by itself (vectors.test.ts), a real Chromium at what runs. */
const documents = (names: string[]): string[] => {
  const text = names.map((name) => places[name]).join('\n');
  const theme = themeOf({ 'product/default.html': text, ...placesPiece });
  return vectors.map((v) => pageOf(theme, { v }).html);
};

/** Shows documents in frames, a few at a time, and reports all that runs in one; `links`: of links that would run, too. */
async function ranIn(page: Page, pages: string[], links: boolean): Promise<string[]> {
  await page.route('**/*', (route) => route.abort());
  const all: string[] = [];
  page.on('dialog', (dialog) => {
    all.push(`a dialog: ${dialog.message()}`);
    void dialog.dismiss();
  });
  for (let from = 0; from < pages.length; from += atOnce) {
    await page.goto('about:blank');
    const found = await page.evaluate(
      async ({ some, links }) => {
        const told: string[] = [];
        Object.assign(window, { ran: (what: string) => told.push(what) });
        const hook = `<script id="hook">for (const name of ['alert','confirm','prompt','print']) window[name] = () => parent.ran(name)</script>`;
        const frames = some.map((html) => {
          const frame = document.createElement('iframe');
          frame.srcdoc = hook + html;
          document.body.append(frame);
          return frame;
        });
        const wait = (time: number) => new Promise((resolve) => setTimeout(resolve, time));
        const read = ({ contentDocument: inside }: HTMLIFrameElement) =>
          inside?.getElementById('hook') && inside.readyState !== 'loading';
        for (let turns = 0; turns < 100 && !frames.every(read); turns++) await wait(100);
        if (!frames.every(read)) told.push('not every document was read to its end');
        await wait(300);
        let seen = 0;
        frames.forEach((frame, at) => {
          for (const element of frame.contentDocument?.querySelectorAll('*:not(#hook)') ?? []) {
            seen++;
            if (links) {
              for (const { name } of element.attributes)
                if (/^on/i.test(name)) told.push(`${at}: ${element.localName} ${name}`);
              const { localName, protocol, href } = element as HTMLAnchorElement;
              if (localName === 'a' && /^(?:javascript|data|vbscript):/.test(protocol ?? ''))
                told.push(`${at}: ${href}`);
            }
            for (const name of ['mouseover', 'focus', 'error', 'load'])
              element.dispatchEvent(new Event(name, { cancelable: true }));
          }
        });
        if (seen < some.length) told.push(`only ${seen} elements were looked at`);
        return told;
      },
      { some: pages.slice(from, from + atOnce), links },
    );
    all.push(...found.map((what) => `from ${from}: ${what}`));
  }
  return all;
}

for (const [name, all] of [
  ['in every place', Object.keys(places).filter((place) => place !== 'the base address')],
  ['as the base address, with links after it', ['the base address', 'an address', 'a picture’s address']],
] as const) {
  test(`a real Chromium runs none of ${vectors.length} vectors ${name}`, async ({ page }) => {
    expect(await ranIn(page, documents([...all]), true)).toEqual([]);
  });
}

test('nor in 500 generated themes that are full of mistakes, as drafts are', async ({ page }) => {
  expect(await ranIn(page, hostilePages(500, 20_261_127), false)).toEqual([]);
});

test('the hook reports a script that does run', async ({ page }) => {
  await page.setContent('<p>x</p>');
  const ran = await page.evaluate(async () => {
    const told: string[] = [];
    Object.assign(window, { ran: (what: string) => told.push(what) });
    const frame = document.createElement('iframe');
    frame.srcdoc = `<script>window.alert = () => parent.ran('alert')</script><img src="x:" onerror="alert(1)">`;
    document.body.append(frame);
    await new Promise((resolve) => setTimeout(resolve, 500));
    return told;
  });
  expect(ran).toEqual(['alert']);
});
