import type { ReactNode } from 'react';
import { redirect } from 'next/navigation';
import { addresses, token } from '@/server/http';
import { beginning, shop } from '@/server/shop';
import { AddressesProvider, Bar, Providers } from '@/ui/shared';

/** Addresses and the token are known when the server runs, and each answer's scripts carry a nonce of their own. */
export const dynamic = 'force-dynamic';

export default function WorkbenchLayout({ children }: { children: ReactNode }) {
  const begins = beginning(shop());
  if (!begins) redirect('/start');
  const known = addresses();
  return (
    <AddressesProvider value={{ shop: known.shop, drafts: known.drafts, apart: known.apart }} beginning={begins}>
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
