'use client';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { draftBase, type SiteAddresses } from '@/contract/addresses';

const Known = createContext<SiteAddresses | null>(null);

/** Tells every screen where the shop and its drafts are found, which the server knows. */
export function AddressesProvider({ value, children }: { value: SiteAddresses; children: ReactNode }) {
  return <Known value={value}>{children}</Known>;
}

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
