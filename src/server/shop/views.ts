import { LRUCache } from 'lru-cache';
import type { PageAsk, UnsavedText } from './ask';

/** A page or a served piece as the Bench's frame got it: what is needed to make it again, with the visitor's cart. */
export interface View {
  draft: string;
  kind: 'page' | 'fragment';
  ask: PageAsk;
}

/** Views that are remembered: a Bench shows one page and the pieces its scripts fetched. */
const maxViews = 400;
/** Views whose unsaved texts are remembered: a window shows one at a time. */
const maxTyped = 20;

/**
 * What was shown in frames of the Bench, by a number that stands in the page: the Bench asks for the same page with what is
 * being typed, and for what the marks of a fetched piece speak of. Forgotten with the process; the Bench then asks by address.
 */
export class Views {
  readonly #views = new LRUCache<string, View>({ max: maxViews });
  readonly #typed = new LRUCache<string, readonly UnsavedText[]>({ max: maxTyped });
  #last = 0;

  add(view: View): string {
    const id = String(++this.#last);
    this.#views.set(id, view);
    return id;
  }

  /** Notes what is typed in the Bench that shows a view, and not saved: what its scripts fetch is made with that too. */
  type(id: string | null, draft: string, unsaved: readonly UnsavedText[]): void {
    if (id !== null && this.get(id, draft)) this.#typed.set(id, unsaved);
  }

  typedIn(id: string | null, draft: string): readonly UnsavedText[] {
    return id !== null && this.get(id, draft) ? (this.#typed.get(id) ?? []) : [];
  }

  get(id: string, draft: string): View | null {
    const view = this.#views.get(id);
    return view && view.draft === draft ? view : null;
  }
}
