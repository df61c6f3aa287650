import { Suspense, type ReactNode } from 'react';
import { Bar } from '@/ui/shared/Bar';
import { Providers } from '@/ui/shared/Providers';

export default function WorkbenchLayout({ children }: { children: ReactNode }) {
  return (
    <Providers>
      <Suspense>
        <div className="workbench">
          <Bar />
          {children}
        </div>
      </Suspense>
    </Providers>
  );
}
