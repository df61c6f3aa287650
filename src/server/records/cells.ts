import {
  cellOf,
  mergeFields,
  readList,
  readTarget,
  writeCell,
  type CellContext,
  type Target,
  type WholeProduct,
} from '@/core/exchange';
import type { Refusal } from '@/contract/shared';
import { grouped } from '@/core/catalogue';
import { cleanRichText } from '@/server/catalogue';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { changeOfRecord, RecordReader, type GoodsRecord } from '@/store';
import { cellContext } from './cell-context';
import { writeChanges, type ChangeOf, type Saving } from './write';

/** A cell that is written: what stood there, and what is to. */
export interface WrittenCell {
  slug: string;
  column: string;
  was: string;
  text: string;
}

/** What is done to a column of many products: it is set, some entries of its list are added or removed, or it is filled where it is empty. */
export interface BulkEdit {
  column: string;
  action: 'set' | 'add' | 'remove' | 'fill';
  text: string;
}

/** What was written: number of the change (null: nothing differs), how many products, and cells that were left as they are. */
export interface Written {
  id: number | null;
  records: number;
  left: CellProblem[];
}

export type CellProblem = NonNullable<Refusal['cells']>[number];

/** Products that are read at once. */
const batch = 500;
/** Cells that a refusal lists. */
const maxListed = 200;

const targetOf = (column: string): Target =>
  readTarget(column) ?? refuse(422, 'column', `There is no column “${column}”.`);

/** Rich text is made safe before it is compared, so that what is kept is what was written. */
const safe = ({ part, name }: Target, text: string, { fields }: CellContext): string =>
  part === 'description' || (part === 'field' && fields.get(name ?? '')?.type === 'html') ? cleanRichText(text) : text;

/** A product with one more cell written; a sentence where that cannot be. */
function withCell(
  product: WholeProduct,
  target: Target,
  text: string,
  context: CellContext,
): WholeProduct | { wrong: string } {
  const change = writeCell(product, target, safe(target, text, context), context);
  if (!change) return product;
  if ('wrong' in change) return change;
  const { fields } = mergeFields(change.before, change.after, product as unknown as GoodsRecord, true);
  return { ...product, ...fields };
}

/**
 * Writes cells, all or none, as one change. Refused with each cell that cannot be written, and each where someone else wrote meanwhile, with what
 * stands there now; `partly` leaves those out instead.
 */
export function saveCells(
  shop: Shop,
  cells: readonly WrittenCell[],
  saving: Saving,
  { partly = false, heard = () => {} }: { partly?: boolean; heard?: (done: number) => void } = {},
): Written {
  const left: CellProblem[] = [];
  const bySlug = grouped(cells, ({ slug }) => slug);
  const written = write(
    shop,
    [...bySlug.keys()],
    saving,
    heard,
    (slug, product, context) => {
      let next = product;
      for (const { column, was, text } of bySlug.get(slug) ?? []) {
        const problem = (message: string, now?: string) =>
          left.push({ slug, column, message, ...(now === undefined ? {} : { now }) });
        if (!product || !next) {
          problem('The product is gone: someone removed it meanwhile');
          continue;
        }
        const target = targetOf(column);
        const { text: now } = cellOf(product, target, context);
        if (now.trim() !== was.trim() && now.trim() !== text.trim())
          problem('Someone else changed this cell meanwhile', now);
        else {
          const comes = withCell(next, target, text, context);
          if ('wrong' in comes) problem(comes.wrong);
          else next = comes;
        }
      }
      return next;
    },
    () => {
      if (!left.length || partly) return;
      const others = left.some(({ now }) => now !== undefined);
      const first = left[0] as CellProblem;
      refuse(
        others ? 409 : 422,
        'cells',
        left.length === 1
          ? `${first.message}. Nothing was saved.`
          : `${left.length} cells cannot be written, the first since: ${first.message}. Nothing was saved.`,
        { cells: left.slice(0, maxListed) },
      );
    },
  );
  return { ...written, left };
}

/** Does one thing to a column of many products as one change. Cells that cannot be written are left, and told. */
export function bulkEdit(
  shop: Shop,
  slugs: readonly string[],
  { column, action, text }: BulkEdit,
  saving: Saving,
  heard: (done: number) => void = () => {},
): Written {
  const target = targetOf(column);
  const left: CellProblem[] = [];
  const written = write(shop, slugs, saving, heard, (slug, product, context) => {
    if (!product) return null;
    const now = cellOf(product, target, context).text;
    if (action === 'fill' && now.trim()) return product;
    const names = readList(text);
    const list = readList(now);
    const comes = withCell(
      product,
      target,
      action === 'add'
        ? [...list, ...names].join(' | ')
        : action === 'remove'
          ? list.filter((one) => !names.some((name) => name.toLowerCase() === one.toLowerCase())).join(' | ')
          : text,
      context,
    );
    if (!('wrong' in comes)) return comes;
    left.push({ slug, column, message: comes.wrong });
    return product;
  });
  return { ...written, left };
}

/** Reads products in batches, lets each be changed, and writes what differs. `before`: looked at when all are known, before anything is kept. */
function write(
  shop: Shop,
  slugs: readonly string[],
  saving: Saving,
  heard: (done: number) => void,
  change: (slug: string, product: WholeProduct | null, context: CellContext) => WholeProduct | null,
  before: () => void = () => {},
): Pick<Written, 'id' | 'records'> {
  return shop.themes.transaction(() => {
    const reader = new RecordReader(shop.catalogue());
    const context = cellContext(shop);
    let records = 0;
    function* changes(): Generator<ChangeOf> {
      for (let at = 0; at < slugs.length; at += batch) {
        const some = slugs.slice(at, at + batch);
        const there = reader.read('product', some);
        for (const slug of some) {
          const now = there.get(slug);
          const product = change(slug, (now as WholeProduct | undefined) ?? null, context);
          const made = now && product && changeOfRecord('product', slug, now, product as unknown as GoodsRecord);
          if (!made) continue;
          records++;
          yield [made, now];
        }
      }
      before();
    }
    return { id: writeChanges(shop, changes(), saving, heard), records };
  });
}
