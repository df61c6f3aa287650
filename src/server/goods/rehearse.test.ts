import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { pageOf } from '@/server/storefront';
import { exportCatalogue, Staging } from '@/store';
import { applyImport } from './apply';
import { planImport, type ImportAsk } from './plan';
import { rehearseImport } from './rehearse';

const folder = mkdtempSync(join(tmpdir(), 'last-rehearse-'));
afterAll(() => rmSync(folder, { recursive: true }));
const making = { title: 'Goods', at: '2026-11-28T10:00:00.000Z', by: 'Robin' };

let shop: Shop;
beforeEach(async () => {
  shop = new Shop(':memory:');
  startShop(shop, { name: 'Tidy House', currency: 'EUR', languages: ['en'], theme: 'empty' }, making.at);
  applyImport(shop, await planned(cups), making);
  const first = shop.themes.draft('first');
  const texts = {
    'product/fine.html': '<amend of="product/default"><after mark="name"><p>Fine</p></after></amend>',
    'product/default.html':
      '<draw name="layouts/shop" title="{product.name}"><h1 do:mark="name">{product.name}</h1><a href="{product.fields.more}">More</a></draw>',
    'alternates.json': JSON.stringify({
      alternates: [{ kind: 'product', name: 'fine', label: 'Fine', note: '', types: [] }],
      pins: [{ kind: 'product', slug: 'bowl', alternate: 'fine' }],
      rules: [
        { id: 'r', kind: 'product', alternate: 'fine', when: { fact: 'type', test: 'is', value: ['porcelain'] } },
      ],
    }),
  };
  const files = Object.entries(texts).map(([path, text]) => ({ path, bytes: Buffer.from(text) }));
  shop.themes.save(first?.id ?? 0, files, { title: 'Fine', at: making.at, by: 'Robin' });
  shop.themes.publish(first?.id ?? 0, 'Fine', making.at, 'Robin');
});

const cups =
  'product,name,sku,price,type,field:more\ncup,Cup,C-1,4,stoneware,/content/cups\nbowl,Bowl,B-1,9,porcelain,/content/bowls\n';

async function planned(text: string, ask: Partial<ImportAsk> = {}): Promise<Staging> {
  const path = join(folder, ask.format === 'json' ? 'goods.json' : 'goods.csv');
  writeFileSync(path, text);
  const staging = new Staging(':memory:');
  await planImport(shop, staging, { file: path, format: 'csv', mode: 'merge', today: '2026-11-28', ...ask });
  return staging;
}
const state = () => ({ goods: exportCatalogue(shop.catalogue()), revision: shop.catalogue().revision });
const page = (path: string) => pageOf(shop, shop.themes.live() as never, { path, query: {} }).html;

describe('the rehearsal of an import', () => {
  it('tells which products get another template, and leaves the shop as it was', async () => {
    const [before, cup] = [state(), page('/product/cup')];
    const effects = rehearseImport(
      shop,
      await planned('product,name,sku,price,type\ncup,Cup,C-1,4,porcelain\njug,Jug,J-1,20,porcelain\npot,Pot,P-1,5,\n'),
    );
    expect(effects).toEqual({
      rehearsed: 3,
      of: 3,
      templates: [
        { from: 'default', to: 'Fine', count: 1, examples: ['cup'] },
        { from: '', to: 'Fine', count: 1, examples: ['jug'] },
      ],
      assignments: [],
      pages: 4,
      problems: [],
    });
    expect([state(), page('/product/cup')]).toEqual([before, cup]);
    expect(shop.catalogue().productBySlug('jug')).toBeNull();
  });

  it('tells what would be wrong on pages, where it is not wrong now', async () => {
    const effects = rehearseImport(
      shop,
      await planned('product,field:more\ncup,javascript:alert(1)\nbowl,/content/more\n'),
    );
    expect(effects).toMatchObject({
      pages: 3,
      templates: [],
      problems: [
        {
          page: '/product/cup',
          file: 'product/default.html',
          line: 1,
          message: expect.stringContaining('javascript:') as string,
        },
      ],
    });
    // Brought in all the same, it is there already: another import is not blamed for it.
    applyImport(shop, await planned('product,field:more\ncup,javascript:alert(1)\n'), making);
    expect(rehearseImport(shop, await planned('product,name\ncup,Large cup\n'))).toMatchObject({
      pages: 2,
      problems: [],
    });
  });

  it('tells what would be wrong with assignments: a pin to what is gone, a rule that holds for nothing', async () => {
    const effects = rehearseImport(
      shop,
      await planned('product,name,sku,price,type\ncup,Cup,C-1,4,stoneware\n', { mode: 'replace' }),
    );
    expect(effects?.assignments).toEqual([
      'There is no product “bowl” any more, which is pinned to “Fine”',
      '“Fine” by the rule “type is porcelain” holds for nothing: there is no type “porcelain” any more',
      'Nobody gets “Fine” (product/fine)',
    ]);
    expect(shop.catalogue().productBySlug('bowl')).not.toBeNull();
  });

  it('takes records from all over a large import, whatever those name', async () => {
    const rows = Array.from(
      { length: 2500 },
      (_, at) => `p-${at},Plate ${at},P-${at},5,porcelain,p-${(at + 1) % 2500}`,
    );
    const effects = rehearseImport(shop, await planned(['product,name,sku,price,type,related', ...rows].join('\n')));
    expect(effects).toMatchObject({
      rehearsed: 500,
      of: 2500,
      templates: [{ from: '', to: 'Fine', count: 500, examples: ['p-4', 'p-9', 'p-14', 'p-19', 'p-24'] }],
      problems: [],
    });
    expect(effects?.pages).toBeGreaterThan(4);
  });

  it('is none where nothing would change', async () => {
    expect(rehearseImport(shop, await planned(cups))).toBeNull();
  });
});
