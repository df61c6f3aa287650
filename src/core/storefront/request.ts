import type { Alternates } from '@/core/alternates';
import type { CartState, CatalogueSource } from '@/core/catalogue';
import type { ElementNode, GivenAnswer, RenderOptions, TemplateLookup } from '@/core/language';
import type { Theme } from '@/core/theme';

/** A request for a page, and the state of the shop that answers it. */
export interface PageRequest {
  theme: Theme;
  alternates: Alternates;
  /** The catalogue in the language of the page. */
  source: CatalogueSource;
  /** Path of the site, without language: `/product/tarred-hemp-rope`. */
  path: string;
  query: Record<string, string>;
  /** What stands before every path of the state that is shown: `/live`, `/draft/spring`. */
  prefix: string;
  /** Scheme and host, for addresses that are read away from the page; left out: they stay paths. */
  origin?: string;
  /** The address of a picture in a size, as this server takes it; left out: as the template says. */
  sized?: (address: string) => string;
  /** Rich text that staff wrote, with nothing in it that runs; left out: as it is written. */
  rich?: (markup: string) => string;
  /** Today in UTC, as ISO 8601: no page reads a clock. */
  today: string;
  /** An alternate to try, without it being assigned: its name, or of a piece's the whole path (`pieces/tile/book`). */
  tried?: string | null;
  /** What the visitor has in the cart. */
  cart?: CartState;
  /** What the visitor answered, for a page that comes back with problems. */
  answers?: Record<string, GivenAnswer>;
  /** Collects what is read of the theme (`core/theme/reads.ts`); left out: nothing does. */
  reads?: Set<string>;
  /** With marks in the page, and a trace of what they speak of. */
  traced?: boolean;
  time?: RenderOptions['time'];
  /** A template that tells its trace of every name in reach inside one of its elements (null: at its root). */
  probe?: { name: string; at: ElementNode | null };
  /** Where templates are found instead of in the theme. */
  lookup?: TemplateLookup;
}
