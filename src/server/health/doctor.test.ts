import {
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { saveRecords } from '@/server/records';
import { ReleaseFolder, Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { makeOrder } from '@/server/testing/orders';
import { databaseFile, OrderEvents, RecordReader } from '@/store';
import { diagnose, type Installation } from './doctor';

const newFolder = () => mkdtempSync(join(tmpdir(), 'doctor-'));
let folder: string;
let releases: string;
let built: string;
beforeEach(() => {
  folder = newFolder();
  releases = join(newFolder(), 'releases');
  built = newFolder();
  for (const path of ['.next/BUILD_ID', '.bundle/server.mjs']) {
    mkdirSync(join(built, path, '..'), { recursive: true });
    writeFileSync(join(built, path), '');
  }
  demoShop([], 'themes/withy-quay', new Shop(folder)).sql.db.close();
  const kept = new ReleaseFolder(folder, releases);
  kept.look();
  kept.close();
});

/** Packages come from here; what is built stands in a folder of its own. */
const program = (path: string) => (path === 'package.json' ? join(process.cwd(), path) : join(built, path));
const faults = (more: Partial<Installation> = {}): string[] =>
  diagnose({ folder, releases, program, free: () => 1e9, ...more }).flatMap(({ what, fault }) =>
    fault === null ? [] : [`${what}: ${fault}`],
  );
const inReleases = (ending: string) =>
  join(releases, readdirSync(releases).find((name) => name.endsWith(ending)) ?? '');

describe('the doctor', () => {
  it('finds nothing wrong with what is well', () => {
    expect(faults()).toEqual([]);
    expect(diagnose({ folder, releases, program, free: () => 1e9 }).map(({ what }) => what)).toEqual([
      ...['Node.js', 'Packages', 'Program', 'Data folder', 'Database', 'Shop', 'Orders', 'Release files'],
    ]);
  });

  it('names five faults at once, each with what to do', () => {
    rmSync(join(built, '.next'), { recursive: true });
    truncateSync(inReleases('.release'), 50_000);
    const shop = new Shop(folder);
    const number = makeOrder(shop, 'a@example.org', '2026-11-30T10:00:00.000Z', [['Deck oil', 'OIL-1', 2, 1450]]);
    const events = new OrderEvents(shop.sql);
    events.setReceiver({ url: 'http://127.0.0.1:1/', secret: '' });
    events.add(number, 'made', '2026-11-30T10:00:00.000Z', '', false);
    events.failed(events.of(number)[0]?.id ?? 0, '2026-11-30T10:00:10.000Z', 'It answered 503.');
    shop.sql.run('DELETE FROM live');
    shop.sql.db.close();
    expect(faults({ node: '18.2.0', free: () => 1_000_000 })).toEqual([
      'Node.js: Node.js is 18.2.0: Last needs 20.19 or newer.',
      `Program: Last is not built in ${join(built, '')}: run npm run build there.`,
      'Shop: Nothing is live: publish a draft.',
      `Shop: Only 1 MB are left on the disk of ${folder}: make room, or nothing can be saved soon.`,
      'Orders: One message about orders could not be sent. It answered 503. The next try is at 2026-11-30T10:00:10.000Z.',
      `Release files: ${inReleases('.release')} is not whole: delete it, and it is written again.`,
    ]);
  });

  it.each<[string, () => void, RegExp]>([
    [
      'a data folder that is a file',
      () => {
        folder = join(newFolder(), 'file');
        writeFileSync(folder, '');
      },
      /^Data folder: .* is not a folder: give LAST_DATA another\.$/,
    ],
    [
      'no data folder',
      () => (folder = join(newFolder(), 'none')),
      /^Data folder: There is no data folder .*none: give/,
    ],
    ['an empty one', () => (folder = newFolder()), /^Data folder: .* has no shop yet: start Last/],
    [
      'a database that was cut short',
      () => truncateSync(databaseFile(folder), 100_000),
      /^Database: The database of .* cannot be used: .*restore a backup: last restore FILE\.$/,
    ],
    [
      'a database that was written over',
      () => {
        const file = openSync(databaseFile(folder), 'r+');
        for (let at = 8192; at < 400_000; at += 4096) writeSync(file, 'nonsense', at);
      },
      /^Database: The database of .* cannot be used: /,
    ],
    [
      'no list of release files',
      () => rmSync(join(releases, 'now.json')),
      /^Release files: .* has no now\.json: start Last/,
    ],
    ['a release file that is gone', () => rmSync(inReleases('.release')), /is in force, and is not there/],
    [
      'a release file that was changed',
      () => {
        const bytes = readFileSync(inReleases('.release'));
        for (let at = bytes.indexOf('Deck oil'); at >= 0; at = bytes.indexOf('Deck oil', at)) bytes.write('Dock', at);
        writeFileSync(inReleases('.release'), bytes);
      },
      /cannot be used: (?:what it holds is not what was written|it is damaged)/,
    ],
    [
      'a delta file that was changed',
      () => {
        const shop = new Shop(folder);
        const kept = new ReleaseFolder(folder, releases);
        kept.look();
        const was = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
        const change = {
          kind: 'product',
          slug: 'deck-oil',
          before: was,
          after: { ...was, name: 'Deck oil, light' },
        } as const;
        saveRecords(shop, [change], { title: 'A name', at: '2026-11-30T10:00:00.000Z', by: '' });
        kept.look();
        kept.close();
        shop.sql.db.close();
        const bytes = readFileSync(inReleases('.delta'));
        bytes.write('dark', bytes.indexOf('Deck oil, light'));
        writeFileSync(inReleases('.delta'), bytes);
      },
      /\.delta cannot be used: what it holds is not what was written: copy it again\.$/,
    ],
  ])('names %s, and what to do', (_, plant, said) => {
    plant();
    const found = faults();
    expect(found.length).toBeGreaterThan(0);
    expect(found.filter((one) => said.test(one))).toHaveLength(1);
  });
});
