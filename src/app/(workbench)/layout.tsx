import type { ReactNode } from 'react';
import { addresses, token } from '@/server/http';
import { AddressesProvider, Bar, Providers } from '@/ui/shared';

/** Addresses and the token are known when the server runs, and each answer's scripts carry a nonce of their own. */
export const dynamic = 'force-dynamic';

export default function WorkbenchLayout({ children }: { children: ReactNode }) {
  const { shop, drafts, apart } = addresses();
  return (
    <AddressesProvider value={{ shop, drafts, apart }}>
      <meta name="last-token" content={token()} />
      <Providers>
        <div className="workbench">
          <Bar />
          {children}
        </div>
      </Providers>
    </AddressesProvider>
  );
}
