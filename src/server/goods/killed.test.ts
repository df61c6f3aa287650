import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { programOf } from '@/server/testing/program';

const rounds = 40;
let folder: string;
let program: Awaited<ReturnType<typeof programOf>>;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'killed-goods-'));
  program = await programOf('src/server/goods/testing/killed.ts');
  const shop = new Shop(folder);
  startShop(shop, { name: 'S', currency: 'EUR', languages: ['en'], theme: 'empty' }, '2026-11-28T10:00:00.000Z');
  shop.sql.db.close();
});
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
  program.remove();
});

/** Runs imports, and kills them at some moment of the second or a later one. */
function killed(round: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn('node', [program.file, folder, String(1 + round * 20)], { stdio: ['ignore', 'pipe', 'pipe'] });
    let errors = '';
    child.stderr.on('data', (text: Buffer) => (errors += text.toString()));
    // In the first, second or third work, however fast the machine is; moments spread by the golden ratio.
    let begun = 0;
    const within = 1 + (round % 3);
    child.stdout.on('data', (dots: Buffer) => {
      const before = begun;
      begun += dots.length;
      if (before < within && begun >= within) setTimeout(() => child.kill('SIGKILL'), ((round * 0.618034) % 1) * 120);
    });
    child.once('exit', (code) => (code === null ? resolve() : reject(new Error(`It ended by itself: ${errors}`))));
  });
}

it(`an import that is killed ${rounds} times is there as a whole or not at all, and its history with it`, async () => {
  let between = 0;
  let last = 0;
  for (let round = 0; round < rounds; round++) {
    await killed(round);
    const { sql } = new Shop(folder);
    const one = <T>(query: string) => sql.get<{ found: T }>(query)?.found;
    expect(sql.db.pragma('integrity_check', { simple: true })).toBe('ok');
    expect(sql.db.pragma('foreign_key_check')).toEqual([]);
    // All products are of one work: with its price, in their variants and as it is listed, with its tag, and in the history.
    const prices = sql.all<{ price: number }>(
      'SELECT DISTINCT price FROM variant UNION SELECT DISTINCT price FROM product',
    );
    expect([round, prices.length <= 1]).toEqual([round, true]);
    const works = sql.all<{ title: string; records: number; undoes: number | null }>(
      `SELECT title, undoes, (SELECT count(*) FROM goods_record r WHERE r.change_id = c.id AND r.kind = 'product') AS records FROM goods_change c ORDER BY id`,
    );
    expect([round, works.filter(({ records }) => records !== 150)]).toEqual([round, []]);
    const undone = new Set(works.flatMap(({ undoes }) => undoes ?? []));
    const standing = works.filter(({ undoes }, at) => undoes === null && !undone.has(at + 1)).at(-1);
    const number = Number(/\d+/.exec(standing?.title ?? '0')?.[0]);
    expect([round, prices[0]?.price ?? 0]).toEqual([round, number * 100]);
    expect([round, one<number>('SELECT count(*) AS found FROM product_tag')]).toEqual([round, number ? 150 : 0]);
    if (works.length === last) between++;
    last = works.length;
    sql.db.close();
  }
  // Many were cut off before their end, and many went through.
  expect([between > 3, last > rounds / 2]).toEqual([true, true]);
}, 900_000);
