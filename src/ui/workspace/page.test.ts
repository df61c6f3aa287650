import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ViewAnswer } from '@/contract/bench';
import { ApiError, type call } from '@/ui/shared';
import { PageStore, type PageAsked } from './page';
import type { Text } from './ports';

interface Waiting {
  address: string;
  unsaved: Text[];
  shown: string | null;
  answer: (more?: Partial<ViewAnswer>) => void;
  fail: (error: Error) => void;
}

let waiting: Waiting[];
let unsaved: Text[];
let htmls: string[];
let page: PageStore;
const rope: PageAsked = { origin: 'http://spring.localhost', address: '/product/rope', tried: null, on: null };
const table = { sources: [{ file: 'a.html', layer: '' }] } as ViewAnswer['table'];
beforeEach(() => {
  vi.useFakeTimers();
  waiting = [];
  unsaved = [];
  htmls = [];
  const fake = ((_: unknown, __: unknown, body: Pick<Waiting, 'address' | 'unsaved' | 'shown'>) =>
    new Promise((resolve, reject) => {
      const made = { page: { address: body.address }, html: null, shown: 's', broken: null, shopLayer: '', table };
      waiting.push({ ...body, answer: (more) => resolve({ ...made, ...more }), fail: reject });
    })) as unknown as typeof call;
  page = new PageStore(
    'spring',
    { call: fake },
    { unsaved: () => unsaved, open: () => 'a.html', onHtml: (html) => htmls.push(html) },
  );
});
afterEach(() => {
  page.stop();
  vi.useRealTimers();
});

const settle = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
async function next(): Promise<Waiting> {
  await settle();
  expect(waiting).toHaveLength(1);
  return waiting.shift() as Waiting;
}

describe('the page that is worked on', () => {
  it('is made once for all that was typed while the one before was on its way', async () => {
    page.show(rope);
    const first = await next();
    for (const text of ['a', 'ab', 'abc']) {
      unsaved = [{ path: 'a.html', text }];
      page.make();
    }
    await settle(500);
    expect(waiting).toEqual([]);
    first.answer();
    await settle(2000);
    expect(await next()).toMatchObject({ unsaved: [{ text: 'abc' }] });
  });

  it('waits until typing rests where a text is long', async () => {
    page.show(rope);
    (await next()).answer();
    await settle(2000);
    unsaved = [{ path: 'a.html', text: 'x'.repeat(30_000) }];
    for (let typed = 0; typed < 10; typed++) {
      page.make();
      await settle(100);
    }
    expect(waiting).toEqual([]);
    await settle(250);
    expect(waiting).toHaveLength(1);
  });

  it('is not shown where someone went on meanwhile', async () => {
    page.show(rope);
    const first = await next();
    page.show({ ...rope, address: '/product/lamp' });
    first.answer();
    await settle(2000);
    expect(page.now.answer).toBeNull();
    (await next()).answer();
    await settle();
    expect(page.now.answer?.page).toEqual({ address: '/product/lamp' });
  });

  it('goes into the frame that shows the same address, and into no other', async () => {
    page.show(rope);
    page.framed({ view: '1', shown: 's0', address: rope.address });
    const first = await next();
    expect(first.shown).toBe('s0');
    first.answer({ html: '<p>1</p>', shown: 's1' });
    page.make();
    await settle(2000);
    const second = await next();
    expect(second.shown).toBe('s1');
    page.framed({ view: '2', shown: 'x', address: '/product/lamp' });
    second.answer({ html: '<p>2</p>', shown: 's2' });
    await settle();
    expect(htmls).toEqual(['<p>1</p>']);
  });

  it('stays as it was, with what is wrong, while a text cannot be read', async () => {
    page.show(rope);
    (await next()).answer({ shown: 'good' });
    await settle(2000);
    page.make();
    const broken = { file: 'a.html', line: 1, message: 'It is not closed.' } as ViewAnswer['broken'];
    (await next()).answer({ page: null, shown: 'none', broken });
    await settle();
    expect(page.now.answer).toMatchObject({ shown: 'good', page: { address: rope.address }, broken });
  });

  it('is the same object while nothing that it shows or reports changed', async () => {
    page.show(rope);
    (await next()).answer({ table: { sources: [] } as unknown as ViewAnswer['table'] });
    await settle(2000);
    const { answer } = page.now;
    page.make();
    (await next()).answer({ table: { sources: [] } as unknown as ViewAnswer['table'] });
    await settle(2000);
    expect(page.now.answer).toBe(answer);
    page.make();
    (await next()).answer();
    await settle(2000);
    expect(page.now.answer).not.toBe(answer);
  });

  it('is asked for again by itself while the server does not answer, until the Bench is left', async () => {
    const offline = new ApiError(0, { code: 'offline', message: 'The server does not answer.' });
    page.show(rope);
    (await next()).fail(offline);
    await settle();
    expect(page.now).toMatchObject({ failure: 'The server does not answer.', offline: true });
    await settle(1600);
    (await next()).fail(offline);
    await settle(1600);
    (await next()).answer();
    await settle();
    expect(page.now).toMatchObject({ failure: null, offline: false });
    page.make();
    await settle(500);
    (await next()).fail(offline);
    page.stop();
    await settle(5000);
    expect(waiting).toEqual([]);
  });
});
