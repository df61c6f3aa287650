import Database from 'better-sqlite3';
import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { backUp, faultOf, restore, restoreInUse } from './backup';
import { databaseFile, openForReading } from './database';
import { dataVersion, openDatabase } from './open';
import { FolderTaken, takeFolder } from './owner';
import { Statements } from './statements';
import { StoredThemes } from './themes';
import { FileWatch } from './watch';

const at = '2026-11-27T10:20:30.000Z';
let folder: string;
let themes: StoredThemes;
let draft: number;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'backup-'));
  themes = new StoredThemes(new Statements(openDatabase(folder)));
  draft = themes.addDraft('d', 'D', [themes.addLayer('shop', 'Shop', '', [])], at, '');
});
const save = (text: string) =>
  themes.save(draft, [{ path: 'a.html', bytes: Buffer.from(text) }], { title: text, at, by: '' });
const held = (of = folder): string[] => {
  const opened = new StoredThemes(new Statements(openDatabase(of)));
  const titles = opened.changes(opened.draft('d')?.id ?? 0).map(({ title }) => title);
  opened.sql.db.close();
  return titles;
};
const elsewhere = () => join(mkdtempSync(join(tmpdir(), 'copy-')), 'shop.backup');

describe('a backup', () => {
  it('holds all that was saved, what stands in the log too, while more is written', async () => {
    for (let n = 0; n < 30; n++) save(`before ${n}`);
    const file = elsewhere();
    const size = backUp(folder, file);
    save('meanwhile');
    expect(await size).toBeGreaterThan(10_000);
    // SQLite's own check, and its own reading of what it holds.
    const copy = new Database(file, { readonly: true });
    expect([
      copy.pragma('integrity_check', { simple: true }),
      copy.prepare("SELECT count(*) FROM change WHERE title LIKE 'before %'").pluck().get(),
    ]).toEqual(['ok', 30]);
    copy.close();
    // What copying the file alone would have held: nothing, it stands in the log.
    const plain = elsewhere();
    copyFileSync(databaseFile(folder), plain);
    expect(faultOf(plain)).not.toBeNull();
  });
  it('that cannot be written leaves nothing, and what was there as it was', async () => {
    const file = elsewhere();
    writeFileSync(file, 'an earlier one');
    await expect(backUp(folder, join(folder, 'none', 'x'))).rejects.toThrow('could not be written');
    await expect(backUp(mkdtempSync(join(tmpdir(), 'empty-')), file)).rejects.toThrow('There is no shop in');
    expect(readFileSync(file, 'utf8')).toBe('an earlier one');
    expect(readdirSync(folder).filter((one) => one.includes('part'))).toEqual([]);
  });
  it('onto a disk that is full leaves what was there, and says so', () => {
    for (let n = 0; n < 20; n++) save(`${n} ${'x'.repeat(50_000)}`);
    themes.sql.db.close();
    const file = elsewhere();
    writeFileSync(file, 'an earlier one');
    // The shell's limit of a file's size, in kilobytes: past it writing fails, as on a disk without room.
    const command = `ulimit -f 300; exec npx tsx src/cli/main.ts backup '${file}'`;
    const { status, stderr } = spawnSync('bash', ['-c', command], {
      env: { ...process.env, LAST_DATA: folder },
      encoding: 'utf8',
    });
    expect([status, stderr]).toEqual([1, expect.stringContaining('could not be written')]);
    expect(readFileSync(file, 'utf8')).toBe('an earlier one');
    expect(readdirSync(join(file, '..'))).toEqual(['shop.backup']);
    expect(held()).toHaveLength(20);
  });
  it('is restored, twice too; what stood there is kept', async () => {
    save('one');
    const file = elsewhere();
    await backUp(folder, file);
    save('two');
    themes.sql.db.close();
    const first = restore(folder, file, at) as string;
    expect([held(), first.endsWith('last.before-restore-20261127102030.sqlite')]).toEqual([['one'], true]);
    expect(faultOf(first)).toBeNull();
    const second = restore(folder, file, at) as string;
    expect([held(), second.endsWith('-2.sqlite')]).toEqual([['one'], true]);
    // And back again.
    restore(folder, first, at);
    expect(held()).toEqual(['two', 'one']);
    const other = mkdtempSync(join(tmpdir(), 'other-'));
    expect([restore(other, file, at), held(other)]).toEqual([null, ['one']]);
  });
  it('over a database that is damaged keeps that too', async () => {
    save('one');
    const file = elsewhere();
    await backUp(folder, file);
    themes.sql.db.close();
    writeFileSync(databaseFile(folder), 'not a database');
    const kept = restore(folder, file, at) as string;
    expect([held(), readFileSync(kept, 'utf8')]).toEqual([['one'], 'not a database']);
  });
  it('that is none, cut short, damaged, empty or newer is refused, and nothing changes', async () => {
    save('one');
    const whole = elsewhere();
    await backUp(folder, whole);
    themes.sql.db.close();
    const made = (work: (file: string) => void): string => {
      const file = elsewhere();
      copyFileSync(whole, file);
      work(file);
      return file;
    };
    const newer = made((file) => {
      const db = new Database(file);
      db.pragma(`user_version = ${dataVersion + 1}`);
      db.close();
    });
    const table: [file: string, why: string | RegExp][] = [
      [made((file) => writeFileSync(file, 'hello')), 'not a database'],
      [made((file) => writeFileSync(file, '')), 'it holds no shop'],
      [made((file) => truncateSync(file, 9000)), /malformed|damaged/],
      [
        made((file) => {
          const bytes = readFileSync(file);
          bytes.fill(0xff, 4096 * 3, 4096 * 9);
          writeFileSync(file, bytes);
        }),
        /malformed|damaged/,
      ],
      [newer, 'written by a newer Last'],
      [join(folder, 'none'), 'There is no file'],
    ];
    for (const [file, why] of table) expect(() => restore(folder, file, at)).toThrow(why);
    expect([held(), readdirSync(folder).filter((one) => /new|restore/.test(one))]).toEqual([['one'], []]);
  });
});

describe('a backup that is restored while the database is in use', () => {
  /** Grows the database by far more than the backup has, so that its file is cut afterwards. */
  const grow = () => {
    for (let n = 0; n < 20; n++) save(`${n} ${'x'.repeat(200_000)}`);
  };
  it('is seen by all who have it open, from one moment on; what was there is kept, and nothing counts as lost', async () => {
    save('one');
    const file = elsewhere();
    await backUp(folder, file);
    grow();
    themes.sql.watch = new FileWatch(databaseFile(folder));
    const reader = openForReading(folder);
    const seen = () => reader.prepare('SELECT count(*) FROM change').pluck().get();
    expect(seen()).toBe(21);
    const kept = await restoreInUse(folder, file, at);
    expect([seen(), held(), themes.changes(draft).length]).toEqual([1, ['one'], 1]);
    // Smaller than before, which is no loss.
    themes.sql.watch = new FileWatch(databaseFile(folder));
    save('two');
    themes.sql.db.pragma('wal_checkpoint(TRUNCATE)');
    save('three');
    expect(held()).toEqual(['three', 'two', 'one']);
    reader.close();
    themes.sql.db.close();
    restore(folder, kept, at);
    expect(held()).toHaveLength(21);
    expect(readdirSync(folder).filter((name) => name.includes('.new'))).toEqual([]);
  });
  it('waits for who still reads what was there', async () => {
    save('one');
    const file = elsewhere();
    await backUp(folder, file);
    grow();
    const reader = openForReading(folder);
    reader.exec('BEGIN');
    expect(reader.prepare('SELECT count(*) FROM change').pluck().get()).toBe(21);
    let isDone = false;
    const done = restoreInUse(folder, file, at).then(() => (isDone = true));
    await expect.poll(() => held()).toEqual(['one']);
    // What began before goes on as it was.
    expect([reader.prepare('SELECT count(*) FROM change').pluck().get(), isDone]).toEqual([21, false]);
    reader.exec('COMMIT');
    await done;
    expect(reader.prepare('SELECT count(*) FROM change').pluck().get()).toBe(1);
    reader.close();
  });
  it('and is none is refused, and nothing changes', async () => {
    save('one');
    const file = elsewhere();
    writeFileSync(file, 'hello');
    await expect(restoreInUse(folder, file, at)).rejects.toThrow('cannot be restored');
    await expect(restoreInUse(folder, join(folder, 'none'), at)).rejects.toThrow('There is no file');
    expect([held(), readdirSync(folder).filter((one) => /new|restore/.test(one))]).toEqual([['one'], []]);
  });
});

describe('a data folder has one owner', () => {
  /** What another process gets that takes the folder. */
  const other = (then = 'process.exit(0)') =>
    spawnSync(
      'node',
      [
        '--import',
        'tsx',
        '-e',
        `import { takeFolder } from './src/store/owner.ts'; takeFolder(${JSON.stringify(folder)}, 'the other'); ${then}`,
      ],
      {
        encoding: 'utf8',
      },
    );
  it('until it lets go', () => {
    const release = takeFolder(folder, 'the first');
    const refused = other();
    expect([refused.status, refused.stderr]).toEqual([
      1,
      expect.stringContaining(`in use by the first (process ${process.pid}`),
    ]);
    release();
    expect(other().status).toBe(0);
  });
  it('or until it is killed', () => {
    expect(other("process.kill(process.pid, 'SIGKILL')").signal).toBe('SIGKILL');
    takeFolder(folder, 'the next')();
  });
  it('a lock that was left is of no one', () => {
    writeFileSync(join(folder, 'owner.json'), '{"pid":1,"what":"x","since":"2026-01-01T00:00:00Z"}');
    takeFolder(folder, 'the next')();
    expect(new FolderTaken(folder, null).message).toContain('in use by another process');
  });
});

describe('a database that is not what it was is noticed, and nothing more is written', () => {
  it('cut short', () => {
    save('one');
    themes.sql.db.pragma('wal_checkpoint(TRUNCATE)');
    themes.sql.watch = new FileWatch(databaseFile(folder));
    save('two');
    themes.sql.db.pragma('wal_checkpoint(TRUNCATE)');
    themes.sql.watch.check();
    truncateSync(databaseFile(folder), 0);
    expect(() => save('three')).toThrow('was cut short');
    expect(() => themes.rename(draft, 'x', '')).toThrow('was cut short');
  });
  it('replaced or removed', async () => {
    const file = elsewhere();
    await backUp(folder, file);
    themes.sql.watch = new FileWatch(databaseFile(folder));
    restore(folder, file, at);
    expect(() => save('three')).toThrow('was replaced by another file');
    const gone = new FileWatch(file);
    spawnSync('rm', [file]);
    expect(() => gone.check()).toThrow('was removed');
    // Once lost it stays lost, even if something of that name comes back.
    writeFileSync(file, 'x');
    expect(() => gone.check()).toThrow('was removed');
  });
});
