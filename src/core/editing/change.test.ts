import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme/theme';
import { changeFor, NoChange, withText, type Action, type Target } from './change';

const layer = (kind: Layer['kind'], name: string, files: Record<string, string>): Layer => ({
  kind,
  name,
  version: '',
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: `${name} ${path} ${text}`, text }])),
});

const base = `<draw name="layouts/shop">
  <div class="buy">
    <p class="price" do:mark="price">{product.price}</p>
    <p class="stock" do:mark="stock">{product.stock}</p>
    <p class="note">One</p>
    <p class="note">Two <b>bold</b></p>
  </div>
</draw>
`;

const page = 'product/default.html';
const themeOf = (shop: Record<string, string> = {}, addOn: Record<string, string> = {}) =>
  new Theme([layer('base', 'Quay', { [page]: base }), layer('add-on', 'Find', addOn), layer('shop', '', shop)]);

const at = (text: string, part: string, of = 'Quay', file = page): Target => ({
  file,
  layer: of,
  from: text.indexOf(part),
});
const made = (theme: Theme, target: Target, action: Action) => changeFor(theme, target, action).changes;

/** The composed template as it would be printed, without what the language keeps to itself. */
function printed(theme: Theme, name = 'product/default'): string {
  const out: string[] = [];
  const walk = (nodes: NonNullable<ReturnType<Theme['template']>>['children']): void => {
    for (const node of nodes) {
      if (node.type === 'text') out.push(node.text);
      else if (node.type === 'value') out.push(node.source.slice(node.from, node.to));
      else if (node.type === 'element') {
        out.push(node.source.slice(node.from, node.openTo));
        walk(node.children);
        if (node.closeFrom < node.to) out.push(node.source.slice(node.closeFrom, node.to));
      }
    }
  };
  walk(theme.template(name)?.children ?? []);
  return out.join('').replace(/\s+/g, ' ');
}

describe('the smallest change', () => {
  it('is an amendment by mark where the element has one', () => {
    const [change] = made(themeOf(), at(base, '<p class="stock"'), { kind: 'after', text: '<p></p>' });
    expect(change).toMatchObject({ path: page, way: 'mark' });
    expect(change?.text).toBe('<amend>\n  <after mark="stock">\n    <p></p>\n  </after>\n</amend>\n');
    expect(change?.text.slice(0, change.caret)).toMatch(/<p>$/);
  });

  it('is an amendment by place where it has none', () => {
    const [change] = made(themeOf(), at(base, '<p class="note">Two'), { kind: 'remove' });
    expect(change).toMatchObject({ way: 'place', text: '<amend>\n  <remove at="draw > div > p:4">\n</amend>\n' });
    expect(printed(withText(themeOf(), page, change?.text ?? ''))).not.toContain('Two');
  });

  it('goes into the amendment that is there', () => {
    const own = '<amend>\n  <remove mark="price">\n</amend>\n';
    const [change] = made(themeOf({ [page]: own }), at(base, '<p class="stock"'), { kind: 'before', text: '<hr>' });
    expect(change?.text).toBe(
      '<amend>\n  <remove mark="price">\n  <before mark="stock">\n    <hr>\n  </before>\n</amend>\n',
    );
  });

  it('is in the shop’s own file where the element is the shop’s', () => {
    const own = '<main>\n  <p>One</p>\n</main>\n';
    const theme = themeOf({ [page]: own });
    const target = at(own, '<p>', '');
    const table: [Action, string][] = [
      [{ kind: 'before', text: '<hr>' }, '<main>\n  <hr>\n  <p>One</p>\n</main>\n'],
      [
        { kind: 'after', text: '<ul>\n  <li></li>\n</ul>' },
        '<main>\n  <p>One</p>\n  <ul>\n    <li></li>\n  </ul>\n</main>\n',
      ],
      [{ kind: 'replace', text: '<h2>Two</h2>' }, '<main>\n  <h2>Two</h2>\n</main>\n'],
      [{ kind: 'remove' }, '<main>\n</main>\n'],
      [{ kind: 'append', text: '<b>!</b>' }, '<main>\n  <p>One<b>!</b></p>\n</main>\n'],
    ];
    for (const [action, text] of table) expect(made(theme, target, action)).toMatchObject([{ way: 'edit', text }]);
    const outer = at(own, '<main>', '');
    expect(made(theme, outer, { kind: 'append', text: '<hr>' })[0]?.text).toBe(
      '<main>\n  <p>One</p>\n  <hr>\n</main>\n',
    );
    expect(made(theme, outer, { kind: 'prepend', text: '<hr>' })[0]?.text).toBe(
      '<main>\n  <hr>\n  <p>One</p>\n</main>\n',
    );
  });

  it('changes within a line what stands within one', () => {
    const own = '<p>a <b>b</b> c</p>';
    const target = at(own, '<b>', '');
    expect(made(themeOf({ [page]: own }), target, { kind: 'after', text: '<i>d</i>' })[0]?.text).toBe(
      '<p>a <b>b</b><i>d</i> c</p>',
    );
    expect(made(themeOf({ [page]: own }), target, { kind: 'remove' })[0]?.text).toBe('<p>a  c</p>');
  });

  it('is by mark where an add-on put the element in, and refused where nothing names it', () => {
    const addOn = '<amend>\n  <after mark="price"><em do:mark="seal">seal</em><i>none</i></after>\n</amend>\n';
    const theme = themeOf({}, { [page]: addOn });
    expect(made(theme, at(addOn, '<em', 'Find'), { kind: 'remove' })[0]?.text).toContain('<remove mark="seal">');
    expect(() => made(theme, at(addOn, '<i>', 'Find'), { kind: 'remove' })).toThrow(NoChange);
  });

  it('copies the file for the shop when asked', () => {
    expect(made(themeOf(), at(base, '<div'), { kind: 'override' })).toMatchObject([{ way: 'copy', text: base }]);
    expect(() => made(themeOf({ [page]: base }), at(base, '<div'), { kind: 'override' })).toThrow(/already/);
  });
});

describe('moving', () => {
  const move = (where: 'before' | 'after' | 'into', to: Target): Action => ({ kind: 'move', where, to });

  it('is one operation between marks', () => {
    const [change] = made(themeOf(), at(base, '<p class="stock"'), move('before', at(base, '<p class="price"')));
    expect(change?.text).toBe('<amend>\n  <move mark="stock" before="price">\n</amend>\n');
  });

  it('moves what the shop put in to another place, and leaves no empty operation', () => {
    const own = '<amend>\n  <after mark="stock">\n    <p class="lead">Lead</p>\n  </after>\n</amend>\n';
    const theme = themeOf({ [page]: own });
    const changes = made(theme, at(own, '<p class="lead"', ''), move('before', at(base, '<p class="price"')));
    expect(changes).toHaveLength(1);
    expect(changes[0]?.text).toBe(
      '<amend>\n  <before mark="price">\n    <p class="lead">Lead</p>\n  </before>\n</amend>\n',
    );
    expect(printed(withText(theme, page, changes[0]?.text ?? ''))).toMatch(/Lead.*class="price"/);
  });

  it('goes beside what has no mark by removing it and putting it there', () => {
    const changes = made(themeOf(), at(base, '<p class="price"'), move('after', at(base, '<p class="note">Two')));
    expect(changes).toHaveLength(1);
    const now = printed(withText(themeOf(), page, changes[0]?.text ?? ''));
    expect(now).toMatch(/Two <b>bold<\/b><\/p> <p class="price"/);
    expect(now.match(/class="price"/g)).toHaveLength(1);
  });

  it('moves within the shop’s own file, forward and back', () => {
    const own = '<main>\n  <h1>A</h1>\n  <p>B</p>\n  <hr>\n</main>\n';
    const theme = themeOf({ [page]: own });
    const forward = made(theme, at(own, '<h1>', ''), move('after', at(own, '<p>', '')));
    expect(forward[0]?.text).toBe('<main>\n  <p>B</p>\n  <h1>A</h1>\n  <hr>\n</main>\n');
    const back = made(theme, at(own, '<p>', ''), move('before', at(own, '<h1>', '')));
    expect(back[0]?.text).toBe('<main>\n  <p>B</p>\n  <h1>A</h1>\n  <hr>\n</main>\n');
  });

  it('is refused into itself', () => {
    expect(() => made(themeOf(), at(base, '<div'), move('into', at(base, '<p class="price"')))).toThrow(/into itself/);
    expect(() => made(themeOf(), at(base, '<div'), move('after', at(base, '<div')))).toThrow(/itself/);
  });
});

describe('a change on a page whose alternate amends the file', () => {
  const alternate = 'product/noted.html';
  const put: Action = { kind: 'after', text: '<p>Noted</p>' };
  it('goes into the alternate: who does not get it keeps what was', () => {
    const theme = themeOf({ [alternate]: '<amend of="product/default">\n</amend>\n' });
    const { changes, says } = changeFor(theme, at(base, '<p class="price"'), put, alternate);
    expect(changes.map(({ path, way }) => [path, way])).toEqual([[alternate, 'mark']]);
    expect(changes[0]?.text).toBe(
      '<amend of="product/default">\n  <after mark="price">\n    <p>Noted</p>\n  </after>\n</amend>\n',
    );
    expect(says).toContain('Who does not get this alternate keeps what was');
    const now = withText(theme, alternate, changes[0]?.text ?? '');
    expect(now.template('product/noted')?.problems).toEqual([]);
    expect(now.parts('product/noted').map((one) => one.path)).toEqual([page, alternate]);
  });
  it('goes there too where the shop has its own copy of the file, and as a move', () => {
    const empty = '<amend of="product/default">\n</amend>\n';
    const theme = themeOf({ [page]: base, [alternate]: empty });
    const own = (part: string) => at(base, part, '');
    const changes = (target: Target, action: Action) => changeFor(theme, target, action, alternate).changes;
    expect(changes(own('<p class="price"'), put)[0]).toMatchObject({ path: alternate, way: 'mark' });
    expect(changes(own('<p class="note">Two'), { kind: 'remove' })[0]).toMatchObject({ path: alternate, way: 'place' });
    const move: Action = { kind: 'move', where: 'before', to: own('<p class="price"') };
    for (const [given, of] of [
      [theme, ''],
      [themeOf({ [alternate]: empty }), 'Quay'],
    ] as const) {
      const to = at(base, '<p class="price"', of);
      const [moved, ...others] = changeFor(given, at(base, '<p class="stock"', of), { ...move, to }, alternate).changes;
      expect(others).toEqual([]);
      expect(moved).toMatchObject({
        path: alternate,
        text: '<amend of="product/default">\n  <move mark="stock" before="price">\n</amend>\n',
      });
      const now = withText(given, alternate, moved?.text ?? '');
      expect(now.template('product/noted')?.problems).toEqual([]);
    }
    // Beside what has no mark: removed and put there, both in the alternate.
    const beside: Action = { kind: 'move', where: 'after', to: own('<p class="note">Two') };
    const [both, ...more] = changes(own('<p class="stock"'), beside);
    expect([both?.path, more]).toEqual([alternate, []]);
    const now = withText(theme, alternate, both?.text ?? '');
    expect(now.template('product/noted')?.problems).toEqual([]);
    expect(printed(now, 'product/noted')).toMatch(/Two <b>bold<\/b><\/p> <p class="stock"/);
    expect(printed(now)).toMatch(/class="price".*class="stock".*One/);
  });
  it('goes into the file itself where the alternate is one of its own', () => {
    const theme = themeOf({ [alternate]: '<p>whole</p>' });
    expect(changeFor(theme, at(base, '<p class="price"'), put, alternate).changes[0]?.path).toBe(page);
  });
});

describe('an amendment of another template', () => {
  it('follows what it amends, and ends where two amend each other', () => {
    const two = themeOf({
      [page]: '<amend>\n<remove mark="stock">\n</amend>',
      'product/a.html': '<amend of="product/default"><before mark="price"><i>a</i></before></amend>',
      'product/b.html': '<amend of="product/a"><before mark="price"><i>b</i></before></amend>',
      'product/c.html': '<amend of="product/d"></amend>',
      'product/d.html': '<amend of="product/c"></amend>',
    });
    expect(two.parts('product/b').map((one) => `${one.layer.name} ${one.path}`)).toEqual([
      `Quay ${page}`,
      ` ${page}`,
      ' product/a.html',
      ' product/b.html',
    ]);
    expect(two.template('product/b')?.problems).toEqual([]);
    expect(two.check('product/c').some(({ code }) => code === 'amend')).toBe(true);
  });
});
