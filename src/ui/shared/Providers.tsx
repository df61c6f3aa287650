'use client';
import { AntdRegistry } from '@ant-design/nextjs-registry';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App, ConfigProvider } from 'antd';
import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import { antTheme, palettes, type Mode } from './palette';

const ModeContext = createContext<{ mode: Mode; setMode: (mode: Mode) => void }>({ mode: 'light', setMode: () => {} });

export const useMode = () => useContext(ModeContext);

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
  const kept = localStorage.getItem(modeKey);
  if (kept === 'light' || kept === 'dark') return kept;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

/** Server state, the look in light and dark, and messages, for everything in the workbench. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { retry: false, refetchOnWindowFocus: true, staleTime: 0 } } }),
  );
  const mode = useSyncExternalStore<Mode>(watchMode, readMode, () => 'light');
  const value = useMemo(
    () => ({
      mode,
      setMode: (next: Mode) => {
        localStorage.setItem(modeKey, next);
        window.dispatchEvent(new Event('last:mode'));
      },
    }),
    [mode],
  );
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
        <ModeContext.Provider value={value}>
          <ConfigProvider theme={antTheme(mode)}>
            <App component={false}>{children}</App>
          </ConfigProvider>
        </ModeContext.Provider>
      </QueryClientProvider>
    </AntdRegistry>
  );
}
