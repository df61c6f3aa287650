import type { CommentItem } from '@/contract/comments';
import { findAnchor, markOfComment } from '@/core/inspect';
import { shelvesFile } from './open-file';
import type { PanelStore } from './panels';
import type { Frame, Ports, Text } from './ports';
import type { SpotStore } from './spot';
import { Store } from './store';

export interface CommentsState {
  /** The comment that was chosen, on the page or in the list. */
  chosen: number | null;
}

interface CommentsEvents {
  frame: () => Frame | null;
  unsaved: () => Text[];
  /** Path and query of the page that is shown. */
  address: () => string;
  may: () => { source: boolean };
  /** A piece on a shelf was chosen. */
  choosePlaced: (placement: string) => void;
}

/** Comments on the page: where their signs stand, and the way to what they are about. */
export class CommentsStore extends Store<CommentsState> {
  #shown = false;

  constructor(
    private readonly ports: Pick<Ports, 'go'>,
    private readonly parts: { spot: SpotStore; panels: PanelStore },
    private readonly events: CommentsEvents,
  ) {
    super({ chosen: null });
  }

  /** Shows on the page where the open ones stand. */
  show = (comments: readonly CommentItem[]): void => {
    const { table } = this.parts.spot.now;
    const signs = !table
      ? []
      : comments.flatMap((one) => {
          const mark = one.done ? null : markOfComment(table, { placement: one.placement, place: this.#placeOf(one) });
          return mark === null ? [] : [{ id: one.id, mark, label: String(one.number) }];
        });
    // A page without comments is not asked to look for any at each keystroke.
    if (signs.length || this.#shown) this.events.frame()?.post({ kind: 'comments', comments: signs });
    this.#shown = signs.length > 0;
  };

  /** Chooses one, as its sign does: the list shows it. */
  choose = (id: number | null): void => {
    this.set({ chosen: id });
    if (id !== null) this.parts.panels.showTab('comments');
  };

  /** Goes to what a comment is about: its page, and the piece or the line of source. */
  goTo = (comment: CommentItem): void => {
    this.set({ chosen: comment.id });
    const { page, placement } = comment;
    const place = this.events.may().source ? this.#placeOf(comment) : null;
    const there: Record<string, null | string> =
      page !== null && page !== this.events.address() ? { page, try: null } : {};
    if (place) {
      this.ports.go(there);
      this.parts.spot.goPlace(place.file, place.layer, place.from);
    } else if (placement !== null && !comment.gone) {
      this.ports.go({ ...there, file: shelvesFile, layer: null, source: null });
      this.events.choosePlaced(placement);
    } else this.ports.go(there);
  };

  /** Where it stands in the source as it is typed; null: in no file. */
  #placeOf({ place }: CommentItem): { file: string; layer: string; from: number } | null {
    if (!place?.anchor) return place;
    const typed = this.events.unsaved().find(({ path }) => path === place.file);
    const found = typed && findAnchor(place.anchor, [{ text: typed.text, own: true }]);
    // What is typed is the shop's own, also where the file was another layer's.
    return found ? { ...place, layer: this.parts.spot.now.shopLayer, from: found.from } : place;
  }
}
