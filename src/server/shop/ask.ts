import type { ReadAlternates } from '@/core/alternates';
import type { CartState } from '@/core/catalogue';
import type { GivenAnswer } from '@/core/language';
import type { PageRequest } from '@/core/storefront';
import type { Theme } from '@/core/theme';

/** A theme with its assignments, ready to make pages. */
export interface MadeTheme extends ReadAlternates {
  key: string;
  theme: Theme;
}

/** Text that stands in an editor and is not saved: a page is made with it as if it were. */
export interface UnsavedText {
  path: string;
  text: string;
}

/** A page that is asked for. */
export interface PageAsk {
  /** Path of the site, its language included: `/fr/product/tarred-hemp-rope`. */
  path: string;
  query: Record<string, string>;
  tried?: string | null;
  /** As on this day (ISO 8601), instead of today. */
  on?: string | undefined;
  /** With marks that tell the Bench where everything comes from. */
  traced?: boolean;
  /** Scheme and host that the visitor knows this server by. */
  origin?: string;
  cart?: CartState;
  answers?: Record<string, GivenAnswer>;
  /** A theme in the place of the state's own. */
  made?: MadeTheme;
  /** Texts that are not saved, to make it with. */
  unsaved?: readonly UnsavedText[];
  probe?: PageRequest['probe'];
  /** Collects what is read of the theme. */
  reads?: Set<string>;
  /** Collects what is read of the goods. */
  goods?: Set<string>;
  /** With what is kept out of live too, whatever the state. */
  whole?: boolean;
}
