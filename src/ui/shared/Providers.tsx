'use client';
import { AntdRegistry } from '@ant-design/nextjs-registry';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App, ConfigProvider } from 'antd';
import { useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { antTheme, palettes, type Mode } from './palette';

const modeKey = 'last:mode';

function watchMode(changed: () => void): () => void {
  const media = window.matchMedia('(prefers-color-scheme: dark)');
  media.addEventListener('change', changed);
  window.addEventListener('last:mode', changed);
  return () => {
    media.removeEventListener('change', changed);
    window.removeEventListener('last:mode', changed);
  };
}

function readMode(): Mode {
  const stored = localStorage.getItem(modeKey);
  if (stored === 'light' || stored === 'dark') return stored;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

function setMode(next: Mode): void {
  localStorage.setItem(modeKey, next);
  window.dispatchEvent(new Event('last:mode'));
}

/**
 * Light or dark, and the way to change it. Each part asks for itself: what is brought to life later begins with what the
 * server wrote, and is drawn again when that is not so.
 */
export function useMode(): { mode: Mode; setMode: (mode: Mode) => void } {
  const mode = useSyncExternalStore<Mode>(watchMode, readMode, () => 'light');
  return { mode, setMode };
}

/** Server state, the look in light and dark, and messages, for everything in the workbench. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: true, staleTime: 0 } } }),
  );
  const { mode } = useMode();
  useEffect(() => {
    const root = document.documentElement;
    root.dataset.mode = mode;
    for (const [name, colour] of Object.entries(palettes[mode])) {
      root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, colour);
    }
  }, [mode]);
  return (
    <AntdRegistry>
      <QueryClientProvider client={client}>
        <ConfigProvider theme={antTheme(mode)}>
          <App component={false}>{children}</App>
        </ConfigProvider>
      </QueryClientProvider>
    </AntdRegistry>
  );
}
