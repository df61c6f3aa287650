import { LRUCache } from 'lru-cache';
import type { PageAsk } from './ask';

/** A page or a served piece as the Bench's frame got it: what is needed to make it again, with the visitor's cart. */
export interface View {
  draft: string;
  kind: 'page' | 'fragment';
  ask: PageAsk;
}

/** Views that are remembered: a Bench shows one page and the pieces its scripts fetched. */
const maxViews = 400;

/**
 * What was shown in frames of the Bench, by a number that stands in the page: the Bench asks for the same page with what is
 * being typed, and for what the marks of a fetched piece speak of. Forgotten with the process; the Bench then asks by address.
 */
export class Views {
  readonly #views = new LRUCache<string, View>({ max: maxViews });
  #last = 0;

  add(view: View): string {
    const id = String(++this.#last);
    this.#views.set(id, view);
    return id;
  }

  get(id: string, draft: string): View | null {
    const view = this.#views.get(id);
    return view && view.draft === draft ? view : null;
  }
}
