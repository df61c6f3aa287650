'use client';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { draftBase, type SiteAddresses } from '@/contract/addresses';

const Known = createContext<SiteAddresses | null>(null);
/** Where one is when the address does not say: the draft, by its name in addresses, and the path of the page. */
interface Beginning {
  draft: string;
  page: string;
}

const Begins = createContext<Beginning>({ draft: '', page: '/' });

interface Provided {
  value: SiteAddresses;
  beginning: Beginning;
  children: ReactNode;
}

/** Tells every screen where the shop and its drafts are found, which the server knows. */
export function AddressesProvider({ value, beginning, children }: Provided) {
  return (
    <Known value={value}>
      <Begins value={beginning}>{children}</Begins>
    </Known>
  );
}

export const useBeginning = (): Beginning => useContext(Begins);

export function useAddresses(): SiteAddresses {
  const known = useContext(Known);
  if (!known) throw new RangeError('No addresses are known here: AddressesProvider stands around every screen.');
  return known;
}

/** Where a draft's pages are: the base of their addresses, and its origin. */
export function useDraftSite(draft: string): { base: string; origin: string } {
  const known = useAddresses();
  return useMemo(() => {
    const base = draftBase(known, draft);
    return { base, origin: new URL(base).origin };
  }, [known, draft]);
}

/** Whether a page has to be told that it is in a frame: the browser says so only by HTTPS, and on this machine. */
export const tellsFramed = (): boolean => typeof window !== 'undefined' && !window.isSecureContext;
