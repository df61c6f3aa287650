import { setImmediate, setTimeout } from 'node:timers/promises';
import { headers } from 'next/headers';
import { preload } from 'react-dom';
import { addressOf } from '@/contract/endpoint';
import { layerEndpoints } from '@/contract/layers';
import { draftJobs } from '@/server/drafts';
import { may, Refused, whoAsks } from '@/server/http';
import { draftOf, beginning, inThread, shop } from '@/server/shop';
import { filterOf, firstSight, ThemePlace, type Filter, type FirstSight } from '@/ui/theme';

export const metadata = { title: 'Theme · Last' };

interface Props {
  searchParams: Promise<{ draft?: string; show?: string; file?: string }>;
}

/** The screen comes with its files: they can be read, and followed as links, before its scripts have come to life. */
export default async function ThemePage({ searchParams }: Props) {
  const { draft = beginning(shop())?.draft ?? '', show, file = null } = await searchParams;
  const who = whoAsks({ headers: await headers() });
  if (!who || !may(who, 'source')) return <ThemePlace known={null} />;
  const known = await filesOf(draft, filterOf(show), file);
  // Asked for while the scripts load, which then find it here.
  if (!known) preload(addressOf(layerEndpoints.all, { draft }), { as: 'fetch', crossOrigin: 'anonymous' });
  return <ThemePlace known={known} />;
}

/** The screen does not wait for its files longer than this, in milliseconds: it asks for them itself then. */
const patience = 150;

/** The files of a draft that are seen first; null where there is no such draft, or its files take long: the screen asks for them itself. */
async function filesOf(draft: string, filter: Filter, chosen: string | null): Promise<FirstSight | null> {
  try {
    const open = shop();
    const files = inThread(open, 'preview', draftJobs.layers, draftOf(open, draft));
    const known = await Promise.race([files, late()]);
    return known && firstSight(known, filter, chosen);
  } catch (error) {
    if (error instanceof Refused) return null;
    throw error;
  }
}

/** An answer that came while this thread was busy is heard before its time is up. */
async function late(): Promise<null> {
  await setTimeout(patience, null, { ref: false });
  return setImmediate(null);
}
