import type { ReactNode } from 'react';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { allRights } from '@/contract/roles';
import { addresses, may, token, whoAsks } from '@/server/http';
import { beginning, shop } from '@/server/shop';
import { AddressesProvider, Bar, type Me, MeProvider, Providers } from '@/ui/shared';

/** Addresses and the token are known when the server runs, and each answer's scripts carry a nonce of their own. */
export const dynamic = 'force-dynamic';

export default async function WorkbenchLayout({ children }: { children: ReactNode }) {
  const known = addresses();
  const who = whoAsks({ headers: await headers() });
  // The door lets nobody to a screen who is not known.
  if (!who) redirect('/sign-in');
  const begins = beginning(shop(), may(who, 'source'));
  if (!begins) redirect('/start');
  const me: Me = {
    ...{ signedIn: who.account !== 0, called: who.called, role: who.role },
    rights: allRights.filter((right) => may(who, right)),
  };
  return (
    <AddressesProvider value={{ shop: known.shop, drafts: known.drafts, apart: known.apart }} beginning={begins}>
      <meta name="last-token" content={token()} />
      <Providers>
        <MeProvider value={me}>
          <div className="workbench">
            <Bar />
            {children}
          </div>
        </MeProvider>
      </Providers>
    </AddressesProvider>
  );
}
