import type { Content } from './merge-files';
import { layered } from './layered';
import { isAmendment, type OwnFile } from './update';

/**
 * How a file of the shop's own stands to what is below it: `new` (nothing is), `amends`, `adds` (its contents go in beside
 * those below), `override`, `drifted` (what it was taken from has changed since), `same` (it is what is below anyway).
 */
export type Standing = 'new' | 'amends' | 'adds' | 'override' | 'drifted' | 'same';

export function standingOf(path: string, own: OwnFile, below: Content | null): Standing {
  if (!below) return 'new';
  if (layered(path)) return 'adds';
  if (isAmendment(path, own.text)) return 'amends';
  if (own.hash === below.hash) return 'same';
  return own.origin && own.origin.hash !== below.hash ? 'drifted' : 'override';
}
