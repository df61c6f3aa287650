import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { catalogueFile } from '@/contract/catalogue-file';
import { saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { writePictures } from '@/server/pictures';
import { importCommand, listCommand, undoCommand } from '@/server/goods/command';
import { exportTo } from '@/server/goods/export';
import { serveState } from '@/server/storefront/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { checkCommand, renderCommand } from './theme-commands';
import { commandFile } from '@/server/testing/program';

const folder = mkdtempSync(join(tmpdir(), 'last-commands-'));
const base = 'themes/quay-1.0';
const catalogue = join(folder, 'withy.json');

/** A layer's folder with these files. */
function layer(name: string, files: Record<string, string>): string {
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(join(folder, name, path, '..'), { recursive: true });
    writeFileSync(join(folder, name, path), text);
  }
  return join(folder, name);
}

function check(folders: string[], options: Parameters<typeof checkCommand>[1] = {}) {
  const [out, errors]: string[][] = [[], []];
  const status = checkCommand(
    folders,
    options,
    (line) => out?.push(line),
    (line) => errors?.push(line),
  );
  return { status, out: (out ?? []).join('\n'), errors: (errors ?? []).join('\n') };
}

function render(folders: string[], page: string, options: Partial<Parameters<typeof renderCommand>[1]> = {}) {
  let out = '';
  const errors: string[] = [];
  const status = renderCommand(
    folders,
    { catalogue, page, today: '2026-11-24', ...options },
    (text) => (out += text),
    (line) => errors.push(line),
  );
  return { status, out, errors: errors.join('\n') };
}

beforeAll(async () => {
  const shop = demoShop();
  await exportTo(shop, catalogue, 'json');
  writePictures(shop, join(folder, 'pictures'));
});

describe('last check', () => {
  it('of the base theme finds nothing, with a catalogue and without', () => {
    for (const options of [{}, { catalogue }]) expect(check([base], options)).toMatchObject({ status: 0, errors: '' });
  });
  it('names the layer, file, line and column, and says how to fix', () => {
    const shop = layer('one', {
      'product/default.html': '<amend>\n  <after mark="prise"><p>{product.nme}</p></after>\n</amend>\n',
    });
    const { status, out } = check([base, shop]);
    expect(status).toBe(1);
    expect(out).toContain(
      'one: product/default.html:2:10 error mark: There is no mark “prise” in the file below; did you mean “price”? [Write “price”]',
    );
    expect(out).toContain('2 errors, 0 warnings, 0 notes');
  });
  it('as JSON', () => {
    const shop = layer('json', { 'pieces/x.html': '{product.name}' });
    const { problems } = JSON.parse(check([base, shop], { json: true }).out) as { problems: Record<string, unknown>[] };
    expect(problems[0]).toMatchObject({
      code: 'name',
      severity: 'error',
      file: 'pieces/x.html',
      line: 1,
      column: 2,
      length: 7,
      layer: 'json',
    });
  });
  it('--fix fixes what is certain, in the files themselves, and says what is left', () => {
    const shop = layer('fix', {
      'product/default.html':
        '<amend><after mark="prise"><ul><li>{product.nmae}<li>{product.zzz}</ul></after></amend>\n',
    });
    const { status, out, errors } = check([base, shop], { fix: true });
    expect(readFileSync(join(shop, 'product/default.html'), 'utf8')).toBe(
      '<amend><after mark="price"><ul><li>{product.name}</li><li>{product.zzz}</li></ul></after></amend>\n',
    );
    expect(errors.match(/^fixed: /gm)?.length).toBe(4);
    expect([status, out.includes('Product has no field “zzz”')]).toEqual([1, true]);
  });
  const refused: [name: string, folders: string[], options: Parameters<typeof checkCommand>[1], says: string][] = [
    ['a folder that is not there', ['no/such'], {}, 'There is no folder no/such.'],
    ['a folder without templates', [join(folder, 'pictures')], {}, 'holds no template'],
    ['a catalogue that is not there', [base], { catalogue: 'no.json' }, 'no.json cannot be read'],
    ['a catalogue that is none', [base], { catalogue: 'package.json' }, 'package.json: shop'],
  ];
  for (const [name, folders, options, says] of refused)
    it(`${name} is refused with a sentence`, () => {
      const { status, errors } = check(folders, options);
      expect([status, errors]).toEqual([2, expect.stringContaining(says)]);
    });
});

describe('last render', () => {
  it('gives the page that the storefront gives', () => {
    const shop = demoShop();
    const served = pageOf(shop, draftOf(shop, 'spring'), { path: '/product/tarred-hemp-rope', query: {} }).html;
    // The file has no pictures, and so no hashes of them.
    const plain = served.replaceAll('/draft/spring/', '/').replace(/(\/media\/[^"?]+)\?v=[0-9a-f]+/g, '$1');
    expect(render([base, 'themes/quick-find-1.0', 'themes/withy-quay'], '/product/tarred-hemp-rope')).toEqual({
      status: 0,
      out: plain,
      errors: '',
    });
  });
  it('with layers above: an amendment and a piece of the shop’s', () => {
    const shop = layer('layers', {
      'product/default.html': '<amend><after mark="price"><draw name="pieces/notice" text="Two days"/></after></amend>',
      'pieces/notice.html': '<takes name="text" type="text" required>\n<p class="notice">{text}</p>\n',
    });
    const { status, out } = render([base, shop], '/product/deck-oil');
    expect([status, /<\/p>\s*<p class="notice">Two days<\/p>/.test(out)]).toEqual([0, true]);
  });
  it('a page that is not there', () =>
    expect(render([base], '/product/gone')).toMatchObject({ status: 1, errors: 'There is no page /product/gone.' }));
  it('a trace: where each mark comes from, how conditions came out and by what value', () => {
    const trace = join(folder, 'trace.json');
    const { out } = render([base], '/product/deck-oil', { trace });
    const table = JSON.parse(readFileSync(trace, 'utf8')) as {
      frames: { template: string; sites: Record<string, { file: string; line: number; path: string | null }> }[];
      conditions: { file: string; held: boolean; decidedBy: string; value: unknown }[];
    };
    const mark = /<h1 data-last-at="([\d.]+)"/.exec(out)?.[1] ?? '';
    const site = table.frames[Number(mark.split('.')[0])]?.sites[mark];
    const line =
      readFileSync(`${base}/product/default.html`, 'utf8')
        .split('\n')
        .findIndex((text) => text.includes('<h1')) + 1;
    expect(site).toMatchObject({ file: 'product/default.html', line });
    expect(table.conditions).toContainEqual(
      expect.objectContaining({
        file: 'product/default.html',
        held: false,
        decidedBy: 'product.options',
        value: '0 items',
      }),
    );
  });
});

describe('last import and last export', () => {
  const now = '2026-11-24T00:00:00.000Z';
  const given = {
    pictures: null,
    mode: 'merge' as const,
    dry: false,
    partly: false,
    columns: {},
    encoding: null,
    delimiter: null,
  };
  const other = join(folder, 'other.json');
  const file = () => catalogueFile.parse(JSON.parse(readFileSync(catalogue, 'utf8')));
  const put = (change: object) => writeFileSync(other, JSON.stringify({ ...file(), ...change }));
  it('bring a file’s goods in place of those there, pictures and all; undone, they are as before', async () => {
    const shop = demoShop();
    put({
      products: file()
        .products.slice(0, 2)
        .map((one) => ({ ...one, related: [], members: [] })),
    });
    const [first, ...says] = await importCommand(
      shop,
      { ...given, file: other, mode: 'replace', pictures: join(folder, 'pictures') },
      now,
    );
    expect([first, says.at(-1)]).toEqual(['It would change:', 'Imported: 61 records. last import --undo 1 undoes it.']);
    expect(shop.catalogue().index(null).size).toBe(2);
    expect(await undoCommand(shop, 1, now)).toEqual([
      'Undone: 61 records as before. last import --undo 2 brings it back.',
    ]);
    expect(shop.catalogue().index(null).size).toBe(61);
    expect(listCommand(shop)).toEqual([
      '2  2026-11-24 00:00  Undo: Import of other.json, by command line: 59 added, 2 changed, 0 removed',
      '1  2026-11-24 00:00  Import of other.json, by command line: 0 added, 2 changed, 59 removed (undone)',
    ]);
  });
  it('say what they would do, and do nothing', async () => {
    const shop = demoShop();
    put({ products: [{ ...file().products[0], name: 'Another' }] });
    expect(await importCommand(shop, { ...given, file: other, dry: true }, now)).toEqual([
      'It would change:',
      '  changed: 1 product',
      'Rehearsed, on 2 pages: no problem that is not there now.',
      'Nothing was imported: this was a dry run.',
    ]);
    expect(listCommand(shop)).toEqual(['Goods were not changed yet.']);
  });
  it('refuse what cannot be taken, unless it is to be left out', async () => {
    const shop = demoShop();
    put({
      products: [
        { ...file().products[0], tags: ['no-such'] },
        { ...file().products[1], name: 'Another' },
      ],
    });
    await expect(importCommand(shop, { ...given, file: other }, now)).rejects.toThrow('There is no tag “no-such”');
    const says = await importCommand(shop, { ...given, file: other, partly: true }, now);
    expect(says.at(-1)).toContain('Imported: 1 record.');
    await expect(importCommand(shop, { ...given, file: '/no/such' }, now)).rejects.toThrow(
      'There is no file /no/such.',
    );
  });
  it('say what cannot be taken first, however much there is to know', async () => {
    const shop = demoShop();
    const csv = join(folder, 'many.csv');
    const rows = Array.from(
      { length: 60 },
      (_, at) => `cup-${at};Cup ${at};C-${at};${at === 59 ? 'abc' : '7.50'};cup-${at}.png`,
    );
    writeFileSync(csv, `product;name;sku;price;pictures\n${rows.join('\n')}\n`);
    const says = await importCommand(shop, { ...given, file: csv, dry: true }, now);
    const from = says.indexOf('1 thing cannot be taken as it is:');
    expect(says[from + 1]).toMatch(/^ {2}line 61, price: “abc” is not a price/);
    expect(says[from + 2]).toMatch(/^\d\d things to know:$/);
    expect(says[from + 3]).toMatch(/^ {2}pictures: There is no picture “cup-0\.png” yet/);
    expect(says.filter((line) => line.includes('line 0'))).toEqual([]);
  });
  it('work as commands on a data folder of their own', async () => {
    const command = await commandFile();
    const data = join(folder, 'data');
    const last = (...args: string[]) => {
      const { status, stdout, stderr } = spawnSync('node', [command, ...args], {
        encoding: 'utf8',
        env: { ...process.env, LAST_DATA: data },
      });
      return [status, stdout + stderr];
    };
    expect(last('new', data, '--name', 'S', '--currency', 'EUR', '--languages', 'en')[0]).toBe(0);
    const csv = join(folder, 'goods.csv');
    writeFileSync(csv, 'product;name;sku;price\nmug;Mug;M-1;7.50\nbowl;Bowl;B-1;abc\n');
    expect(last('import', csv)).toEqual([1, expect.stringContaining('line 3, price: “abc” is not a price')]);
    expect(last('import', csv, '--partly', '--dry-run')).toEqual([0, expect.stringContaining('added: 1 product')]);
    expect(last('import', csv, '--partly')).toEqual([0, expect.stringContaining('Imported: 1 record.')]);
    const out = join(folder, 'out.csv');
    expect(last('export', out)).toEqual([0, `1 product written to ${out}.\n`]);
    expect(readFileSync(out, 'utf8').split('\r\n').slice(0, 2)).toEqual([
      'product,name,type,summary,description,brand,categories,tags,sku,variant,price,was_price,stock,pictures,added,live,gtin,product_sku,related,members',
      expect.stringMatching(/^mug,Mug,,,,,,,M-1,,7\.50,,0,,\d{4}-\d\d-\d\d,yes,,,,$/),
    ]);
    expect(last('import')).toEqual([2, expect.stringContaining('Name the file')]);
    expect(last('import', '--undo', 'x')).toEqual([2, expect.stringContaining('takes the number')]);
    expect(last('import', '--undo', '1')).toEqual([0, expect.stringContaining('Undone: 1 record')]);
  });
});

describe('the command itself, without a server or a database', () => {
  it('checks and renders, with its exit status', async () => {
    const command = await commandFile();
    const last = (...args: string[]) =>
      spawnSync('node', [command, ...args], {
        encoding: 'utf8',
        env: { ...process.env, LAST_DATA: '/no/such/folder' },
      });
    const bad = layer('bad', { 'pieces/x.html': '<b>{x</b>' });
    expect(last('check', base, '--catalogue', catalogue)).toMatchObject({
      status: 0,
      stdout: expect.stringContaining('nothing wrong') as string,
    });
    expect(last('check', base, bad).status).toBe(1);
    expect(last('render', base, '--catalogue', catalogue, '--page', '/category/anchors')).toMatchObject({
      status: 0,
      stdout: expect.stringContaining('Look here instead') as string,
    });
  });
});

describe('a preview and a served piece', () => {
  const shop = demoShop();
  const draft = () => draftOf(shop, 'spring');
  const get = (path: string, query = '', dest = 'document') =>
    serveState(
      shop,
      draft(),
      new Request(`http://spring.localhost:4171${path}${query}`, {
        headers: { 'sec-fetch-dest': dest },
      }),
      path,
    );
  beforeAll(() => {
    cpSync(base, join(folder, 'copy'), { recursive: true });
    saveFile(
      shop,
      draft(),
      'pieces/find.html',
      '<takes name="q" type="text" served>\n<takes name="of" type="Product" served>\n<takes name="secret" type="text" default="none">\n<p title="{q}">{q} {of.name} {secret}</p>',
      null,
    );
    saveFile(shop, draft(), 'pieces/shut.html', '<takes name="q" type="text">{q}', null);
  });
  it('a page in the Bench’s frame carries marks; by itself it does not', async () => {
    expect(await (await get('/product/deck-oil', '', 'iframe')).text()).toContain('data-last-at="');
    expect(await (await get('/product/deck-oil')).text()).not.toContain('data-last-');
  });
  it('a piece that is served answers with the inputs of its address, and no others', async () => {
    const answer = await get('/fragment/pieces/find', '?q=%3Cb%3E%22&of=deck-oil&secret=x');
    expect([answer.status, await answer.text()]).toEqual([
      200,
      '<p title="&lt;b&gt;&quot;">&lt;b&gt;&quot; Deck oil none</p>',
    ]);
    expect(answer.headers.get('content-security-policy')).toContain('sandbox');
  });
  for (const path of ['/fragment/pieces/shut', '/fragment/pieces/gone', '/fragment/product/default', '/fragment/%E0'])
    it(`${path} is not served`, async () => expect((await get(path)).status).toBe(404));
});
