import type { LocaleFormat } from '../values/locale';
import type { Meter } from '../values/meter';
import type { Value } from '../values/values';
import type { SiteServices } from './services';

/** What a filter may ask of the render it runs in. */
export interface FilterContext extends Meter {
  format: LocaleFormat;
  services: SiteServices;
  /** A value as the text that printing it would show, unescaped. */
  print(value: Value): string;
}

export type ByItem = (item: Value) => Value;

/** One filter: how it is written, what it does, and the code. `byItem`: its first argument is worked out for each item as `it`. */
export interface Filter {
  signature: string;
  says: string;
  byItem?: undefined;
  run(context: FilterContext, value: Value, ...args: Value[]): Value;
}

/** A filter whose first argument is an expression over `it` (left out: the item itself). */
export interface ItemFilter extends Omit<Filter, 'run' | 'byItem'> {
  byItem: true;
  run(context: FilterContext, value: Value, by: ByItem | null, ...args: Value[]): Value;
}
