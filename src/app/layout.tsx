import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import '@fontsource-variable/atkinson-hyperlegible-next/index.css';
import '@fontsource/commit-mono/400.css';
import '@fontsource/commit-mono/700.css';
import 'antd/dist/antd.css';
import '@/ui/shared/workbench.css';
import '@/ui/theme/theme.css';
import '@/ui/release/release.css';
import '@/ui/start/start.css';
import '@/ui/arrange/arrange.css';
import '@/ui/catalogue/catalogue.css';
import '@/ui/catalogue/table.css';
import '@/ui/catalogue/lists.css';

export const metadata: Metadata = {
  title: 'Last',
  description: 'The workbench for storefront developers',
  icons: {
    icon: "data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 22 22'><path d='M0 8a3 3 0 0 1 3-3h8c5 0 11 4 11 8v1a3 3 0 0 1-3 3H3a3 3 0 0 1-3-3z' fill='%2384461c'/></svg>",
  },
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>{children}</body>
    </html>
  );
}
