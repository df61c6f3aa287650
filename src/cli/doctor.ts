import { resolve } from 'node:path';
import { diagnose } from '@/server/health';
import { dataFolder } from '@/server/shop';
import { said, type Say } from './said';

/** `last doctor`: what is wrong with an installation, and what to do. Ends with 1 where anything is. */
export function doctorCommand(
  { releases, json = false }: { releases?: string; json?: boolean },
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, () => {
    const found = diagnose({ folder: dataFolder(), releases: releases && resolve(releases) });
    if (json) say(JSON.stringify(found));
    else for (const { what, fault } of found) say(fault === null ? `✓ ${what}` : `✗ ${what}: ${fault}`);
    return Promise.resolve(found.some(({ fault }) => fault !== null) ? 1 : 0);
  });
}
