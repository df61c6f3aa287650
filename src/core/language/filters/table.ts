import type { Filter, ItemFilter } from './filter';
import { listFilters } from './lists';
import { numberFilters } from './numbers';
import { embed } from './embed';
import { structured } from './structured';
import { textFilters } from './text';
import { splitBy } from './tiles';

/** All filters by name. The checker, the compiler, the editor and the docs read this one table. */
export const filterTable: ReadonlyMap<string, Filter | ItemFilter> = new Map<string, Filter | ItemFilter>(
  Object.entries({ ...textFilters, ...listFilters, ...numberFilters, split_by: splitBy, structured, embed }),
);
