'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { recordEndpoints } from '@/contract/records';
import { call, callForLines, messageOf, usePlace, useMay } from '@/ui/shared';
import { ExportPanel } from './ExportPanel';
import { GoodsHistory } from './GoodsHistory';
import { Importing } from './import-store';
import { ImportPanel } from './ImportPanel';
import { PicturesPanel } from './PicturesPanel';
import { isListed, kindViews } from './kinds';
import { KindPanel } from './lists/KindPanel';
import { ProductsPanel } from './ProductsPanel';
import { RecordPanel } from './record/RecordPanel';

const views = [
  ...kindViews.map(({ view, label, kind }) => ({ view, label, kind: kind as string })),
  { view: 'pictures', label: 'Pictures', kind: 'picture' },
  { view: 'goods', label: 'Import, export, history', kind: '' },
];

/** All that the shop's data is: products as a table, other records as lists, pictures, on their way in and out, and what was changed. */
export function CatalogueScreen() {
  const queries = useQueryClient();
  const { get, go } = usePlace();
  const goods = useMay('goods');
  // Who changes nothing has nothing to bring in.
  const shown = views.filter(({ view: one }) => goods || one !== 'goods');
  const asked = get('view');
  const view = shown.some((one) => one.view === asked) ? asked : 'products';
  const kind = kindViews.find((one) => one.view === view)?.kind;
  const counts = useQuery({ queryKey: ['goods-counts'], queryFn: () => call(recordEndpoints.counts, {}) });
  const [importing] = useState(
    () => new Importing({ call, callForLines, messageOf, changed: () => void queries.invalidateQueries() }),
  );
  return (
    <main className="catalogue">
      <nav className="catalogue-views" aria-label="Catalogue">
        {shown.map(({ view: name, label, kind: counted }) => {
          const count = counts.data?.[counted];
          return (
            <button
              key={name}
              type="button"
              aria-current={view === name ? 'page' : undefined}
              onClick={() => go({ view: name === 'products' ? null : name, record: null })}
            >
              {label}
              {count !== undefined && <small aria-hidden> {count.toLocaleString('en')}</small>}
            </button>
          );
        })}
      </nav>
      {view === 'products' && <ProductsPanel />}
      {kind !== undefined && isListed(kind) && <KindPanel key={kind} kind={kind} />}
      {kind === 'shop' && (
        <div className="goods-products">
          <RecordPanel kind="shop" slug="shop" />
        </div>
      )}
      {view === 'pictures' && <PicturesPanel />}
      {view === 'goods' && (
        <div className="catalogue-goods">
          <section className="catalogue-import" aria-label="Import">
            <ImportPanel importing={importing} />
          </section>
          <aside className="catalogue-side">
            <ExportPanel />
            <GoodsHistory importing={importing} />
          </aside>
        </div>
      )}
    </main>
  );
}
