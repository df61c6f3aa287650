import type { MadeTheme } from '@/server/shop/ask';
import { beforeEach, describe, expect, it } from 'vitest';
import type { OnTaken } from '@/contract/files';
import type { StateRow } from '@/store/themes';
import { bring, compareStates, planBring } from './compare';
import { differingPages } from './differing';
import { dropFiles, putTheme, takeTheme } from './exchange';
import { openFile, saveFile, saveFiles } from './files';
import { draftOf } from '@/server/shop/states';
import { historyOf, historyOfFile, restoreFile, undoChange } from './history';
import { contentBy, driftOf, layersOf, settle } from './layers';
import { renameFile } from './rename';
import { editAlternates } from '@/server/alternates/alternates';
import { pageOf } from '@/server/storefront/page';
import { checkedFor, publish, putBack } from './release';
import { readFolder, type Shop } from '@/server/shop/shop';
import { copyState, draftItems, removeDraft, restoreDraft, releaseItems, stateOf } from '@/server/shop/states';
import { serveState } from '@/server/storefront/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal } from '@/server/testing/met';
import { readZip, themeOf, writeZip } from './travel';
import { addVersion, updatedTheme, updateDraft, updatePlan, versionItems } from './updates';

/** Longer than most files: drafts, releases and updates are tried on one shop, each from what the others left. */

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});
const spring = () => draftOf(shop, 'spring');
const own = (path: string, slug = 'spring') => shop.themes.ownHash(draftOf(shop, slug).id, path);
const below = (path: string) => openFile(shop, spring(), path).text;
const save = (path: string, text: string, slug = 'spring', by = 'Robin') =>
  saveFile(shop, draftOf(shop, slug), path, text, own(path, slug), by);
const page = (name: string, path: string) => pageOf(shop, stateOf(shop, name), { path, query: {} }).html;
/** A stock line, and tags, that say just this. */
const stock = (text: string) => `<takes name="variant" type="Variant" required>\n<p>${text}</p>\n`;
const tags = (text: string) => `<takes name="tags" type="List of Tag" required>\n<p>${text}</p>\n`;
const copy = (name: string, from = 'draft/spring') => copyState(shop, { from, name, note: '' }, 'Robin');

describe('drafts', () => {
  it('are copies of the whole theme that go their own ways, each at its own address', () => {
    save('pieces/stock.html', '<p>first</p>');
    const slug = copy('Été, à l’essai!');
    expect(slug).toBe('ete-a-l-essai');
    save('pieces/stock.html', '<p>second</p>', slug);
    expect(page('draft/spring', '/product/deck-oil')).toContain('<p>first</p>');
    expect(page(`draft/${slug}`, '/product/deck-oil')).toContain('<p>second</p>');
    expect(copy('Été, à l’essai!')).toBe('ete-a-l-essai-2');
    expect(
      draftItems(shop).drafts.map(({ slug: one, from, differs, changes }) => [one, from, differs, changes]),
    ).toEqual([
      ['spring', null, 1, 1],
      ['ete-a-l-essai', 'Spring fit-out', 1, 1],
      ['ete-a-l-essai-2', 'Spring fit-out', 1, 0],
    ]);
  });
  it('have one compiled form of a text, typed or saved', () => {
    const text = stock('typed, then saved');
    const typed = shop.themeWith(spring(), [{ path: 'pieces/stock.html', text }]).theme.compiled('pieces/stock', true);
    save('pieces/stock.html', text);
    expect(shop.theme(spring()).theme.compiled('pieces/stock', true)).toBe(typed);
  });
  it('are deleted with a way back, all but the last', () => {
    expect(() => removeDraft(shop, spring())).toThrow('is the only draft');
    const slug = copy('Other');
    removeDraft(shop, draftOf(shop, slug));
    expect(() => stateOf(shop, `draft/${slug}`)).toThrow('There is no draft');
    expect(draftItems(shop).removed.map((one) => one.slug)).toEqual([slug]);
    restoreDraft(shop, slug);
    expect(draftItems(shop).drafts).toHaveLength(2);
  });
  it('bring one’s changes into another, merged where both changed', () => {
    const text = below('pieces/price.html');
    save('pieces/price.html', text);
    const slug = copy('Other');
    save('pieces/price.html', text.replace("'price.ask'", "'price.a'"), slug);
    save('pieces/tags.html', '<p>theirs</p>', slug);
    save('pieces/stock.html', '<p>theirs</p>', slug);
    save('pieces/price.html', text.replace('<s do:when', '<del do:when').replace('</s>', '</del>'));
    save('pieces/stock.html', '<p>mine</p>');
    const from = stateOf(shop, `draft/${slug}`);
    expect(planBring(shop, spring(), from).answer.files.map(({ path, outcome }) => [path, outcome])).toEqual([
      ['pieces/price.html', 'merged'],
      ['pieces/stock.html', 'conflict'],
      ['pieces/tags.html', 'taken'],
    ]);
    expect(bring(shop, spring(), from, undefined, 'Robin').files.map(({ path }) => path)).toEqual([
      'pieces/stock.html',
    ]);
    expect(openFile(shop, spring(), 'pieces/price.html').text).toContain('<del do:when');
    expect(openFile(shop, spring(), 'pieces/price.html').text).toContain("'price.a'");
    expect(bring(shop, spring(), from, ['pieces/stock.html'], '').files).toEqual([]);
    expect(openFile(shop, spring(), 'pieces/stock.html').text).toBe('<p>theirs</p>');
    expect(() => bring(shop, spring(), from, undefined, '')).toThrow('nothing to bring in');
  });
  it('are compared with any other state: files, layers below, assignments', () => {
    save('pieces/stock.html', '<p>x</p>');
    save('product/plain.html', '<p>x</p>');
    editAlternates(shop, spring(), { do: 'pin', kind: 'product', slugs: ['deck-oil'], alternate: 'plain' });
    const found = compareStates(shop, stateOf(shop, 'live'), spring());
    expect(found.files.map(({ path, change }) => [path, change])).toEqual([
      ['alternates.json', 'added'],
      ['pieces/stock.html', 'changed'],
      ['product/plain.html', 'added'],
    ]);
    expect(found.assignments).toEqual(['product deck-oil is pinned to plain']);
  });
});

describe('history', () => {
  it('keeps who changed what, and undoes a change as a whole', () => {
    const files = [
      { path: 'pieces/stock.html', text: '<p class="s">x</p>', expected: null },
      { path: 'assets/css/own.css', text: '.s { color: red }', expected: null },
    ];
    saveFiles(shop, spring(), files, 'The stock line in red', 'Robin');
    const [change] = historyOf(shop, spring());
    expect(change).toMatchObject({ title: 'The stock line in red', madeBy: 'Robin', draft: 'Spring fit-out' });
    expect(change?.files.map(({ path }) => path)).toEqual(['assets/css/own.css', 'pieces/stock.html']);
    undoChange(shop, spring(), change?.id ?? 0, 'Robin');
    expect([own('pieces/stock.html'), own('assets/css/own.css')]).toEqual([null, null]);
    const [undo, first] = historyOf(shop, spring());
    expect([undo?.undoes, first?.undoneBy]).toEqual([first?.id, undo?.id]);
    undoChange(shop, spring(), undo?.id ?? 0, 'Robin');
    expect(openFile(shop, spring(), 'pieces/stock.html').text).toBe('<p class="s">x</p>');
  });
  it('makes one change of saves that belong together, one after the other', () => {
    const together = (path: string, text: string) => saveFile(shop, spring(), path, text, own(path), 'Robin', 'one');
    together('pieces/stock.html', '<p>1</p>');
    together('assets/css/own.css', '.a { color: red }');
    together('pieces/stock.html', '<p>2</p>');
    save('pieces/tags.html', '<p>x</p>');
    const [later, change, ...rest] = historyOf(shop, spring());
    expect([later?.title, change?.title, rest.length]).toEqual([
      'pieces/tags.html',
      'assets/css/own.css and pieces/stock.html',
      0,
    ]);
    expect(change?.files.map(({ path, was }) => [path, was])).toEqual([
      ['assets/css/own.css', null],
      ['pieces/stock.html', null],
    ]);
    undoChange(shop, spring(), change?.id ?? 0, '');
    expect([own('pieces/stock.html'), own('assets/css/own.css')]).toEqual([null, null]);
  });
  it('undoes what came before later changes, and says where it cannot', () => {
    save('pieces/tags.html', 'a\nb\nc\nd\ne\n');
    save('pieces/tags.html', 'A\nb\nc\nd\ne\n');
    save('pieces/tags.html', 'A\nb\nc\nd\nE\n');
    const [, second, first] = historyOf(shop, spring());
    undoChange(shop, spring(), second?.id ?? 0, '');
    expect(openFile(shop, spring(), 'pieces/tags.html').text).toBe('a\nb\nc\nd\nE\n');
    expect(() => undoChange(shop, spring(), first?.id ?? 0, '')).toThrow(
      'Not undone: pieces/tags.html was changed in the same place since',
    );
  });
  it('shows and restores any version of a file, a deleted one too', () => {
    save('pieces/new.html', '<p>one</p>');
    save('pieces/new.html', '<p>two</p>');
    saveFiles(shop, spring(), [{ path: 'pieces/new.html', text: null, expected: own('pieces/new.html') }], '', '');
    const saves = historyOfFile(shop, 'pieces/new.html').flatMap(({ files }) => files);
    expect(saves.map(({ hash }) => hash && contentBy(shop, 'pieces/new.html', hash).text)).toEqual([
      null,
      '<p>two</p>',
      '<p>one</p>',
    ]);
    restoreFile(shop, spring(), { path: 'pieces/new.html', hash: saves[2]?.hash ?? '', expected: null }, '');
    expect(openFile(shop, spring(), 'pieces/new.html').text).toBe('<p>one</p>');
    expect(() => contentBy(shop, 'pieces/stock.html', saves[2]?.hash ?? '')).toThrow('no such version');
  });
});

describe('releases', () => {
  it('go live in one step; an earlier one is put back in one step', () => {
    save('pieces/stock.html', stock('second release'));
    expect(publish(shop, spring(), { note: 'two', turn: 1 }, 'Robin')).toEqual({ number: 2 });
    expect(page('live', '/product/deck-oil')).toContain('second release');
    putBack(shop, 1, 2, 'Robin');
    expect(page('live', '/product/deck-oil')).not.toContain('second release');
    expect(page('release/2', '/product/deck-oil')).toContain('second release');
    expect(releaseItems(shop)).toMatchObject({
      turn: 3,
      releases: [
        { number: 2, note: 'two', madeBy: 'Robin', live: false, from: 'Spring fit-out' },
        { number: 1, live: true },
      ],
    });
    expect(() => putBack(shop, 1, 3)).toThrow('is live already');
  });
  it('of two people at once one wins, and the other is told what changed', () => {
    const slug = copy('Other');
    save('pieces/stock.html', stock('mine'));
    save('pieces/tags.html', tags('theirs'), slug);
    publish(shop, draftOf(shop, slug), { note: '', turn: 1 }, 'Kim');
    expect(() => publish(shop, spring(), { note: '', turn: 1 }, 'Robin')).toThrow(
      'Not published: Release 2 went live meanwhile by Kim. It changed pieces/tags.html. Look at what differs now, then decide again.',
    );
    expect(shop.themes.live()?.number).toBe(2);
    expect(publish(shop, spring(), { note: '', turn: 2 })).toEqual({ number: 3 });
  });
  it('put live exactly what was reviewed: a colleague’s save in between is told, not published', () => {
    save('pieces/stock.html', stock('reviewed'));
    const { revision, turn } = compareStates(shop, stateOf(shop, 'live'), spring());
    const checked = checkedFor(shop, spring());
    saveFile(shop, spring(), 'pieces/tags.html', tags('unseen'), null, 'Kim');
    const message =
      'Not published: Spring fit-out was changed by Kim since you looked at it (pieces/tags.html). Look at what differs now, then decide again.';
    expect(() => publish(shop, spring(), { note: '', turn, revision }, 'Robin', checked)).toThrow(message);
    // Nor when the row that the publisher holds is the old one, and the save came while it was being checked.
    const before = { ...spring(), revision };
    expect(() => publish(shop, before, { note: '', turn, revision }, 'Robin', checked)).toThrow(message);
    expect(shop.themes.live()?.number).toBe(1);
    const again = compareStates(shop, stateOf(shop, 'live'), spring());
    expect(publish(shop, spring(), { note: '', ...again })).toEqual({ number: 2 });
    expect([page('live', '/product/deck-oil').includes('unseen')]).toEqual([true]);
  });
  it('a page that was made before gets the files that it was made with', async () => {
    save('assets/css/own.css', '.a { color: red }');
    publish(shop, spring(), { note: '' });
    const [, link = ''] = /href="(\/assets\/css\/own\.css\?v=[0-9a-f]+)"/.exec(page('live', '/')) ?? [];
    save('assets/css/own.css', '.a { color: blue }');
    publish(shop, spring(), { note: '' });
    const answer = await serveState(
      shop,
      stateOf(shop, 'live'),
      new Request(`http://x.test${link}`),
      '/assets/css/own.css',
    );
    expect(await answer.text()).toBe('.a { color: red }');
    expect(answer.headers.get('cache-control')).toContain('immutable');
  });
});

describe('an update of the base', () => {
  const newBase = () =>
    addVersion(shop, themeOf(readFolder('themes/quay-1.1').map(([path, bytes]) => ({ path, bytes }))));
  const amend = '<amend>\n  <after mark="summary"><p class="sku">{product.sku}</p></after>\n</amend>\n';
  beforeEach(() => {
    save('pieces/price.html', below('pieces/price.html').replace("t('price.ask')", "t('price.a', unit: 'x')"));
    save('pieces/stock.html', below('pieces/stock.html').replace('variant.stock < 6', 'variant.stock < 3'));
    save('pieces/tile.html', amend);
    save('product/default.html', '<amend>\n  <after mark="stock"><p class="mine">x</p></after>\n</amend>\n');
  });
  it('is planned: what it changes, and what it does to each file of the shop', () => {
    const { id } = newBase();
    const plan = updatePlan(shop, spring(), id);
    expect([plan.from?.version, plan.to.version]).toEqual(['1.0', '1.1']);
    expect(plan.files).toContainEqual({ path: 'pieces/saving.html', change: 'added' });
    expect(plan.files).toContainEqual({ path: 'assets/css/shop.css', change: 'changed' });
    expect(plan.touched.map(({ path, outcome }) => [path, outcome])).toEqual([
      ['pieces/price.html', 'merged'],
      ['pieces/stock.html', 'conflict'],
      ['pieces/tile.html', 'lost'],
    ]);
    expect(plan.touched[2]?.lost?.[0]?.message).toContain('“tile-summary”');
  });
  it('makes a draft of its own, settles a conflict, and is undone whole', () => {
    const { id } = newBase();
    const { slug } = updateDraft(shop, spring(), id, 'Robin');
    const updated = () => draftOf(shop, slug);
    expect(page('live', '/product/deck-oil')).toBe(
      page('release/1', '/product/deck-oil').replaceAll('/release/1/', '/live/'),
    );
    const text = openFile(shop, updated(), 'pieces/price.html').text;
    expect(text).toContain('pieces/saving');
    expect(text).toContain("unit: 'x'");
    const saved = new Set(['pieces/price.html', 'pieces/stock.html', 'pieces/tile.html', 'product/default.html']);
    const standing = () =>
      Object.fromEntries(
        layersOf(shop, updated()).rows.flatMap(({ path, standing: one }) =>
          one && saved.has(path) ? [[path, one]] : [],
        ),
      );
    expect(standing()).toEqual({
      'pieces/price.html': 'override',
      'pieces/stock.html': 'drifted',
      'pieces/tile.html': 'amends',
      'product/default.html': 'amends',
    });
    const drift = driftOf(shop, updated(), 'pieces/stock.html');
    expect([drift.originOf, drift.belowOf]).toEqual(['Quay 1.0', 'Quay 1.1']);
    settle(
      shop,
      updated(),
      { path: 'pieces/stock.html', text: drift.below ?? '', expected: drift.hash, below: drift.belowHash ?? '' },
      'Robin',
    );
    expect(standing()['pieces/stock.html']).toBe('same');
    const [settled, update] = historyOf(shop, updated());
    expect(update?.below).toBe('Quay 1.0 → Quay 1.1');
    undoChange(shop, updated(), settled?.id ?? 0, '');
    undoChange(shop, updated(), update?.id ?? 0, '');
    expect(compareStates(shop, spring(), updated())).toMatchObject({ files: [], below: [] });
    expect(standing()['pieces/stock.html']).toBe('override');
  });
  it('is told page by page before it is made, as it comes out when it is', () => {
    const { id } = newBase();
    const pages = (from: StateRow, to: StateRow, made?: MadeTheme) =>
      [...differingPages(shop, { state: from }, { state: to, ...(made ? { made } : {}) }, () => 0)].at(-1)?.pages;
    const told = pages(spring(), spring(), updatedTheme(shop, spring(), id));
    expect(told?.map(({ name }) => name)).toContain('Anchor lamp');
    const { slug } = updateDraft(shop, spring(), id, '');
    expect(pages(spring(), draftOf(shop, slug))).toEqual(told);
  });
  it('keeps what it is by its name; of a new one it is asked, not guessed', () => {
    const named = (about: object) =>
      themeOf([
        { path: 'about.json', bytes: Buffer.from(JSON.stringify(about)) },
        { path: 'pieces/own.html', bytes: Buffer.from('<p>x</p>') },
      ]);
    // A copy of the shipped add-on whose about.json does not say that it is one.
    expect(addVersion(shop, named({ name: 'Quick find', version: '1.1' })).kind).toBe('add-on');
    expect(addVersion(shop, named({ name: 'Quay', version: '1.2' })).kind).toBe('base');
    const unknown = named({ name: 'Ribbons', version: '1.0' });
    const met = refusal(() => addVersion(shop, unknown));
    expect([met.status, met.code]).toEqual([422, 'kind']);
    expect(addVersion(shop, unknown, 'add-on').kind).toBe('add-on');
    expect(refusal(() => addVersion(shop, named({ name: 'Ours', version: '1', kind: 'shop' }))).code).toBe('kind');
  });
  it('goes out saying what it is', () => {
    const aboutOf = (layer: string | null) =>
      JSON.parse(
        takeTheme(shop, spring(), layer)
          .files.find(({ path }) => path === 'about.json')
          ?.bytes.toString() ?? '{}',
      ) as { kind: string };
    expect([aboutOf('Quay').kind, aboutOf('Quick find').kind, aboutOf(null).kind]).toEqual(['base', 'add-on', 'shop']);
    save('about.json', '{ "name": "Ours", "version": "3", "hosts": ["a.example"] }');
    expect(aboutOf(null)).toEqual({ name: 'Ours', version: '3', hosts: ['a.example'], kind: 'shop' });
  });
  it('is refused twice, and under the same version with other files', () => {
    const { id } = newBase();
    expect(newBase().id).toBe(id);
    const other = readFolder('themes/quay-1.1').map(([path, bytes]) => ({ path, bytes }));
    other.push({ path: 'pieces/more.html', bytes: Buffer.from('<p>x</p>') });
    expect(() => addVersion(shop, themeOf(other))).toThrow('Quay 1.1 is here already with other files');
    const { slug } = updateDraft(shop, spring(), id, '');
    expect(() => updatePlan(shop, draftOf(shop, slug), id)).toThrow('stands on Quay 1.1 already');
    expect(versionItems(shop).map(({ name, version }) => `${name} ${version}`)).toEqual([
      'Quay 1.1',
      'Quick find 1.0',
      'Quay 1.0',
    ]);
  });
});

describe('files in and out', () => {
  it('a draft’s theme is the same bytes after a round trip', async () => {
    save('pieces/stock.html', '<p>x</p>\r\n');
    await dropFiles(shop, spring(), [{ name: 'sail.png', bytes: Buffer.from([137, 80, 78, 71, 0, 255]) }]);
    const { name, files } = takeTheme(shop, spring(), null);
    expect(name).toBe('withy-quay-spring');
    const slug = copy('Other', 'release/1');
    expect(putTheme(shop, draftOf(shop, slug), themeOf(await readZip(writeZip(files))).files, '')).toEqual({
      changed: 3,
    });
    expect(takeTheme(shop, draftOf(shop, slug), null).files).toEqual(files);
    expect(putTheme(shop, draftOf(shop, slug), files, '')).toEqual({ changed: 0 });
  });
  it('a dropped file goes where its kind belongs', async () => {
    const drop = async (name: string, folder = '') =>
      (await dropFiles(shop, spring(), [{ name, bytes: Buffer.from('x') }], { folder })).paths;
    expect(await drop('My sails (2).PNG')).toEqual(['assets/img/My-sails-2-.PNG']);
    expect(await drop('a.woff2')).toEqual(['assets/fonts/a.woff2']);
    expect(await drop('a.html', 'pieces')).toEqual(['pieces/a.html']);
    await expect(drop('a.html')).rejects.toThrow('belongs to no folder of itself');
    await expect(drop('a.html', '../evil')).rejects.toThrow('leads out of the folder');
    await expect(drop('a.html', 'evil')).rejects.toThrow('has no place in a theme');
  });
  describe('dropped files whose place is taken', () => {
    const given = [
      { name: 'stock.html', bytes: Buffer.from('<p>mine</p>') },
      { name: 'tile.html', bytes: Buffer.from('<p>mine</p>') },
      { name: 'brand-new.html', bytes: Buffer.from('<p>mine</p>') },
    ];
    const drop = (taken?: OnTaken) =>
      dropFiles(shop, spring(), given, { folder: 'pieces', ...(taken ? { taken } : {}) });
    const texts = () =>
      given.map(({ name }) => {
        const hash = own(`pieces/${name}`);
        return hash ? shop.themes.bytes(hash)?.toString() : null;
      });
    beforeEach(() => void save('pieces/stock.html', '<p>ours</p>'));
    it('are asked about, each with the layer that has it, and nothing is taken', async () => {
      const shopLayer = shop.themes.layers(spring().id).at(-1)?.name;
      await expect(drop()).rejects.toMatchObject({
        status: 409,
        body: {
          code: 'there',
          message: 'Nothing was taken yet: pieces/stock.html and pieces/tile.html are there already.',
          there: [
            { path: 'pieces/stock.html', layer: { kind: 'shop', name: shopLayer } },
            { path: 'pieces/tile.html', layer: { kind: 'base', name: 'Quay' } },
          ],
        },
      });
      expect(texts()).toEqual(['<p>ours</p>', null, null]);
    });
    it('are left out', async () => {
      expect((await drop('skip')).paths).toEqual(['pieces/brand-new.html']);
      expect(texts()).toEqual(['<p>ours</p>', null, '<p>mine</p>']);
    });
    it('take their place, and one undo brings all back', async () => {
      const { paths, change } = await drop('replace');
      expect([paths.length, texts()]).toEqual([3, ['<p>mine</p>', '<p>mine</p>', '<p>mine</p>']]);
      undoChange(shop, spring(), change ?? 0, '');
      expect(texts()).toEqual(['<p>ours</p>', null, null]);
    });
    it('and hold the same bytes are there: nothing changes', async () => {
      await drop('replace');
      expect(await drop()).toEqual({ paths: given.map(({ name }) => `pieces/${name}`), change: null });
    });
    it('or two that would be one are refused', async () => {
      const two = [
        { name: 'a b.html', bytes: Buffer.from('1') },
        { name: 'a-b.html', bytes: Buffer.from('2') },
      ];
      await expect(dropFiles(shop, spring(), two, { folder: 'pieces' })).rejects.toThrow(
        'two of the files would be “pieces/a-b.html”',
      );
    });
  });
  it('icons are cleaned, and drawn from one file', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24" onload="alert(1)"><script>alert(2)</script><path id="p" fill="#ff0000" d="M0 0h24v24z"/></svg>';
    await dropFiles(shop, spring(), [{ name: 'flag.svg', bytes: Buffer.from(svg) }], { folder: 'assets/icons' });
    save('pieces/stock.html', "<p>{icon('flag')}</p>");
    const html = page('draft/spring', '/product/deck-oil');
    const [, link = '', name] = /<use href="([^"#]+)#([^"]+)"/.exec(html) ?? [];
    expect(name).toBe('flag');
    const answer = await serveState(shop, spring(), new Request(`http://x.test${link}`), '/assets/icons.svg');
    const sprite = await answer.text();
    expect(sprite).toMatch(/^<svg xmlns="[^"]+"><symbol id="flag" viewBox="0 0 24 24"><path fill="currentColor"/);
    expect(sprite).not.toMatch(/script|onload/);
    expect(answer.headers.get('cache-control')).toContain('immutable');
    await expect(
      dropFiles(shop, spring(), [{ name: 'bad.svg', bytes: Buffer.from('<svg') }], { folder: 'assets/icons' }),
    ).rejects.toThrow('cannot be read as SVG');
  });
  it('a file is renamed, and not over another', () => {
    const hash = save('pieces/one.html', '<p>x</p>').hash ?? '';
    renameFile(shop, spring(), { path: 'pieces/one.html', to: 'pieces/two.html', expected: hash }, '');
    expect([own('pieces/one.html'), own('pieces/two.html')]).toEqual([null, hash]);
    save('pieces/three.html', '<p>y</p>');
    const rename = (to: string) => renameFile(shop, spring(), { path: 'pieces/two.html', to, expected: hash }, '');
    expect(() => rename('pieces/three.html')).toThrow('has “pieces/three.html” already');
    expect(() => rename('evil/two.html')).toThrow('has no place in a theme');
    expect(() => rename('pieces/STOCK.html')).toThrow('differs only in capitals');
  });
});
