import { describe, expect, it } from 'vitest';
import { demoShop } from '@/server/testing/demo-shop';
import { faultsOf } from '.';

const shop = demoShop();

describe('whether Last is well', () => {
  it('is reported with what to do where it is not', () => {
    expect(faultsOf(shop, '/tmp', () => 1e9)).toEqual([]);
    expect(faultsOf(shop, '/data', () => 12_345_678)).toEqual([
      'Only 12 MB are left on the disk of /data: make room, or nothing can be saved soon.',
    ]);
    shop.sql.run('DELETE FROM live');
    expect(faultsOf(shop, '/tmp', () => 1e9)).toEqual(['Nothing is live: publish a draft.']);
    expect(faultsOf(shop, '/nowhere/at/all').length).toBe(2);
    shop.sql.db.close();
    expect(faultsOf(shop, '/tmp', () => 1e9)).toEqual(['The database connection is not open']);
  });
});
