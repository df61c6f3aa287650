'use client';
import { createContext, useContext, type ReactNode } from 'react';
import { allRights, type Right, type Role } from '@/contract/roles';

/** Who works here, and what they may do. */
export interface Me {
  /** Whether people sign in here; if not, whoever is at this machine may do everything. */
  signedIn: boolean;
  called: string;
  role: Role;
  rights: readonly Right[];
}

const atThisMachine: Me = { signedIn: false, called: '', role: 'owner', rights: allRights };

const Known = createContext<Me>(atThisMachine);

/** Tells every screen who is here, which the server knows. */
export const MeProvider = ({ value, children }: { value: Me; children: ReactNode }) => (
  <Known value={value}>{children}</Known>
);

export const useMe = (): Me => useContext(Known);

/** Whether whoever is here may do something: what they may not is not shown. The server holds to it whatever is shown. */
export const useMay = (right: Right): boolean => useMe().rights.includes(right);
