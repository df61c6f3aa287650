import { afterEach, describe, expect, it } from 'vitest';
import { marksOf, spotsAt } from '@/core/inspect';
import { benchOf } from './testing/bench-of';
import { readUnsaved } from './unsaved';
import { problemsOf } from './problems';

let bench: ReturnType<typeof benchOf>;
afterEach(() => bench.stop());

/** A Bench whose page has been made, and whose file is open. */
async function opened(start: Parameters<typeof benchOf>[0] = {}) {
  bench = benchOf(start);
  await bench.list();
  const { workspace, until } = bench;
  await until(() => workspace.page.now.answer !== null && workspace.file.now.file !== null);
  return bench;
}

/** The mark of the first element that a text of a file became. */
function markOf(path: string, text: string): string {
  const { table } = bench.workspace.spot.now;
  const source = table?.sources.find(({ file }) => file === path);
  if (!table || !source) throw new RangeError(`${path} made nothing of the page.`);
  const offset = bench.editor.text().indexOf(text);
  const [spot] = spotsAt(table, path, source.layer, offset);
  return (spot && marksOf(table, spot)[0]) ?? '';
}
const outlined = () => bench.posts.findLast(({ kind }) => kind === 'outline') as { marks: string[] } | undefined;

describe('the workspace', () => {
  it('opens the template of the page, and what the address names instead', async () => {
    const { workspace, until } = await opened();
    expect(workspace.now.path).toBe('product/default.html');
    workspace.open('pieces/price.html');
    await until(() => workspace.file.now.file?.path === 'pieces/price.html');
    expect(workspace.file.now.file).toMatchObject({ writable: false, layer: null });
    workspace.visit({ ...workspace.now.place, address: '/content/delivery', file: null });
    await until(() => workspace.file.now.file?.path === 'content/default.html');
  });

  it('goes from a place of the page to its source, and outlines on the page where the caret is', async () => {
    const { workspace, editor, until } = await opened({ file: 'pieces/price.html' });
    const mark = markOf('pieces/price.html', '<strong');
    expect(mark).toMatch(/^\d+\.\d+$/);
    workspace.open('product/default.html');
    await until(() => workspace.file.now.file?.path === 'product/default.html');
    await workspace.spot.pick({ mark, view: null } as Parameters<typeof workspace.spot.pick>[0]);
    await until(() => workspace.file.now.file?.path === 'pieces/price.html');
    await until(() => editor.text().startsWith('<strong', editor.caret()));
    expect(outlined()?.marks).toContain(mark);
    expect(workspace.spot.now.trail.map(({ template }) => template).at(-1)).toBe('pieces/price');
  });

  it('goes on pointing where it pointed when the same page is loaded again, not on another', async () => {
    const { workspace, posts } = await opened();
    const ready = (address: string) =>
      workspace.heard({ kind: 'ready', last: true, address, view: '', shown: '' } as never, true);
    const pointed = () => posts.findLast(({ kind }) => kind === 'point');
    ready('/product/tarred-hemp-rope');
    workspace.point(true);
    await workspace.spot.pointAt({ mark: '0.1', view: null, box: { x: 0, y: 0, width: 1, height: 1 } });
    ready('/product/tarred-hemp-rope');
    expect(pointed()).toEqual({ kind: 'point', on: true, at: '0.1' });
    ready('/content/delivery');
    expect(pointed()).toEqual({ kind: 'point', on: true });
  });

  it('goes to the source once it is there', async () => {
    const { workspace, editor } = await opened();
    let focused = 0;
    editor.focus = () => void focused++;
    workspace.setEditor(null);
    workspace.toSource();
    expect(focused).toBe(0);
    workspace.setEditor(editor);
    workspace.setEditor(editor);
    expect(focused).toBe(1);
  });

  it('makes the page with what is typed, keeps it, and saves it', async () => {
    const { workspace, editor, posts, until, announced } = await opened({ file: 'pieces/price.html' });
    workspace.heard(
      { kind: 'ready', last: true, address: '/product/tarred-hemp-rope', view: '', shown: '' } as never,
      true,
    );
    workspace.file.override();
    editor.change([{ from: 0, to: 0, text: '<p class="typed">New</p>\n' }]);
    await until(() => posts.some((one) => one.kind === 'show' && one.html.includes('class="typed"')));
    await until(() => readUnsaved('spring', 'pieces/price.html') !== null);
    const revision = workspace.now.revision;
    await workspace.file.save();
    expect(workspace.file.now.file).toMatchObject({ saving: false, saved: { layer: { kind: 'shop' } } });
    expect(readUnsaved('spring', 'pieces/price.html')).toBeNull();
    expect(announced).toEqual(['pieces/price.html']);
    expect(workspace.now.revision).toBe(revision + 1);
  });

  it('counts a text as typed no longer once it is the saved one again, before typing rests', async () => {
    const { workspace, until } = await opened({ file: 'look.json' });
    const { file } = workspace;
    const saved = file.now.file?.text ?? '';
    file.override();
    file.type(`${saved}\n`);
    await until(() => readUnsaved('spring', 'look.json') !== null);
    expect(workspace.unsaved().map(({ path }) => path)).toEqual(['look.json']);
    file.type(saved);
    expect(workspace.unsaved()).toEqual([]);
  });

  it('says what is wrong as one types, here and elsewhere in what makes the page', async () => {
    const { workspace, editor, until } = await opened({ file: 'pieces/price.html' });
    const problems = () =>
      problemsOf({ file: workspace.file.now, page: workspace.page.now, language: workspace.language.now });
    await until(() => workspace.language.now.problems !== null);
    expect(problems().here).toEqual([]);
    workspace.file.override();
    expect(workspace.typedProblems()).toBeNull();
    editor.change([{ from: 0, to: 0, text: '{prodduct.name}\n' }]);
    await until(() => problems().here.length > 0);
    expect(workspace.typedProblems()?.problems).toHaveLength(1);
    expect(problems().here[0]).toMatchObject({ code: 'name', file: 'pieces/price.html', line: 1 });
    workspace.open('product/default.html');
    await until(() => workspace.file.now.file?.path === 'product/default.html');
    await until(() => problems().elsewhere.some(({ file }) => file === 'pieces/price.html'));
    expect(problems().here).toEqual([]);
  });

  it('keeps the last good page while the open file cannot be read', async () => {
    const { workspace, editor, until } = await opened({ file: 'pieces/price.html' });
    const good = workspace.page.now.answer;
    workspace.file.override();
    editor.change([{ from: 0, to: 0, text: '<p do:if="' }]);
    await until(() => (workspace.page.now.answer?.broken ?? null) !== null);
    expect(workspace.page.now.answer).toMatchObject({ page: good?.page, broken: { file: 'pieces/price.html' } });
    editor.change([{ from: 0, to: 10, text: '' }]);
    await until(() => workspace.page.now.answer?.broken === null);
  });

  it('offers from within a piece its own element, and the draw that puts it there', async () => {
    const { workspace, editor } = await opened({ file: 'pieces/price.html' });
    editor.show(editor.text().indexOf('<span') + 1);
    expect(workspace.spot.now.levels.map(({ file, place }) => `${place.text} in ${file}`).slice(0, 3)).toEqual([
      'span in pieces/price.html',
      'p in pieces/price.html',
      'pieces/price in pieces/tile.html',
    ]);
  });

  it('changes a place of a file below by an amendment, shows it, and saves all as one change', async () => {
    const { workspace, editor, until, held, asked } = await opened({ file: 'pieces/price.html' });
    editor.show(editor.text().indexOf('<p') + 1);
    const [level] = workspace.spot.now.levels;
    if (!level) throw new RangeError('The caret is nowhere on the page.');
    const { file, layer, from } = level;
    await workspace.changes.doAt({ file, layer, from }, { kind: 'after', text: '<p>After it</p>' });
    expect(workspace.changes.now.told).toMatchObject({ wrong: false });
    const before = workspace.file.now.file?.path;
    await until(() => editor.text().includes('After it'));
    workspace.changes.keepText('pieces/own.html', '<p>Mine</p>');
    expect(workspace.changes.now.others).toEqual(['pieces/own.html']);
    const sent: string[] = [];
    held.before = (path) => void sent.push(path);
    asked.length = 0;
    expect(workspace.changes.now.told?.text).toContain('Save to keep it.');
    await workspace.saveAll();
    expect(workspace.changes.now.told).toBeNull();
    expect(asked.filter((one) => one === 'PUT file')).toHaveLength(2);
    expect(workspace.changes.now.others).toEqual([]);
    expect(workspace.file.now.file?.path).toBe(before);
    const response = await fetch('/api/drafts/spring/history', { method: 'GET' });
    const [change] = (await response.json()) as { files: { path: string }[] }[];
    expect(change?.files.map(({ path }) => path).sort()).toEqual(['pieces/own.html', before].sort());
  });

  it('renames an input wherever it is named', async () => {
    const { workspace, editor, until, said } = await opened({ file: 'pieces/price.html' });
    const offset = /<takes\s+name="/.exec(editor.text());
    if (!offset) throw new RangeError('pieces/price takes nothing.');
    workspace.panels.showTab('uses');
    editor.show(offset.index + offset[0].length + 1);
    await until(() => workspace.naming.now.thing !== null);
    const { thing } = workspace.naming.now;
    expect(thing?.thing.kind).toBe('input');
    if (thing) await workspace.naming.rename(thing, 'renamed');
    expect(said[0]).toContain('is called renamed now');
    expect(workspace.unsaved().length).toBeGreaterThan(1);
    expect(editor.text()).toContain('name="renamed"');
  });

  it('goes on by itself once the server answers again', async () => {
    const { workspace, editor, until, held } = await opened({ file: 'pieces/price.html' });
    held.before = () => Promise.reject(new TypeError('no connection'));
    workspace.file.override();
    editor.change([{ from: 0, to: 0, text: '<p>Later</p>' }]);
    await until(() => workspace.page.now.offline);
    await workspace.file.save();
    expect(workspace.file.now.file?.notice).toContain('Your text is kept in this browser.');
    held.before = () => {};
    await until(() => !workspace.page.now.offline);
    await workspace.file.save();
    expect(workspace.file.now.file).toMatchObject({ notice: null, saved: { text: editor.text() } });
  });
});
