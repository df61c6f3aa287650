import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { saveRecords } from '@/server/records';
import { ReleaseFolder, Shop } from '@/server/shop';
import { RecordReader } from '@/store';

/** For tests only: a process that changes a price and writes a release or delta file, without end, until it is killed. */
const [folder = '', out = '', seed = '1'] = process.argv.slice(2);
const shop = new Shop(folder);
const releases = new ReleaseFolder(folder, out);
let price = Number(seed) * 1000;
process.stdout.write('ready\n');
for (;;) {
  price++;
  const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
  const variants = (was.variants as object[]).map((one) => ({ ...one, price }));
  const change = { kind: 'product', slug: 'deck-oil', before: was, after: { ...was, variants } } as const;
  saveRecords(shop, [change], { title: 'A price', at: new Date().toISOString(), by: '' });
  releases.look();
  // Now and then one goes away: a release file takes its place.
  if (price % 40 === 0) for (const name of readdirSync(out)) if (name.endsWith('.delta')) rmSync(join(out, name));
}
