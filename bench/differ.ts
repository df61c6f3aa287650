import { draftOf, stateOf } from '@/server/shop/states';
import { differingPages } from '@/server/drafts/differing';
import { writeText } from '@/server/drafts/files';
import { Shop } from '@/server/shop/shop';
import type { Report } from './live';
import { seeded } from './server';

const products = 10_000;

/** Comparing a draft with what is live, page by page in two languages: at first, and after one part was changed. In one thread. */
export function differFigures({ asked, say, figure }: Report): void {
  if (!asked('differ.whole', 'differ.one')) return;
  say(`Pages that come out different, ${products.toLocaleString('en')} products in two languages`);
  const shop = new Shop(seeded(products));
  const path = 'content/default.html';
  const text = shop.theme(draftOf(shop, 'spring')).theme.file(path)?.text ?? '';
  let hash: string | null = null;
  const compared = (note: string): [seconds: number, pages: number, of: number] => {
    hash = writeText(
      shop,
      draftOf(shop, 'spring'),
      path,
      text.replace('<h1', `<p>${note}</p><h1`),
      hash,
      '',
      undefined,
    ).hash;
    const from = performance.now();
    const steps = differingPages(shop, { state: stateOf(shop, 'live') }, { state: stateOf(shop, 'draft/spring') }, () =>
      performance.now(),
    );
    let last = { pages: 0, of: 0 };
    for (const { pages, of } of steps) last = { pages: pages.length, of };
    return [(performance.now() - from) / 1000, last.pages, last.of];
  };
  const [whole, pages, of] = compared('One');
  figure('differ.whole', whole, 's', `at most 10; ${pages} of ${of} differ, nothing known of any`);
  const [again] = compared('Two');
  figure('differ.one', again, 's', 'at most 0.5; the same part changed once more');
}
