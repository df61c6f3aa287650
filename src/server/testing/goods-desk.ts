import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { applyImport } from '@/server/goods/apply';
import { planImport, type ImportAsk } from '@/server/goods/plan';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { exportCatalogue, Staging } from '@/store';

/** For tests: an empty shop that takes texts as if they were files that came in. */
export class GoodsDesk {
  shop = new Shop(':memory:');
  readonly folder = mkdtempSync(join(tmpdir(), 'last-goods-'));
  readonly making = { title: 'Goods', at: '2026-11-28T10:00:00.000Z', by: 'Robin' };

  /** A shop with nothing in it again. */
  clear() {
    this.shop = new Shop(':memory:');
    startShop(
      this.shop,
      { name: 'Tidy House', currency: 'EUR', languages: ['de', 'en'], theme: 'empty' },
      this.making.at,
    );
  }

  close() {
    rmSync(this.folder, { recursive: true });
  }

  /** What taking this text in would do; `alter` may change the file before it is read. */
  async plan(text: string | Buffer, ask: Partial<ImportAsk> = {}, alter?: (file: string) => void): Promise<Staging> {
    const file = join(this.folder, ask.format === 'json' ? 'goods.json' : 'goods.csv');
    writeFileSync(file, text);
    alter?.(file);
    const staging = new Staging(':memory:');
    await planImport(this.shop, staging, { file, format: 'csv', mode: 'merge', today: '2026-11-28', ...ask });
    return staging;
  }

  async bring(text: string, ask: Partial<ImportAsk> = {}) {
    return applyImport(this.shop, await this.plan(text, ask), this.making);
  }

  catalogue() {
    return exportCatalogue(this.shop.catalogue());
  }

  product(slug: string) {
    return this.catalogue().products?.find((one) => one.slug === slug);
  }
}

/** How many records of each kind would be added, changed or removed. */
export const countsOf = (staging: Staging) =>
  Object.fromEntries(staging.counts().map(({ kind, what, count }) => [`${kind} ${what}`, count]));

/** What cannot be taken, a line each. */
export const issuesOf = (staging: Staging) =>
  staging.issues().map(({ line, column, message }) => `${line} ${column}: ${message}`);

export const cups = `Artikelgruppe;Bezeichnung;Artikelnummer;Preis;Bestand;Farbe;Marke;Kategorie;Schlagworte;Glasur
becher;Becher Nord;B-1;12,50;4;Blau;Töpferei Sund;Küche > Becher;neu, steinzeug;matt
becher;;B-2;13,50;0;Grün;;;;
schale;Schale Süd;S-1;1.234,00;2;;Töpferei Sund;Küche > Schalen;steinzeug;
`;
