import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Shop } from '@/server/shop';
import { Staging } from '@/store';
import { applyImport } from '../apply';
import { undoChange } from '../undo';
import { planImport } from '../plan';

/** For tests only: imports and undoes without end, until it is killed. Each import gives every product another price. */
const [, , folder = '', from = '1'] = process.argv;
const shop = new Shop(folder);
const products = 150;

for (let work = Number(from); ; work++) {
  const file = join(folder, 'prices.csv');
  const rows = Array.from({ length: products }, (_, at) => `p-${at},Plate ${at},P-${at},${work}.00,t-${work}`);
  writeFileSync(file, ['product,name,sku,price,tags', ...rows].join('\n'));
  const staged = join(folder, 'staging.sqlite');
  rmSync(staged, { force: true });
  const staging = new Staging(staged);
  await planImport(shop, staging, { file, format: 'csv', mode: 'merge', today: '2026-11-28' });
  const made = { at: '2026-11-28T10:00:00.000Z', by: 'Robin' };
  // What is killed is what writes.
  process.stdout.write('.');
  const { id } = applyImport(shop, staging, { ...made, title: `Work ${work}` });
  staging.close();
  if (work % 3 === 0) undoChange(shop, id, made);
}
