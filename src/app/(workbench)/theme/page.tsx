import { preload } from 'react-dom';
import { addressOf } from '@/contract/endpoint';
import { draftEndpoints } from '@/contract/drafts';
import { layerEndpoints } from '@/contract/layers';
import { firstDraft } from '@/ui/shared';
import { ThemeScreen } from '@/ui/theme';

export const metadata = { title: 'Theme · Last' };

interface Props {
  searchParams: Promise<{ draft?: string }>;
}

export default async function ThemePage({ searchParams }: Props) {
  const { draft = firstDraft } = await searchParams;
  // Asked for while the scripts load, which then find them here.
  const asked = [addressOf(layerEndpoints.all, { draft }), addressOf(draftEndpoints.changes, { draft })];
  for (const address of asked) preload(address, { as: 'fetch', crossOrigin: 'anonymous' });
  return <ThemeScreen />;
}
