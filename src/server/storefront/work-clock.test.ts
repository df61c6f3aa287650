import { expect, it } from 'vitest';
import { workClock } from './work-clock';

it.each([
  // Of the wall's time, of this process's work, what the clock shows: milliseconds.
  ['all of one core', 300, 300, 300],
  ['half, beside another program or thread', 300, 150, 150],
  ['never faster than the wall’s', 300, 550, 300],
  ['nearly nothing: a quarter of the wall’s', 300, 2, 75],
])('a clock of work: %s', (_, wallMs, workedMs, shown) => {
  let [wall, worked] = [5000, 900];
  const clock = workClock(
    () => wall,
    () => worked,
  );
  expect(clock()).toBe(0);
  wall += wallMs;
  worked += workedMs;
  expect(clock()).toBe(shown);
});

it('stands still while something is made that many pages share', () => {
  let [time, shared] = [5000, 700];
  const clock = workClock(
    () => time,
    () => time,
    () => shared,
  );
  time += 2400;
  shared += 2300;
  expect(clock()).toBe(100);
});

it('goes on while this thread works, and hardly while it waits', async () => {
  const clock = workClock();
  const until = performance.now() + 60;
  while (performance.now() < until);
  const busy = clock();
  await new Promise((resolve) => setTimeout(resolve, 400));
  expect([busy > 10, clock() - busy < 390]).toEqual([true, true]);
});
