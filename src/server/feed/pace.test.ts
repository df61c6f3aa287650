import { expect, it } from 'vitest';
import { paced } from './pace';

it.each([
  // Milliseconds that each step takes, lines that each changes, when the steps begin.
  ['a quick feed rests between its steps', 100, [2000, 2000, 1000, 10], [0, 800, 1600, 2000]],
  ['a slow one does not', 900, [2000, 2000, 2000], [0, 900, 1800]],
  ['nor one that changes nothing', 50, [0, 0, 5], [0, 50, 100]],
])('%s', async (_, takesMs, changed, begun) => {
  let time = 0;
  const steps = paced(
    () => time,
    (milliseconds) => Promise.resolve((time += milliseconds)),
  );
  const began: number[] = [];
  for (const lines of changed)
    await steps(() => {
      began.push(time);
      time += takesMs;
      return Promise.resolve(lines);
    });
  expect(began).toEqual(begun);
});

it('takes the next step though one failed', async () => {
  let time = 0;
  const steps = paced(
    () => time,
    (milliseconds) => Promise.resolve((time += milliseconds)),
  );
  await steps(() => Promise.resolve(1000));
  await expect(steps(() => Promise.reject(new Error('full')))).rejects.toThrow('full');
  await steps(() => Promise.resolve(1));
  expect(time).toBe(400);
});
