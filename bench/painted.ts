import type { Page } from '@playwright/test';

/** A share of sorted values: 0.95 is the value that 95 of 100 do not pass. */
export const share = (values: number[], of: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.ceil(values.length * of) - 1)] as number;

/** Types letters where the focus is: for each the milliseconds until the page in the frame says that it has painted them. */
export async function painted(page: Page): Promise<number[]> {
  await page.evaluate(() => {
    const state = { pressed: 0, painted: [] as number[] };
    (window as unknown as { lastEdit: typeof state }).lastEdit = state;
    window.addEventListener('keydown', (event) => (state.pressed = event.timeStamp), true);
    window.addEventListener('message', ({ data }: MessageEvent<{ kind?: string }>) => {
      if (data?.kind !== 'shown' || !state.pressed) return;
      state.painted.push(performance.now() - state.pressed);
      state.pressed = 0;
    });
  });
  const times = () => page.evaluate(() => (window as unknown as { lastEdit: { painted: number[] } }).lastEdit.painted);
  const keys = 110;
  for (let count = 0; count < keys; count++) {
    await page.keyboard.press(count % 12 === 11 ? 'Space' : String.fromCharCode(97 + (count % 26)));
    const until = Date.now() + 5000;
    while ((await times()).length <= count && Date.now() < until) await page.waitForTimeout(15);
    await page.waitForTimeout(60);
  }
  // The first warm up what compiles.
  return (await times()).slice(10);
}
