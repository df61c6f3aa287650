import { spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { ESLint } from 'eslint';
import { afterAll, describe, expect, it } from 'vitest';

const root = process.cwd();
const planted = mkdtempSync(join(tmpdir(), 'last-rooms-'));
afterAll(() => rmSync(planted, { recursive: true, force: true }));

/** What the import check finds in a project of these files, as `rule: from → to`. */
function found(files: Record<string, string>): string[] {
  const project = mkdtempSync(join(planted, 'project-'));
  for (const name of ['.dependency-cruiser.cjs', 'tsconfig.json']) cpSync(join(root, name), join(project, name));
  symlinkSync(join(root, 'node_modules'), join(project, 'node_modules'));
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(project, path)), { recursive: true });
    writeFileSync(join(project, path), text);
  }
  const program = join(root, 'node_modules/.bin/depcruise');
  const args = ['--config', '.dependency-cruiser.cjs', '--output-type', 'json', 'src'];
  const { stdout } = spawnSync(program, args, { cwd: project, encoding: 'utf8', maxBuffer: 1e8 });
  const { summary } = JSON.parse(stdout) as {
    summary: { violations: { rule: { name: string }; from: string; to: string }[] };
  };
  return summary.violations.map(({ rule, from, to }) => `${rule.name}: ${from} → ${to}`).sort();
}

const value = 'export const one = 1;\n';

describe('the import check', () => {
  it.each([
    [
      'a ring of files',
      {
        'src/core/theme/a.ts': "import { b } from './b';\nexport const a = () => b;\n",
        'src/core/theme/b.ts': "import { a } from './a';\nexport const b = () => a;\n",
      },
      ['no-circles: src/core/theme/a.ts → src/core/theme/b.ts'],
    ],
    [
      'a ring of types',
      {
        'src/store/a.ts': "import type { B } from './b';\nexport interface A { b: B }\n",
        'src/store/b.ts': "import type { A } from './a';\nexport interface B { a: A }\n",
      },
      ['no-circles: src/store/a.ts → src/store/b.ts'],
    ],
    [
      'an import past the index of a slice',
      {
        'src/core/theme/one.ts': value,
        'src/core/storefront/page.ts': "export { one } from '@/core/theme/one';\n",
        'src/app/route.ts': "export { one } from '@/server/shop/one';\n",
        'src/server/shop/one.ts': value,
        'src/server/drafts/two.ts': "export { one } from '../shop/one';\n",
      },
      [
        'deep-import-from-outside: src/app/route.ts → src/server/shop/one.ts',
        'deep-import: src/core/storefront/page.ts → src/core/theme/one.ts',
        'deep-import: src/server/drafts/two.ts → src/server/shop/one.ts',
      ],
    ],
    [
      'an import past the index of the store',
      { 'src/store/rows.ts': value, 'src/server/shop/one.ts': "export { one } from '@/store/rows';\n" },
      ['deep-import-of-the-store: src/server/shop/one.ts → src/store/rows.ts'],
    ],
    [
      'an import upwards, between floors and inside the core',
      {
        'src/server/shop/index.ts': value,
        'src/store/rows.ts': "export { one } from '@/server/shop';\n",
        'src/core/inspect/index.ts': value,
        'src/core/language/a.ts': "export { one } from '@/core/inspect';\n",
      },
      [
        'core-language: src/core/language/a.ts → src/core/inspect/index.ts',
        'store: src/store/rows.ts → src/server/shop/index.ts',
      ],
    ],
    [
      'a package that reads files, in the core',
      { 'src/core/theme/a.ts': "export { join } from 'node:path';\n" },
      ['core-pure: src/core/theme/a.ts → path'],
    ],
    [
      'nothing else',
      {
        'src/core/theme/index.ts': value,
        'src/core/storefront/page.ts': "export { one } from '@/core/theme';\n",
        'src/core/storefront/page.test.ts': "import { one } from '../theme/deep';\nexport const two = one;\n",
        'src/core/theme/deep.ts': value,
      },
      [],
    ],
  ])('finds %s', (_, files, expected) => {
    expect(found(files)).toEqual([...expected].sort());
  });
});

describe('the lint', () => {
  const messages = async (path: string, code: string) => {
    const [result] = await new ESLint({ cwd: root }).lintText(code, { filePath: join(root, path) });
    return result?.messages.map(({ ruleId }) => ruleId);
  };
  const sql = "export const text = 'SELECT name FROM product WHERE slug = ?';\n";

  it('finds SQL outside src/store', async () => {
    expect(await messages('src/server/shop/one.ts', sql)).toEqual(['no-restricted-syntax']);
    expect(await messages('src/store/one.ts', sql)).toEqual([]);
  });
});

it('a file of more than 400 lines says why', () => {
  const { stdout } = spawnSync('git', ['ls-files', 'src', 'demo', 'e2e', 'bench', 'scripts'], { encoding: 'utf8' });
  const long = stdout
    .split('\n')
    .filter((path) => /\.(?:tsx?|mjs)$/.test(path) && existsSync(path))
    .map((path) => ({ path, text: readFileSync(path, 'utf8') }))
    .filter(({ text }) => text.split('\n').length > 401);
  expect(long.filter(({ text }) => !text.includes('Longer than most files: ')).map(({ path }) => path)).toEqual([]);
});
