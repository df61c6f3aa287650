import Database from 'better-sqlite3';
import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dataVersion, openDatabase } from './open';
import { catalogue } from './migrations/0001-catalogue';
import { theme } from './migrations/0002-theme';
import { shopping } from './migrations/0003-shopping';
import { history } from './migrations/0004-history';
import { changes } from './migrations/0005-changes';
import { Statements } from './statements';
import { StoredThemes } from './themes';

/** Migrations as they landed, by the SHA-256 of their files: data was written by each. A change needs a migration of its own. */
const landed = {
  '0001-catalogue.ts': 'a13b2d690866fc691db34848ea838547d5c0f0cc396ccff88023894627cae8e3',
  '0002-theme.ts': 'b01451e3be47ba360503157d49e76ca007b4aff348668810fe410c352e6834a7',
  '0003-shopping.ts': 'c3c70bd95fdb5afb7ebbb961c566978d9d59eeffc7525a9e19f6d489aa6ba691',
  '0004-history.ts': 'ce2123c8dfe2c68be096c87c2f6d96296c87130d64ec4e545560f12c6a95b5a3',
  '0005-changes.ts': '86cc702944cd2adb954203e154caec97beb7c5da8bf3c6825ba11ebf38e781bd',
  '0006-repair.ts': 'a94c5e45d9b6f5d9a189e2d7af9d2e20cb1c97f8bddad2eed92f6314302437bc',
  '0007-error-pages.ts': '7eda5d01e4e8f52311cd9d618820ce54e76cc1109df8eb684bb2c01093b9d55c',
  '0008-limits.ts': '97bcdccc43919c31a10aeb76865feff3e0a44fccd2cbed0de75ba782994605c7',
  '0009-goods.ts': '507477377d327f7aa91b35a6b7983715d6756ac86028ef3906d350c2f318ab59',
  '0010-pictures.ts': '8b4c3257d525ee5c13d65e786712cf7cd0cc0ab97f7100f72f388ab3a0cf2f7f',
  '0011-search-rows.ts': '4ef26ccd9648aa3e028da7510e7fe5e9fe6dee93d8dae72a7db0f3e346337c24',
  '0012-redirects.ts': '862cc410184d546a0d66e9a6b8fa2b095710d8b7053acbcd09c77e2663b62782',
  '0013-not-live.ts': 'bfaf13f1096359ecabab56ee4bd889216d04f9e0e21c56e1785777d99c237201',
  '0014-field-kinds.ts': '7e5054008817f3245d0fcb090dc40ce537bb47f9dbfdcf09ebbc2da115e8d560',
  '0015-accounts.ts': 'a0b70e95989aeb086f663cbe3e1713af5cc63e65f120e61b54e7ff05f9cf79bd',
  '0016-reviews.ts': '4fa6611713b9b41ba0368897ae1050a1e36fec9449bf3cb6e01fdc2dcdd3d55a',
  '0017-comments.ts': '3c2d73ae9a27d1e7efeca62a4a4f42e32e3b8b613c2ecd3634d25642bdd91e4b',
  '0018-settings.ts': 'c2c3344866c0869f671f31ce7ee26a35ce9e373f53173f594aaf6afe7aafbebf',
  '0019-closed-drafts.ts': '290a914d19e3985b27bffdd98dd1fb29c5da13622e245f20c4cd5783e4fc7bce',
  '0020-changed-rows.ts': 'fd72a69327428be58d7deb460c1276482df827d735c54601e16c07a5663720db',
  '0021-orders.ts': '14366f126b98085c781c951a049459d1dff6d0cee392719f855a88c39ed279d4',
  '0022-feed.ts': '5a55b7d86302b50c37ae432d0dfbb5e7a72384aca2a6105c71ff08c499aedbd2',
  '0023-order-holds.ts': '8803f97e29f1f2d261d6b31d0af61cb880b14b039529b46f753afa4baa392d1a',
};

it('migrations are as they landed', () => {
  const folder = join(import.meta.dirname, 'migrations');
  const now = readdirSync(folder).map((file) => {
    return [
      file,
      createHash('sha256')
        .update(readFileSync(join(folder, file)))
        .digest('hex'),
    ];
  });
  expect(Object.fromEntries(now)).toEqual(landed);
});

/** A data folder as an earlier version left it. */
function folderOf(steps: string[]): string {
  const folder = mkdtempSync(join(tmpdir(), 'migrations-'));
  const db = new Database(join(folder, 'last.sqlite'));
  db.pragma('journal_mode = WAL');
  for (const step of steps) db.exec(step);
  db.pragma(`user_version = ${steps.length}`);
  db.close();
  return folder;
}

const schemaOf = (db: Database.Database) =>
  db
    .prepare("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name")
    .pluck()
    .all()
    .map((name) => [
      name,
      (db.pragma(`table_info(${String(name)})`) as { name: string }[]).map((one) => one.name).sort(),
    ]);

describe('data of an earlier version is opened, with a copy of it kept', () => {
  const without = (text: string, part: RegExp): string => {
    expect(text).toMatch(part);
    return text.replace(part, '');
  };
  const early4 = without(history, /\n  -- What saves of one change say[^\n]*\n  together TEXT,/);
  const early3 = without(
    shopping,
    /,\n  -- The theme and catalogue whose questions[^\n]*\n  checked TEXT NOT NULL DEFAULT ''/,
  );
  const table: [name: string, steps: string[]][] = [
    ['1', [catalogue]],
    ['2', [catalogue, theme]],
    ['3', [catalogue, theme, shopping]],
    ['3, before it was edited', [catalogue, theme, early3]],
    ['4', [catalogue, theme, shopping, history]],
    ['4, before it was edited', [catalogue, theme, early3, early4]],
    ['5', [catalogue, theme, shopping, history, changes]],
    ['5, above an early 4', [catalogue, theme, shopping, early4, changes]],
  ];
  const fresh = schemaOf(openDatabase(':memory:'));
  for (const [name, steps] of table)
    it(`version ${name}`, () => {
      const folder = folderOf(steps);
      const db = openDatabase(folder);
      expect([db.pragma('user_version', { simple: true }), schemaOf(db)]).toEqual([dataVersion, fresh]);
      const themes = new StoredThemes(new Statements(db));
      const shop = themes.addLayer('shop', 'Shop', '', []);
      const draft = themes.addDraft('d', 'D', [shop], '2026-01-01T00:00:00Z', '');
      themes.save(draft, [{ path: 'a.html', bytes: Buffer.from('x') }], {
        title: 'a',
        at: '2026-01-01T00:00:00Z',
        by: '',
      });
      expect(themes.changeCount(draft)).toBe(1);
      db.close();
      const copy = new Database(join(folder, `last.before-${steps.length + 1}.sqlite`), { readonly: true });
      expect(copy.pragma('user_version', { simple: true })).toBe(steps.length);
      copy.close();
      // Opened again, nothing is copied once more.
      openDatabase(folder).close();
      expect(readdirSync(folder).filter((file) => file.includes('before'))).toHaveLength(1);
    });
  it('a new one needs no copy', () => {
    const folder = mkdtempSync(join(tmpdir(), 'migrations-'));
    openDatabase(folder).close();
    expect(existsSync(join(folder, 'last.sqlite')) && readdirSync(folder).some((file) => file.includes('before'))).toBe(
      false,
    );
  });
  it('one of a newer Last is refused and left as it is', () => {
    const folder = folderOf([catalogue]);
    const db = new Database(join(folder, 'last.sqlite'));
    db.pragma(`user_version = ${dataVersion + 1}`);
    db.close();
    expect(() => openDatabase(folder)).toThrow('written by a newer Last');
  });
});
