import { get } from 'node:http';
import type { Addresses } from '@/server/http';

/** Longest time given to warming up, in milliseconds. */
const warmUpMs = 4000;

/**
 * Asks for pages before anyone else does: what a large catalogue's listings are made of is read then, and the code that
 * serves is compiled, while nobody waits. `LAST_WARM=0` leaves it out.
 */
export async function warm({ shop, setup }: Addresses): Promise<void> {
  if (process.env.LAST_WARM === '0') return;
  const host = new URL(shop).host;
  const ask = (path: string) =>
    new Promise<string>((resolve, reject) => {
      const to = { host: setup.bind === '0.0.0.0' ? '127.0.0.1' : setup.bind, port: setup.sitePort, path };
      get({ ...to, headers: { Host: host } }, (answer) => {
        let text = '';
        answer.setEncoding('utf8').on('data', (part: string) => (text += part));
        answer.on('end', () => resolve(text)).on('error', reject);
      }).on('error', reject);
    });
  try {
    // Two at a time, so that each of the threads that make live pages has read what it needs.
    const [home = ''] = await Promise.all([ask('/'), ask('/listing/all')]);
    await Promise.all([ask('/listing/all?warm=a'), ask('/listing/all?warm=b')]);
    const product = /href="(\/product\/[^"?]+)/.exec(home)?.[1] ?? '/';
    const until = Date.now() + warmUpMs;
    for (let round = 0; round < 150 && Date.now() < until; round++)
      await Promise.all(['/', product, `${product}?warm=${round}`, `/listing/all?warm=${round}`, '/cart'].map(ask));
  } catch {
    // Nothing to warm: the first visitors wait instead.
  }
}
