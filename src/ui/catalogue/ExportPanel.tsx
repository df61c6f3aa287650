'use client';
import { Button } from 'antd';
import { addressOf } from '@/contract/endpoint';
import { goodsEndpoints } from '@/contract/goods';

/** The goods as files. */
export function ExportPanel() {
  return (
    <section aria-label="Export">
      <h2>Export</h2>
      <p className="quiet">All goods as a file. Change it, and import it again: only what differs is changed.</p>
      <div className="catalogue-exports">
        <Button href={addressOf(goodsEndpoints.export, { format: 'csv' })} download>
          CSV: products, a row a variant
        </Button>
        <Button href={addressOf(goodsEndpoints.export, { format: 'json' })} download>
          JSON: the whole catalogue
        </Button>
        <Button href={addressOf(goodsEndpoints.export, { format: 'jsonld' })} download>
          JSON-LD: products in schema.org’s terms
        </Button>
      </div>
    </section>
  );
}
