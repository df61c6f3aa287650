import { expect, it } from 'vitest';
import { workClock } from './work-clock';

it.each([
  // Of the wall's time, of this process's work, what the clock shows: milliseconds.
  ['all of one core', 300, 300, 300],
  ['half, beside another program or thread', 300, 150, 152],
  ['never faster than the wall’s', 300, 550, 300],
  ['nearly nothing: a quarter of the wall’s', 300, 2, 75],
])('a clock of work: %s', (_, wallMs, workedMs, shown) => {
  let [wall, worked] = [5000, 900];
  const clock = workClock(
    () => wall,
    () => worked,
  );
  expect(clock()).toBe(0);
  for (let step = 0; step < 75; step++) {
    wall += wallMs / 75;
    worked += workedMs / 75;
    clock();
  }
  expect(clock()).toBeCloseTo(shown, 6);
});

it('asks what the thread had only of what takes longer than a moment, and counts no wait before that', () => {
  let [wall, asked] = [5000, 0];
  const clock = workClock(
    () => wall,
    () => 900 + asked++,
  );
  wall += 3;
  expect([clock(), asked]).toEqual([0.75, 0]);
  wall += 37;
  // Of 40 ms, 36 of them unknown: a quarter.
  expect([clock(), asked]).toEqual([10, 1]);
});

it('stands still while something is made that many pages share', () => {
  let [time, shared] = [5000, 700];
  const clock = workClock(
    () => time,
    () => time,
    () => shared,
  );
  for (let step = 0; step < 25; step++) {
    time += 96;
    shared += 92;
    clock();
  }
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
