import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { draftChanged } from './draftChanged';

it('asks again for what is of the draft, or of any, and for nothing else', async () => {
  const queries = new QueryClient();
  const stale: [key: unknown[], again: boolean][] = [
    [['files', 'spring'], true],
    [['layers', 'spring'], true],
    [['changes', 'spring'], true],
    [['sheet', 'spring', 'assets/css/own.css'], true],
    [['explain', 'spring', '/product/deck-oil', null, '1'], true],
    [['history', 'spring'], true],
    [['history', 'file', 'pieces/price.html'], true],
    [['drafts'], true],
    [['compare', 'live', 'draft/spring'], true],
    [['files', 'autumn'], false],
    [['changes', 'autumn'], false],
    [['content', 'pieces/price.html', 'f00d'], false],
    [['versions'], false],
    [['subjects', 'rope', null], false],
    [['fact', 'Product', 'summary'], false],
    [['releases'], false],
  ];
  for (const [key] of stale) queries.setQueryData(key, {});
  await draftChanged(queries, 'spring');
  expect(stale.map(([key]) => [key, queries.getQueryState(key)?.isInvalidated])).toEqual(stale);
});

it('does not take for the new answer one that was asked for before the change', async () => {
  const queries = new QueryClient();
  let files = ['a.html'];
  const answers: (() => void)[] = [];
  const queryFn = () => {
    const now = files;
    return new Promise<string[]>((resolve) => answers.push(() => resolve(now)));
  };
  const observer = new QueryObserver(queries, { queryKey: ['layers', 'spring'], queryFn });
  const stop = observer.subscribe(() => {});
  files = ['a.html', 'b.html'];
  const done = draftChanged(queries, 'spring');
  await expect.poll(() => answers.length).toBe(2);
  for (const answer of answers) answer();
  await done;
  expect(observer.getCurrentResult().data).toEqual(['a.html', 'b.html']);
  stop();
});
