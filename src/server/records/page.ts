import type { z } from 'zod';
import type { recordEndpoints } from '@/contract/records';
import { viewOf, viewPage } from '@/server/bench';
import { dataFolder, Shop, type View } from '@/server/shop';
import type { StateRow } from '@/store';
import { saveRecords } from './save';

type Asked = z.output<(typeof recordEndpoints)['page']['body']>;
type Answer = z.output<(typeof recordEndpoints)['page']['answer']>;

/** What ends a rehearsal: all that it wrote is rolled back. */
class Over extends Error {}

const writing = new WeakMap<Shop, Shop>();

/** The same shop with a connection of its own that may write: a thread's reads only. */
function forWriting(shop: Shop): Shop {
  if (!shop.sql.db.readonly) return shop;
  let own = writing.get(shop);
  if (!own) writing.set(shop, (own = new Shop(dataFolder())));
  return own;
}

/**
 * The page of a record in a draft, as it would be with changes that are not saved. They are written in a transaction that is rolled back, so that the page
 * is the one that saving would give. Refused where the changes could not be saved.
 */
export function recordPage(
  shop: Shop,
  draft: StateRow,
  { changes, ...asked }: Asked,
  view: View | null = viewOf(shop, draft, asked),
): Answer {
  const ask = { ...asked, try: null, unsaved: [], open: null };
  const own = changes.length ? forWriting(shop) : shop;
  let answer: Answer | null = null;
  const make = (from: Shop) => {
    const { page, html, shown } = viewPage(from, from.themes.state(draft.id) ?? draft, ask, view);
    answer = { page, html, shown };
  };
  if (!changes.length) make(shop);
  else
    try {
      own.themes.transaction(() => {
        const { revision } = own.catalogue();
        saveRecords(own, changes, { title: '', at: '', by: '' }, { force: true });
        // What is cached of the catalogue is of this revision, which others will have too: it is read apart.
        own.rehearse(revision, () => make(own));
        throw new Over();
      });
    } catch (error) {
      if (!(error instanceof Over)) throw error;
    }
  return answer as unknown as Answer;
}
