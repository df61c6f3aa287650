import type { PageAnswer } from '@/contract/bench';
import { draftOf } from '@/server/shop/states';
import { viewPage } from '@/server/bench/preview';
import type { Refused } from '@/server/http/refusal';
import type { Shop } from '@/server/shop/shop';

/** The refusal that this meets. */
export function refusal(work: () => unknown): Refused['body'] & { status: number } {
  try {
    work();
  } catch (error) {
    const { status, body } = error as Refused;
    return { status, ...body };
  }
  throw new Error('was not refused');
}

/** What is reported of a page of the draft, with an alternate tried. */
export const reported = (of: Shop, address: string, tried: string | null = null) => {
  const origin = 'http://localhost:4171';
  const asked = { view: null, address, try: tried, origin, unsaved: [], shown: null, open: null };
  return viewPage(of, draftOf(of, 'spring'), asked).page as PageAnswer;
};
