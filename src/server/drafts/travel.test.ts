import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync, crc32 } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { readFolder } from '@/server/shop/shop';
import { bounds, readZip, themeOf, writeZip, type TravelFile } from './travel';

const file = (path: string, text: string | Buffer = 'x'): TravelFile => ({ path, bytes: Buffer.from(text as string) });
const about = file('about.json', '{"name":"Quay","version":"2"}');

/** A ZIP written by hand (APPNOTE.TXT 6.3.10), so that it can be wrong on purpose. */
function zipOf(entries: { name: string; bytes?: Buffer; size?: number; mode?: number; sum?: number }[]): Buffer {
  const parts: Buffer[] = [];
  const central: Buffer[] = [];
  let at = 0;
  for (const { name, bytes = Buffer.from('x'), size = bytes.length, mode = 0o100644, sum = crc32(bytes) } of entries) {
    const packed = deflateRawSync(bytes);
    const label = Buffer.from(name);
    const local = Buffer.alloc(30);
    local.writeUInt32LE(0x04034b50, 0);
    local.writeUInt16LE(20, 4);
    local.writeUInt16LE(8, 8);
    local.writeUInt32LE(sum, 14);
    local.writeUInt32LE(packed.length, 18);
    local.writeUInt32LE(size, 22);
    local.writeUInt16LE(label.length, 26);
    const entry = Buffer.alloc(46);
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt16LE((3 << 8) | 20, 4);
    local.copy(entry, 6, 4, 30);
    entry.writeUInt32LE((mode << 16) >>> 0, 38);
    entry.writeUInt32LE(at, 42);
    parts.push(local, label, packed);
    central.push(entry, label);
    at += 30 + label.length + packed.length;
  }
  const directory = Buffer.concat(central);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(entries.length, 8);
  end.writeUInt16LE(entries.length, 10);
  end.writeUInt32LE(directory.length, 12);
  end.writeUInt32LE(at, 16);
  return Buffer.concat([...parts, directory, end]);
}

describe('a ZIP of a theme', () => {
  const theme = readFolder('themes/quay-1.0').map(([path, bytes]) => ({ path, bytes }));
  it('holds the same bytes after a round trip, and is itself the same', async () => {
    const zip = writeZip(theme);
    const read = themeOf(await readZip(zip));
    expect(read.about).toEqual({ name: 'Quay', version: '1.0', kind: 'base' });
    expect(read.files).toEqual(theme);
    expect(writeZip(read.files).equals(zip)).toBe(true);
  });
  it('is opened by an unzip of others (Python’s zipfile)', () => {
    const folder = mkdtempSync(join(tmpdir(), 'zip-'));
    writeFileSync(join(folder, 'theme.zip'), writeZip(theme));
    const script =
      'import sys,zipfile\nz=zipfile.ZipFile(sys.argv[1])\nassert z.testzip() is None\nz.extractall(sys.argv[2])';
    execFileSync('python3', ['-c', script, join(folder, 'theme.zip'), join(folder, 'out')]);
    for (const { path, bytes } of theme) expect(readFileSync(join(folder, 'out', path)).equals(bytes)).toBe(true);
  });
  it('that was packed with its folder is taken without it', () => {
    const inside = [about, file('pieces/a.html')].map(({ path, bytes }) => ({ path: `quay/${path}`, bytes }));
    expect(
      themeOf([...inside, file('__MACOSX/quay/._a'), file('quay/.DS_Store')]).files.map(({ path }) => path),
    ).toEqual(['about.json', 'pieces/a.html']);
  });
  const wrongZips: [string, () => Buffer, RegExp][] = [
    ['a path up', () => zipOf([{ name: '../evil.html' }]), /“\.\.\/evil\.html” leads out of the folder/],
    ['a path up inside', () => zipOf([{ name: 'pieces/../../evil.html' }]), /leads out of the folder/],
    ['an absolute path', () => zipOf([{ name: '/etc/evil.html' }]), /“\/etc\/evil\.html” leads out of the folder/],
    ['a drive', () => zipOf([{ name: 'C:/evil.html' }]), /leads out of the folder/],
    ['a path with backslashes', () => zipOf([{ name: 'pieces\\evil.html' }]), /leads out of the folder/],
    [
      'a link',
      () => zipOf([{ name: 'pieces/a.html', bytes: Buffer.from('/etc/passwd'), mode: 0o120777 }]),
      /is a link/,
    ],
    [
      '10,000 files',
      () => zipOf(Array.from({ length: 10_000 }, (_, at) => ({ name: `pieces/p${at}.html` }))),
      /5000 files/,
    ],
    [
      '10,001 entries',
      () => zipOf(Array.from({ length: 10_001 }, (_, at) => ({ name: `pieces/p${at}.html` }))),
      /10001 entries/,
    ],
    ['a file that says it has 1 GB', () => zipOf([{ name: 'assets/img/a.png', size: 1e9 }]), /has 1000 MB/],
    [
      'a bomb that does not say so',
      () => zipOf([{ name: 'assets/img/a.png', bytes: Buffer.alloc(3e7), size: 100 }]),
      /cannot be read/,
    ],
    [
      'many files that are a bomb together',
      () => zipOf(Array.from({ length: 15 }, (_, at) => ({ name: `assets/img/${at}.png`, size: 19e6 }))),
      /more than 200 MB/,
    ],
    [
      'a file that is not what its check sum says',
      () => zipOf([{ name: 'pieces/a.html', sum: 7 }]),
      /“pieces\/a\.html” is damaged/,
    ],
    ['no ZIP', () => Buffer.from('PK, but no more'), /cannot be read/],
    ['half a ZIP', () => writeZip([about]).subarray(30), /cannot be read/],
  ];
  for (const [name, zip, says] of wrongZips)
    it(`is refused with ${name}`, async () => {
      await expect(readZip(zip())).rejects.toThrow(says);
    });
  describe('second opinions: what is damaged for us is so for Python’s zipfile and for unzip, what is whole is whole', () => {
    const script = 'import sys,zipfile\nsys.exit(zipfile.ZipFile(sys.argv[1]).testzip() is not None)';
    // unzip looks at the check sum alone: that a file is longer than it says is for us to refuse.
    const testers: [name: string, test: (path: string) => number | null, passes?: string][] = [
      ['zipfile', (path) => spawnSync('python3', ['-c', script, path]).status],
      ['unzip', (path) => spawnSync('unzip', ['-tqq', path]).status, 'a bomb that does not say so'],
    ];
    const damaged = wrongZips.filter(([, , says]) => /damaged|cannot be read/.test(says.source));
    for (const [tester, test, passes] of testers)
      it.skipIf(spawnSync(tester === 'unzip' ? 'unzip' : 'python3', ['-h']).error)(tester, () => {
        const path = join(mkdtempSync(join(tmpdir(), 'zip-')), 'theme.zip');
        const sound = (zip: Buffer): boolean => {
          writeFileSync(path, zip);
          return test(path) === 0;
        };
        const found = damaged.map(([name, zip]) => [name, sound(zip())]);
        expect([...found, ['the base', sound(writeZip(theme))]]).toEqual([
          ...damaged.map(([name]) => [name, name === passes]),
          ['the base', true],
        ]);
      });
  });
  const wrongFiles: [string, TravelFile[], RegExp][] = [
    ['no about.json', [file('pieces/a.html')], /there is no about\.json/],
    ['an about.json that is not valid JSON', [file('about.json', '{')], /about\.json” cannot be read as JSON/],
    ['an about.json without a name', [file('about.json', '{"version":"1"}')], /about\.json: “name”/],
    ['an about.json without a version', [file('about.json', '{"name":"Q","version":" "}')], /about\.json: “version”/],
    [
      'names that differ in capitals',
      [about, file('pieces/A.html'), file('pieces/a.html')],
      /“pieces\/A\.html” and “pieces\/a\.html” differ only in capitals/,
    ],
    [
      'a path that is a file and a folder',
      [about, file('assets/a'), file('assets/a/b.png')],
      /“assets\/a” is a file and a folder at once/,
    ],
    [
      'a text that is not UTF-8',
      [about, file('pieces/a.html', Buffer.from([0x63, 0xe9, 0x63]))],
      /“pieces\/a\.html” is not written in UTF-8/,
    ],
    ['words that are no JSON', [about, file('words/en.json', '[')], /words\/en\.json” cannot be read/],
    ['a file that has no place', [about, file('evil/a.html')], /“evil\/a\.html” has no place in a theme/],
    ['a name with a space', [about, file('pieces/a b.html')], /is not a name for a file/],
    ['a text too large', [about, file('pieces/a.html', Buffer.alloc(1_000_001, 120))], /a file of text may have 1 MB/],
    [
      'too many files',
      [about, ...Array.from({ length: bounds.files }, (_, at) => file(`pieces/${at}.html`))],
      /5001 files/,
    ],
  ];
  for (const [name, files, says] of wrongFiles)
    it(`is refused with ${name}`, () => {
      expect(() => themeOf(files)).toThrow(says);
    });
});
