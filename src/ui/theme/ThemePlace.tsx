'use client';
import { Segmented, Skeleton } from 'antd';
import dynamic from 'next/dynamic';
import { useMay, usePlace } from '@/ui/shared';
import type { FirstSight } from './firstSight';
import { ThemeScreen } from './ThemeScreen';

const Phrases = dynamic(() => import('@/ui/phrases').then((room) => room.PhrasesScreen), {
  // What was typed and not saved is in the browser.
  ssr: false,
  loading: () => <Skeleton active className="theme" />,
});

/** The theme: its files and layers, or its words. */
export function ThemePlace({ known }: { known: FirstSight | null }) {
  const { get, go } = usePlace();
  const source = useMay('source');
  // Who sees no source has the words alone.
  const words = get('view') === 'words' || !source;
  const switcher = source && (
    <Segmented
      aria-label="Of the theme"
      options={[
        { value: 'files', label: 'Files' },
        { value: 'words', label: 'Words' },
      ]}
      value={words ? 'words' : 'files'}
      onChange={(value) => go({ view: value === 'words' ? 'words' : null })}
    />
  );
  return words ? <Phrases switcher={switcher} /> : <ThemeScreen known={known} switcher={switcher} />;
}
