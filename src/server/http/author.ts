import { authorHeader } from '@/contract/shared';
import type { Made } from '@/store';

/** Longest name of an author that is kept, in characters. */
const maxNameLength = 60;

/** Who sends a request, as they call themselves; '' when they do not say. */
export function authorOf(request: Request): string {
  const given = request.headers.get(authorHeader) ?? '';
  try {
    return decodeURIComponent(given).trim().slice(0, maxNameLength);
  } catch {
    return '';
  }
}

/** A change made now. */
export const madeNow = (title: string, by: string): Made => ({ title, at: new Date().toISOString(), by });
