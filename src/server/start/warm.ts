import { setTimeout } from 'node:timers/promises';
import { draftJobs } from '@/server/drafts';
import { recordJobs } from '@/server/records';
import { inThread, type Shop } from '@/server/shop';
import { storefrontJobs } from '@/server/storefront';
import { findSubjects } from '@/store';

/** Time after the start of the process until which pages are rendered to warm up, in milliseconds. */
const warmUntilMs = 1500;
/** How long screens wait to be brought up in advance, in milliseconds. */
const pauseMs = 2500;

/**
 * Renders pages before anyone asks for them: what a large catalogue's listings are made of is read then, and the code that
 * renders is compiled, while nobody waits. The pages go nowhere: no cache fills with them. `LAST_WARM=0` leaves it out.
 */
export async function warm(shop: Shop): Promise<void> {
  const live = shop.themes.live();
  if (!live || process.env.LAST_WARM === '0') return;
  const [product] = findSubjects(shop.sql, '', 'product', 1);
  const paths = ['/listing/all', '/', ...(product ? [`/product/${product.slug}`] : []), '/cart'];
  const render = (path: string) => inThread(shop, 'live', storefrontJobs.sent, live, { path, query: {} }, null);
  try {
    // Two at a time, so that each of the threads that render live pages has read what it needs.
    do for (const path of paths) await Promise.all([render(path), render(path)]);
    while (process.uptime() * 1000 < warmUntilMs);
  } catch {
    // Nothing to warm: the first visitors wait instead.
  }
}

/** What is asked first of the table of products: its first rows as they stand, then by name. */
const usualTable = {
  ...{ search: '', where: null, columns: ['name', 'price', 'stock', 'brand', 'tags', 'pictures'] },
  ...{ from: 0, count: 100 },
};

/** The same for the workbench, once it is ready: its screens, and the theme and checks of the draft that was changed last. */
export async function warmWorkbench(shop: Shop, at: string): Promise<void> {
  if (process.env.LAST_WARM === '0') return;
  try {
    const [draft] = shop.themes.drafts();
    if (draft) await inThread(shop, 'preview', draftJobs.layers, draft);
    for (const sort of [null, { column: 'name', down: false }])
      await inThread(shop, 'preview', recordJobs.table, { ...usualTable, sort });
    // Bringing a screen up takes this thread for itself: who comes at once needs it for the screen that they want.
    await setTimeout(pauseMs, undefined, { ref: false });
    const checked = draft && inThread(shop, 'preview', draftJobs.changes, draft);
    // What answers the screens' calls comes first: every screen asks for something.
    for (const path of ['api/versions', 'bench', 'theme', 'catalogue']) await (await fetch(`${at}/${path}`)).text();
    await checked;
  } catch {
    // Nothing to warm: who comes first waits instead.
  }
}
